-- hazards: broken-transaction every-row guard-off
-- tables
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, fee integer NOT NULL);
-- case: what PostgreSQL takes in no transaction [postgresql]
-- finds: 1 broken-transaction stop
-- finds: 2 broken-transaction stop
-- finds: 3 broken-transaction stop
-- finds: 4 broken-transaction stop
BEGIN;
VACUUM mooring;
CREATE INDEX CONCURRENTLY fees ON mooring (fee);
REINDEX TABLE CONCURRENTLY mooring;
CREATE DATABASE other;
COMMIT;
-- case: outside of it, and in plain form [postgresql]
VACUUM mooring;
CREATE INDEX CONCURRENTLY fees ON mooring (fee);
BEGIN;
CREATE INDEX more_fees ON mooring (fee);
REINDEX TABLE mooring;
COMMIT;
-- case: what SQLite takes in none [sqlite]
-- finds: 1 broken-transaction stop
BEGIN;
VACUUM;
COMMIT;
-- case: what SQL Server takes in none [tsql]
-- finds: 1 broken-transaction stop
-- finds: 2 broken-transaction stop
BEGIN TRANSACTION;
ALTER DATABASE harbour SET RECOVERY SIMPLE;
BACKUP DATABASE harbour TO DISK = 'harbour.bak';
COMMIT;
-- case: a setting that does nothing there [sqlite]
-- finds: 1 broken-transaction ask
-- finds: 3 broken-transaction ask
BEGIN;
PRAGMA foreign_keys = OFF;
UPDATE mooring SET fee = 3 WHERE mooring_id = 3;
PRAGMA foreign_keys = ON;
COMMIT;
-- case: it is asked for, and not set [sqlite]
PRAGMA foreign_keys;
BEGIN;
PRAGMA foreign_keys;
UPDATE mooring SET fee = 3 WHERE mooring_id = 3;
COMMIT;
-- case: before it and after it [sqlite]
-- finds: 0 guard-off ask
PRAGMA foreign_keys = OFF;
BEGIN;
UPDATE mooring SET fee = 3 WHERE mooring_id = 3;
COMMIT;
PRAGMA foreign_keys = ON;
-- case: Oracle is always in one, and this is rolled back [plsql]
-- finds: 0 every-row note
UPDATE mooring SET fee = 3;
ROLLBACK;
-- case: it was committed before [plsql]
-- finds: 0 every-row stop
UPDATE mooring SET fee = 3;
COMMIT;
ROLLBACK;
-- case: DDL has committed it before [plsql]
-- finds: 0 every-row stop
-- finds: 1 broken-transaction stop
UPDATE mooring SET fee = 3;
ALTER TABLE mooring ADD (quay varchar2(9));
ROLLBACK;
-- case: DDL between changes that are committed [plsql]
-- finds: 0 every-row stop
UPDATE mooring SET fee = 3;
ALTER TABLE mooring ADD (quay varchar2(9));
COMMIT;
-- case: only a handler rolls back [plsql]
-- finds: 1 every-row stop
BEGIN
UPDATE mooring SET fee = 3;
EXCEPTION WHEN OTHERS THEN ROLLBACK; RAISE;
END;
/
-- case: a loop has committed before [plsql]
-- finds: 0 every-row stop
UPDATE mooring SET fee = 3;
BEGIN
FOR i IN 1 .. 3 LOOP COMMIT; END LOOP;
END;
/
ROLLBACK;
