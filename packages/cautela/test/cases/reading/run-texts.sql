-- hazards: dead-filter null-blind rewrite-all weak-filter missing-else loose-or silent-cast escapes-view other-dialect unknown-name
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer, name varchar(20), price numeric(8,2) NOT NULL);
-- case: a filter, in a text that is run [tsql]
-- finds: 1 dead-filter ask
-- finds: 3 dead-filter ask
EXEC('DELETE FROM loaf WHERE kind = NULL')
EXEC('DELETE FROM loaf WHERE name = ''rye'' AND kind = NULL')
-- case: the same in Oracle [plsql]
-- finds: 2 dead-filter ask
BEGIN
  EXECUTE IMMEDIATE 'DELETE FROM loaf WHERE name = ''rye'' AND kind = NULL';
END;
/
-- case: the same in PostgreSQL [postgresql]
-- finds: 3 dead-filter ask
DO $$ BEGIN
  EXECUTE 'DELETE FROM loaf WHERE name = ''rye'' AND kind = NULL';
END $$;
-- case: the same in a block between quotes [postgresql]
-- finds: 2 dead-filter ask
DO 'BEGIN
  DELETE FROM loaf WHERE name = ''rye'' AND kind = NULL;
END';
-- case: prepared [mysql mariadb]
-- finds: 2 dead-filter ask
SET @q = 'DELETE FROM loaf WHERE name = ''rye'' AND kind = NULL';
PREPARE s FROM @q;
EXECUTE s;
-- case: asked for as it should be [tsql]
EXEC('DELETE FROM loaf WHERE loaf_id = 3 AND kind IS NULL')
-- case: a function for a filter, and a name for a key [tsql]
-- finds: 1 rewrite-all ask
-- finds: 3 weak-filter ask
EXEC('UPDATE loaf SET name = REPLACE(name, ''a'', ''b'')')
EXEC('UPDATE loaf SET kind = 1 WHERE name = ''rye''')
-- case: CASE and OR [tsql]
-- finds: 1 missing-else ask
-- finds: 3 loose-or ask
EXEC('UPDATE loaf SET kind = CASE name WHEN ''rye'' THEN 2 END WHERE price > 3')
EXEC('DELETE FROM loaf WHERE kind = 3 OR kind = 4 AND name = ''x''')
-- case: a view that a text makes is known afterwards [tsql]
-- finds: 3 escapes-view ask
DECLARE @q nvarchar(200) = 'CREATE VIEW rye AS ' + 'SELECT loaf_id, kind FROM loaf WHERE kind = 2'
EXEC (@q)
UPDATE rye SET kind = 3 WHERE loaf_id = 2
-- case: a column that a text adds is known afterwards [plsql]
BEGIN
  EXECUTE IMMEDIATE 'ALTER TABLE loaf ADD (seed varchar2(20) DEFAULT ''none'' NOT NULL)';
END;
/
UPDATE loaf SET seed = 'rye' WHERE loaf_id = 3;
-- case: and one that it does not add [plsql]
-- finds: 4 unknown-name stop
BEGIN
  EXECUTE IMMEDIATE 'ALTER TABLE loaf ADD (seed varchar2(20) DEFAULT ''none'' NOT NULL)';
END;
/
UPDATE loaf SET seeds = 'rye' WHERE loaf_id = 3;
-- case: a column that is not there, in a text [tsql]
-- finds: 1 unknown-name stop
EXEC('UPDATE loaf SET kinds = 2 WHERE loaf_id = 3')
-- case: packages of the engine that write no rows [plsql]
BEGIN
DBMS_OUTPUT.PUT_LINE('done');
END;
/
