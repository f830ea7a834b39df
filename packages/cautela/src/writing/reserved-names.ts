/** Words that Jet reserves besides. */
export const RESERVED_BY_JET: ReadonlySet<string> = new Set(
  "alphanumeric counter currency guid image logical longbinary memo money oleobject owneraccess parameters short single string yesno byte position value text time timestamp datetime".split(
    " ",
  ),
);

/**
 * Words that at least one of the engines reserves, beyond those that the grammar needs: a name that is one of them is
 * quoted, which is right everywhere. PostgreSQL's manual, appendix C; MariaDB's `information_schema.KEYWORDS`; SQLite's
 * "SQL Keywords"; the lists of reserved words in the T-SQL, Oracle and Jet references.
 */
export const RESERVED_NAMES: ReadonlySet<string> = new Set(
  (
    "access accessible account action add admin after all alter analyse analyze and any array as asc asensitive asymmetric audit " +
    "authorization autoincrement backup before begin between bigint binary blob body both break browse bulk by call cascade case cast change " +
    "char character check checkpoint close cluster clustered coalesce collate collation column comment commit compress compute concurrently " +
    "condition connect constraint contains containstable continue convert create cross cube current current_catalog current_date " +
    "current_role current_schema current_time current_timestamp current_user cursor database databases date day_hour day_microsecond " +
    "day_minute day_second dbcc deallocate dec decimal declare default deferrable deferred delayed delete deny desc describe deterministic disk " +
    "distinct distinctrow distributed div do do_domain_ids double drop dual dummy dump each else elseif empty enclosed end errlvl escape escaped " +
    "except exclusive exec execute exists exit explain external false fetch file fillfactor float float4 float8 for force foreign freetext " +
    "freetexttable freeze from full fulltext function generated get general glob goto grant group grouping groups having hierarchyid high_priority " +
    "holdlock hour_microsecond hour_minute hour_second identified identity identitycol identity_insert if ignore ignore_domain_ids ilike immediate in increment " +
    "index indexed infile initial initially inner inout insensitive insert instead int int1 int2 int3 int4 int8 integer intersect interval into is isnull iterate join key " +
    "keys kill language lateral lead leading leave left level lightmemo like limit linear lineno lines load localtime localtimestamp lock long " +
    "longblob longtext loop low_priority master_ssl_verify_server_cert master_heartbeat_period match maxextents maxvalue mediumblob mediumint mediumtext merge middleint minus " +
    "minute_microsecond minute_second mlslabel mod mode modifies national natural nchar noaudit nocheck nocompress nonclustered not nothing notnull " +
    "no_write_to_binlog nowait ntext null nullif number numeric object of off offline offset offsets on online only open opendatasource " +
    "openquery openrowset openxml optimize option optionally or order others out outer outfile over overlaps partition pctfree percent " +
    "pivot placing plan pragma precision primary print prior privileges proc procedure public purge raise raiserror raw range read reads readtext " +
    "read_write real reconfigure recursive references ref_system_id regexp regexp_like release rename repeat replace replication require resignal resource restore restrict " +
    "return returning revert revoke right rlike rollback row rowcount rowguidcol rowid rownum rows row_number rule save schema schemas second_microsecond " +
    "securityaudit select semantickeyphrasetable sensitive separator session session_user set setuser share show shutdown signal similar size " +
    "smallint some spatial specific sql sqlexception sqlstate sqlwarning sql_big_result sql_calc_found_rows sql_small_result ssl start starting statistics stats_auto_recalc stats_persistent stats_sample_pages straight_join " +
    "successful symmetric synonym sysdate system system_user table tablesample temp temporary terminated textsize then tinyblob tinyint tinytext to top trailing " +
    "tran transaction transform trigger true truncate try_convert tsequal uid undo union unique unlock unpivot unsigned until update updatetext usage use user using utc_date utc_time " +
    "utc_timestamp vacuum validate values varbinary varchar varchar2 varcharacter variadic varying verbose view virtual waitfor when whenever where while window with within " +
    "without write writetext xor year_month zerofill"
  ).split(" "),
);
