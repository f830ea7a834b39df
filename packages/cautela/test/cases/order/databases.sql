-- hazards: unknown-name early-use already-there backup-clash wrong-database
-- tables
CREATE TABLE dbo.berth (berth_id int NOT NULL PRIMARY KEY, code varchar(10));
-- case: a column of another database's table is not ours to know [tsql]
-- finds: 1 wrong-database ask
USE harbour;
DELETE FROM archive.dbo.berth WHERE kept_since < '20200101';
-- case: the table of this database, under its whole name [tsql]
-- finds: 1 unknown-name stop
USE harbour;
DELETE FROM harbour.dbo.berth WHERE kept_since < '20200101';
-- case: the schema left out [tsql]
-- finds: 1 unknown-name stop
USE harbour;
DELETE FROM harbour..berth WHERE kept_since < '20200101';
-- case: dropped there, read here [tsql]
-- finds: 1 wrong-database ask
USE harbour;
DROP TABLE archive.dbo.berth;
SELECT code FROM dbo.berth;
-- case: dropped here, read here [tsql]
-- finds: 2 early-use stop
USE harbour;
DROP TABLE harbour.dbo.berth;
SELECT code FROM dbo.berth;
-- case: made in the other database, used there [tsql]
-- finds: 4 unknown-name stop
USE harbour;
USE archive;
CREATE TABLE dbo.crane (crane_id int NOT NULL PRIMARY KEY, code varchar(10));
UPDATE crane SET code = 'N' WHERE crane_id = 3;
UPDATE crane SET cod = 'N' WHERE crane_id = 3;
-- case: a table of the same name in both [tsql]
USE harbour;
USE archive;
CREATE TABLE dbo.berth (berth_id int NOT NULL PRIMARY KEY, moved_on date);
UPDATE berth SET moved_on = '20260101' WHERE berth_id = 3;
USE harbour;
UPDATE berth SET code = 'N' WHERE berth_id = 3;
-- case: begun in a database of the engine [tsql]
-- finds: 2 unknown-name stop
USE master;
USE harbour;
DELETE FROM dbo.berth WHERE kept_since < '20200101';
