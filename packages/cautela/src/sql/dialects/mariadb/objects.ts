import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: MariaDB manual, SQL statements. */
export const mariadbObjects = objectWords(
  "catalog database event function index instance logfile package prepare procedure role schema sequence " +
    "server spatial table tables tablespace trigger user view views",
  "aggregate algorithm definer fulltext ignore offline online or sql temporary undo vector",
);

/** The first words of what ALTER TABLE does. */
export const mariadbTableActions = words(
  "add algorithm alter analyze auto_increment avg_row_length change character charset check checksum " +
    "coalesce collate comment connection convert data default delay_key_write disable discard drop enable " +
    "encrypted encryption encryption_key_id engine exchange force ietf_quotes import index insert_method " +
    "key_block_size lock max_rows min_rows modify nowait optimize order pack_keys page_checksum " +
    "page_compressed page_compression_level partition password rebuild remove rename reorganize repair " +
    "row_format sequence start stats_auto_recalc stats_persistent stats_sample_pages storage tablespace " +
    "transactional truncate type union wait with without",
);

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const mariadbClauseWords = words(
  "ascii clustering column_format compressed distance encrypted ignored invisible key_block_size m persistent ref_system_id srid unicode versioning",
);
