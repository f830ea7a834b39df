-- hazards: unknown-name every-row
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10));
-- case: a routine that nobody knows is given the table by name [mysql mariadb]
CALL add_missing_column('berth', 'depth', 'int');
UPDATE berth SET depth = 3 WHERE berth_id = 1;
-- case: and another table [mysql mariadb]
-- finds: 1 unknown-name stop
CALL add_missing_column('vessel', 'depth', 'int');
UPDATE berth SET depth = 3 WHERE berth_id = 1;
-- case: a function that nobody knows [postgresql]
SELECT add_missing_column('berth', 'depth');
UPDATE berth SET depth = 3 WHERE berth_id = 1;
-- case: a text of constants [postgresql]
DO $$ BEGIN EXECUTE format('ALTER TABLE %I ADD COLUMN %I integer', 'berth', 'depth'); END $$;
UPDATE berth SET depth = 3;
-- case: a text of constants that adds something else [postgresql]
-- finds: 4 unknown-name stop
DO $$ BEGIN EXECUTE format('ALTER TABLE %I ADD COLUMN %I integer', 'berth', 'draught'); END $$;
UPDATE berth SET depth = 3 WHERE berth_id = 1;
-- case: a text that depends on the data [postgresql]
-- finds: 4 unknown-name ask
DO $$ DECLARE r record; BEGIN FOR r IN SELECT relname FROM pg_class WHERE relkind = 'r' LOOP EXECUTE 'ALTER TABLE ' || r.relname || ' ADD COLUMN noted date'; END LOOP; END $$;
UPDATE berth SET noted = CURRENT_DATE WHERE berth_id = 1;
-- case: a text that depends on the data and alters nothing [postgresql]
-- finds: 4 unknown-name stop
DO $$ DECLARE r record; BEGIN FOR r IN SELECT relname FROM pg_class WHERE relkind = 'r' LOOP EXECUTE 'ANALYZE ' || r.relname; END LOOP; END $$;
UPDATE berth SET noted = CURRENT_DATE WHERE berth_id = 1;
-- case: a text that is given in a branch [tsql]
DECLARE @s nvarchar(200);
IF COL_LENGTH('berth', 'depth') IS NULL SET @s = N'ALTER TABLE berth ADD depth int';
EXEC sp_executesql @s;
GO
UPDATE berth SET depth = 3;
-- case: one text or another [tsql]
-- finds: 10 unknown-name stop
DECLARE @s nvarchar(200), @n int = 1;
IF @n = 1 SET @s = N'ALTER TABLE berth ADD depth int' ELSE SET @s = N'ALTER TABLE berth ADD width int';
EXEC (@s);
GO
UPDATE berth SET depth = 3 WHERE berth_id = 1;
UPDATE berth SET draught = 3 WHERE berth_id = 1;
-- case: another column than the routine is given [mysql mariadb]
-- finds: 1 unknown-name stop
CALL add_missing_column('berth', 'depth', 'int');
UPDATE berth SET dept = 3 WHERE berth_id = 1;
-- case: the engine's own functions are given names and add nothing [postgresql]
-- finds: 1 unknown-name stop
SELECT pg_get_serial_sequence('berth', 'berth_id');
UPDATE berth SET depth = 3 WHERE berth_id = 1;
-- case: a procedure that is given the table alone [mysql mariadb]
CALL bring_up_to_date('berth');
UPDATE berth SET depth = 3 WHERE berth_id = 1;
