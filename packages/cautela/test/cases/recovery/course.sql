-- hazards: unwrapped open-transaction broken-transaction runs-on-after-error guard-off guard-left-off wrong-database sleeping-statement expect-mismatch check-differs dropped-rows
-- tables
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee integer NOT NULL);
CREATE TABLE past (mooring_id integer, status varchar(20), fee integer);
CREATE TABLE moorings (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee integer NOT NULL);
-- case: a transaction without an end [postgresql sqlite tsql]
-- finds: 0 open-transaction ask
BEGIN TRANSACTION;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: the words on two lines, and one inside the other [tsql]
-- finds: 0 open-transaction ask
BEGIN
TRANSACTION
BEGIN TRAN inner_one
UPDATE mooring SET fee = 1 WHERE mooring_id = 3
COMMIT TRAN inner_one
-- case: both are ended [tsql]
BEGIN TRAN
BEGIN TRAN
UPDATE mooring SET fee = 1 WHERE mooring_id = 3
COMMIT
COMMIT
-- case: back to a savepoint leaves the transaction open [tsql]
-- finds: 0 open-transaction ask
BEGIN TRAN
SAVE TRAN before_fees
UPDATE mooring SET fee = 1 WHERE mooring_id = 3
ROLLBACK TRAN before_fees
UPDATE mooring SET fee = 2 WHERE mooring_id = 4
-- case: back to the beginning, by name [tsql]
BEGIN TRAN fees
UPDATE mooring SET fee = 1 WHERE mooring_id = 3
ROLLBACK TRAN fees
-- case: a transaction without an end in mysql [mysql mariadb]
-- finds: 0 open-transaction ask
START TRANSACTION;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: one that only looks, and one that ends [postgresql sqlite]
BEGIN;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
COMMIT;
BEGIN;
SELECT count(*) FROM mooring;
-- case: structure commits in the middle [mysql mariadb]
-- finds: 2 broken-transaction stop
START TRANSACTION;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
CREATE TABLE x (y int);
ROLLBACK;
-- case: structure is rolled back with the rest [postgresql sqlite]
BEGIN;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
CREATE TABLE x (y int);
ROLLBACK;
-- case: a temporary table commits nothing [mysql mariadb]
START TRANSACTION;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
CREATE TEMPORARY TABLE x (y int);
COMMIT;
-- case: a move in two statements, of which the second runs whatever becomes of the first [postgresql tsql]
-- finds: 0 unwrapped note
-- finds: 1 runs-on-after-error note
INSERT INTO past (mooring_id, status, fee) SELECT mooring_id, status, fee FROM mooring WHERE fee = 0;
DELETE FROM mooring WHERE fee = 0;
-- case: a move in two statements [mysql mariadb sqlite]
-- finds: 0 unwrapped note
INSERT INTO past (mooring_id, status, fee) SELECT mooring_id, status, fee FROM mooring WHERE fee = 0;
DELETE FROM mooring WHERE fee = 0;
-- case: a move in one transaction [postgresql sqlite]
BEGIN;
INSERT INTO past (mooring_id, status, fee) SELECT mooring_id, status, fee FROM mooring WHERE fee = 0;
DELETE FROM mooring WHERE fee = 0;
COMMIT;
-- case: it is told to go on [postgresql]
-- finds: 0 runs-on-after-error ask
\set ON_ERROR_STOP off
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
UPDATE mooring SET fee = 2 WHERE mooring_id = 4;
-- case: it is told to stop [postgresql]
\set ON_ERROR_STOP on
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE fee = 0;
-- case: a change that counts on a copy [postgresql]
-- finds: 1 runs-on-after-error note
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE fee = 0;
-- case: foreign keys are off for a change, and on again [mysql mariadb]
-- finds: 0 guard-off ask
SET FOREIGN_KEY_CHECKS = 0;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
SET FOREIGN_KEY_CHECKS = 1;
-- case: they are off while the script fills its own tables [mysql mariadb]
-- finds: 0 guard-off note
SET FOREIGN_KEY_CHECKS = 0;
CREATE TABLE a (b int);
INSERT INTO a VALUES (1);
SET FOREIGN_KEY_CHECKS = 1;
-- case: they are switched on, which is no guard off [mysql mariadb]
SET FOREIGN_KEY_CHECKS = 1;
-- case: sqlite's foreign keys are off [sqlite]
-- finds: 0 guard-left-off note
-- finds: 0 guard-off ask
PRAGMA foreign_keys = OFF;
DELETE FROM mooring WHERE fee = 0;
-- case: a constraint stays off [tsql]
-- finds: 0 guard-left-off ask
-- finds: 0 guard-off note
ALTER TABLE mooring NOCHECK CONSTRAINT ALL;
-- case: a constraint is on again, unlooked [tsql]
-- finds: 0 guard-off ask
-- finds: 2 guard-left-off note
ALTER TABLE mooring NOCHECK CONSTRAINT ALL;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
ALTER TABLE mooring CHECK CONSTRAINT ALL;
-- case: another database [mysql mariadb]
-- finds: 1 wrong-database ask
USE harbour_test;
DELETE FROM harbour.mooring WHERE mooring_id = 3;
-- case: another database in tsql [tsql]
-- finds: 1 wrong-database ask
USE harbour_test;
DELETE FROM harbour.dbo.mooring WHERE mooring_id = 3;
-- case: the schema is not the database [tsql]
USE harbour;
DELETE FROM dbo.mooring WHERE mooring_id = 3;
-- case: a statement sleeps in a comment [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sleeping-statement note
/* TRUNCATE TABLE mooring; */
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: a statement sleeps after the last one [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sleeping-statement note
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- UPDATE mooring
--    SET fee = 0;
-- case: words in prose, a filtered change, a restore written down [postgresql mysql mariadb sqlite tsql plsql]
-- delete the old ones first; update mooring later, drop table talk
-- DELETE FROM mooring WHERE mooring_id = 4;
-- INSERT INTO mooring SELECT * FROM past;
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: more rows expected than there can be [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 expect-mismatch ask
-- cautela: expect 7 rows
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: expectations that can be met [postgresql mysql mariadb sqlite tsql plsql]
-- cautela: expect at most 7 rows
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- cautela: expect 12 rows
UPDATE mooring SET fee = 1 WHERE status = 'left';
-- cautela: expect 2 rows
INSERT INTO past (mooring_id, fee) VALUES (1, 2), (3, 4);
-- case: another number of rows written out [postgresql mysql mariadb sqlite tsql]
-- finds: 0 expect-mismatch ask
-- cautela: expect 3 rows
INSERT INTO past (mooring_id, fee) VALUES (1, 2), (3, 4);
-- case: a pasted count [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 expect-mismatch note
-- 13 rows affected
UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
-- case: the look before has OR where the change has AND [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 check-differs ask
SELECT count(*) FROM mooring WHERE status = 'left' OR fee = 0;
DELETE FROM mooring WHERE status = 'left' AND fee = 0;
-- case: the look before is at a table with a similar name [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 check-differs ask
SELECT * FROM moorings WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
-- case: the same look, written another way, and a look at something else [postgresql mysql mariadb sqlite tsql plsql]
SELECT m.mooring_id FROM mooring m WHERE m.status='left';
DELETE FROM mooring WHERE status = 'left';
SELECT count(*) FROM mooring WHERE fee > 100;
DELETE FROM mooring WHERE status = 'cancelled';
-- case: the same look in other words [postgresql mysql mariadb sqlite tsql plsql]
SELECT mooring_id FROM mooring WHERE fee IN (3) AND NOT (status = 'left');
DELETE FROM mooring WHERE (('left' <> status) AND 3 = fee);
-- case: the look has the other end of the range [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 check-differs ask
SELECT mooring_id FROM mooring WHERE fee < 100;
DELETE FROM mooring WHERE fee > 100;
-- case: a look at what the words of a string name [postgresql mysql mariadb sqlite tsql plsql]
SELECT mooring_id FROM mooring WHERE status = 'fee';
DELETE FROM mooring WHERE fee = 3 AND status = 'left' OR fee = 4;
-- case: rows left out silently [mysql mariadb]
-- finds: 0 dropped-rows ask
INSERT IGNORE INTO mooring (mooring_id, status, fee) SELECT mooring_id, status, fee FROM past;
-- case: any conflict at all [postgresql sqlite]
-- finds: 0 dropped-rows note
INSERT INTO mooring (mooring_id, status, fee) VALUES (1, 'left', 2) ON CONFLICT DO NOTHING;
-- case: the conflict is named [postgresql sqlite]
INSERT INTO mooring (mooring_id, status, fee) VALUES (1, 'left', 2) ON CONFLICT (mooring_id) DO NOTHING;
-- case: errors are caught and forgotten [plsql]
-- finds: 0 dropped-rows ask
BEGIN
  UPDATE mooring SET fee = 1 WHERE mooring_id = 3;
EXCEPTION WHEN OTHERS THEN NULL;
END;
/
