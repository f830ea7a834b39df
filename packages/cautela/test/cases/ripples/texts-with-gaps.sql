-- hazards: opaque-code guard-left-off every-row
-- tables
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, fee integer, harbour_id integer);
CREATE TABLE catchup (text varchar(400));
-- case: tables are emptied in a loop [postgresql]
-- finds: 3 opaque-code ask
DO $$ DECLARE r record; BEGIN
FOR r IN SELECT tablename FROM pg_tables LOOP EXECUTE format('TRUNCATE TABLE %I CASCADE', r.tablename); END LOOP;
END $$;
-- case: they are emptied by DELETE, put together [postgresql]
-- finds: 3 opaque-code ask
DO $$ DECLARE r record; BEGIN
FOR r IN SELECT tablename FROM pg_tables LOOP EXECUTE 'DELETE FROM ' || quote_ident(r.tablename); END LOOP;
END $$;
-- case: dropped in a loop [plsql]
-- finds: 2 opaque-code ask
BEGIN
FOR t IN (SELECT table_name FROM user_tables) LOOP EXECUTE IMMEDIATE 'DROP TABLE ' || t.table_name || ' CASCADE CONSTRAINTS'; END LOOP;
END;
/
-- case: a column of them is dropped [plsql]
-- finds: 2 opaque-code ask
BEGIN
FOR t IN (SELECT table_name FROM user_tables) LOOP EXECUTE IMMEDIATE 'ALTER TABLE ' || t.table_name || ' DROP COLUMN fee'; END LOOP;
END;
/
-- case: gathered in a variable [tsql]
-- finds: 2 opaque-code ask
DECLARE @sql nvarchar(max) = N'';
SELECT @sql += N'DROP TABLE ' + QUOTENAME(name) + N';' FROM sys.tables;
EXEC sp_executesql @sql;
-- case: only part of the name is known [tsql]
-- finds: 2 opaque-code ask
DECLARE @year nvarchar(4);
SET @year = YEAR(GETDATE());
EXEC (N'TRUNCATE TABLE Mooring_' + @year);
-- case: put into a pattern [tsql]
-- finds: 2 opaque-code ask
DECLARE @table sysname;
SELECT @table = name FROM sys.tables WHERE object_id = 7;
EXEC (REPLACE(N'DELETE FROM {t}', N'{t}', @table));
-- case: constraints that go are no rows [tsql]
-- finds: 2 opaque-code note
DECLARE @sql nvarchar(max) = N'';
SELECT @sql = @sql + N'ALTER TABLE Mooring DROP CONSTRAINT ' + QUOTENAME(name) + N';' FROM sys.default_constraints;
EXEC (@sql);
-- case: prepared [mysql mariadb]
-- finds: 1 opaque-code ask
SET @q = CONCAT('DELETE FROM ', @table);
PREPARE s FROM @q;
EXECUTE s;
-- case: the filter is put together [postgresql]
-- finds: 2 opaque-code note
DO $$ BEGIN EXECUTE 'DELETE FROM mooring ' || current_setting('my.filter'); END $$;
-- case: the filter is there, and its value is not [postgresql]
-- finds: 2 opaque-code note
DO $$ BEGIN EXECUTE format('DELETE FROM mooring WHERE mooring_id = %L', current_setting('my.id')); END $$;
-- case: a column that is added to each and filled [postgresql]
-- finds: 3 opaque-code note
-- finds: 4 opaque-code note
DO $$ DECLARE r record; BEGIN
FOR r IN SELECT tablename FROM pg_tables LOOP
EXECUTE format('ALTER TABLE %I ADD COLUMN harbour integer', r.tablename);
EXECUTE format('UPDATE %I SET harbour = 1', r.tablename);
END LOOP;
END $$;
-- case: an old column that is filled [postgresql]
-- finds: 3 opaque-code ask
DO $$ DECLARE r record; BEGIN
FOR r IN SELECT tablename FROM pg_tables LOOP EXECUTE format('UPDATE %I SET harbour = 1', r.tablename); END LOOP;
END $$;
-- case: scratch tables [postgresql]
-- finds: 3 opaque-code note
DO $$ DECLARE r record; BEGIN
FOR r IN SELECT n FROM generate_series(1, 9) AS n LOOP EXECUTE format('DROP TABLE tmp_%s', r.n); END LOOP;
END $$;
-- case: triggers that stay off [plsql]
-- finds: 2 guard-left-off ask
-- finds: 2 opaque-code note
BEGIN
FOR t IN (SELECT table_name FROM user_tables) LOOP EXECUTE IMMEDIATE 'ALTER TABLE ' || t.table_name || ' DISABLE ALL TRIGGERS'; END LOOP;
END;
/
-- case: and are put on again [plsql]
-- finds: 2 opaque-code note
-- finds: 4 opaque-code note
BEGIN
FOR t IN (SELECT table_name FROM user_tables) LOOP EXECUTE IMMEDIATE 'ALTER TABLE ' || t.table_name || ' DISABLE ALL TRIGGERS'; END LOOP;
FOR t IN (SELECT table_name FROM user_tables) LOOP EXECUTE IMMEDIATE 'ALTER TABLE ' || t.table_name || ' ENABLE ALL TRIGGERS'; END LOOP;
END;
/
-- case: the text is chosen from a table meanwhile [plsql]
-- finds: 3 opaque-code note
DECLARE v_sql varchar2(400);
BEGIN
v_sql := 'DELETE FROM mooring';
SELECT text INTO v_sql FROM catchup;
EXECUTE IMMEDIATE v_sql;
END;
/
-- case: a routine may have written it [plsql]
-- finds: 2 opaque-code note
-- finds: 3 opaque-code note
DECLARE v_sql varchar2(400);
BEGIN
v_sql := 'DELETE FROM mooring';
make_text(v_sql);
EXECUTE IMMEDIATE v_sql;
END;
/
-- case: fetched [tsql]
-- finds: 4 opaque-code note
DECLARE @s nvarchar(max) = N'DELETE FROM Mooring';
DECLARE c CURSOR FOR SELECT text FROM catchup;
OPEN c;
FETCH NEXT FROM c INTO @s;
EXEC (@s);
-- case: written by OUTPUT, and read by another call [tsql]
-- finds: 1 opaque-code note
-- finds: 2 opaque-code note
-- finds: 4 opaque-code note
-- finds: 6 every-row stop
DECLARE @s nvarchar(max) = N'DELETE FROM Mooring';
EXEC make_text @text = @s OUTPUT;
EXEC (@s);
SET @s = N'DELETE FROM Mooring';
EXEC note_it @s;
EXEC (@s);
-- case: selected into the variable [mysql mariadb]
-- finds: 2 every-row stop
SELECT @q := 'DELETE FROM mooring';
PREPARE s FROM @q;
-- case: compared with the variable, and not assigned [mysql mariadb]
SET @q = 'SELECT 1';
SELECT @q = 'DELETE FROM mooring';
PREPARE s FROM @q;
EXECUTE s;
-- case: a SELECT that assigns [tsql]
-- finds: 3 every-row stop
DECLARE @s nvarchar(max);
SELECT @s = N'DELETE FROM Mooring';
EXEC (@s);
