-- hazards: no-way-back thin-backup backup-clash backup-dropped unproven-move hard-delete lossy-structure
-- tables
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, name varchar(20) NOT NULL);
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer NOT NULL, fee integer NOT NULL, day integer NOT NULL);
CREATE TABLE stay (stay_id integer PRIMARY KEY, mooring_id integer REFERENCES mooring (mooring_id), fee integer);
CREATE TABLE mooring_copy (mooring_id integer, vessel_id integer, fee integer, day integer);
CREATE TABLE tide_log (taken integer, level integer);
CREATE TABLE pilot (pilot_id integer PRIMARY KEY, status varchar(10) NOT NULL);
CREATE TABLE trip (trip_id integer PRIMARY KEY, pilot_id integer REFERENCES pilot (pilot_id));
-- case: an empty table afterwards: said with the other finding [postgresql mysql mariadb sqlite tsql plsql jet]
DELETE FROM vessel;
-- case: the other one is accepted, and this is not [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 no-way-back stop
-- cautela: accept every-row, the season is over
DELETE FROM vessel;
-- case: log data [postgresql mysql mariadb sqlite tsql plsql jet]
DELETE FROM tide_log;
-- case: a part of a table that others refer to [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
DELETE FROM mooring WHERE day < 9;
-- case: a part of a table that stands alone, and one row [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
DELETE FROM stay WHERE fee < 9;
DELETE FROM stay WHERE stay_id = 9;
-- case: a copy with the same filter, written another way [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day < 9;
DELETE FROM mooring WHERE mooring.day<9;
-- case: a copy of all rows [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE day < 9;
-- case: a copy by SELECT INTO [tsql]
SELECT * INTO mooring_before FROM mooring;
DELETE FROM mooring;
-- case: a copy by LIKE and INSERT [postgresql mysql mariadb]
CREATE TABLE mooring_before (LIKE mooring);
INSERT INTO mooring_before SELECT * FROM mooring;
DELETE FROM mooring;
-- case: a copy whose conditions are some of those of the change [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day < 9;
DELETE FROM mooring WHERE fee = 0 AND day < 9;
-- case: a copy of more values, a longer range, a list [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day IN (1, 2, 3);
DELETE FROM mooring WHERE day = 2 AND fee > 0;
CREATE TABLE mooring_save AS SELECT * FROM mooring WHERE day >= 4;
UPDATE mooring SET fee = 0 WHERE day BETWEEN 5 AND 7;
CREATE TABLE stay_before AS SELECT * FROM stay WHERE NOT (fee = 3);
DELETE FROM stay WHERE ((3 <> stay.fee));
-- case: a copy of fewer values [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day IN (1, 2);
DELETE FROM mooring WHERE day IN (1, 2, 3);
-- case: a copy of a shorter range [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day < 7;
DELETE FROM mooring WHERE day <= 7;
-- case: a copy of the other side [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE 7 > day;
DELETE FROM mooring WHERE 7 < day;
-- case: a copy with another filter [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE day < 8;
DELETE FROM mooring WHERE day < 9;
-- case: a copy of the structure alone [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup stop
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE 1 = 0;
DELETE FROM mooring;
-- case: a copy WITH NO DATA [postgresql]
-- finds: 0 thin-backup stop
CREATE TABLE mooring_before AS TABLE mooring WITH NO DATA;
DELETE FROM mooring;
-- case: a copy without the column that is overwritten [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT mooring_id, vessel_id FROM mooring;
UPDATE mooring SET fee = 0 WHERE day < 9;
-- case: a copy of the key and the column that is overwritten [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT mooring_id, fee FROM mooring;
UPDATE mooring SET fee = 0 WHERE day < 9;
-- case: a copy that comes too late [postgresql mysql mariadb sqlite plsql]
-- finds: 1 thin-backup ask
DELETE FROM mooring WHERE day < 9;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
-- case: a temporary copy [postgresql mysql mariadb sqlite]
-- finds: 0 thin-backup note
CREATE TEMPORARY TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE day < 9;
-- case: the rows that are deleted go into a table [postgresql]
WITH gone AS (DELETE FROM mooring WHERE day < 9 RETURNING *) INSERT INTO mooring_copy SELECT * FROM gone;
-- case: the rows that are deleted go into a table by OUTPUT [tsql]
DELETE FROM mooring OUTPUT deleted.* INTO mooring_copy WHERE day < 9;
-- case: the author says where the copy is [postgresql mysql mariadb sqlite tsql plsql jet]
-- cautela: backup last night's dump is kept for a month
DELETE FROM mooring WHERE day < 9;
-- case: a trial run [postgresql mysql mariadb sqlite]
BEGIN;
UPDATE mooring SET fee = 0 WHERE day < 9;
ROLLBACK;
-- case: a part that is rolled back to a savepoint [postgresql mysql mariadb sqlite]
-- finds: 2 no-way-back note
-- finds: 4 no-way-back note
BEGIN;
SAVEPOINT before;
DELETE FROM mooring WHERE day < 8;
ROLLBACK TO SAVEPOINT before;
DELETE FROM mooring WHERE day < 9;
COMMIT;
-- case: old values that the filter names are known [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE mooring SET fee = 5 WHERE fee = 0;
-- case: a dropped table [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 no-way-back stop
DROP TABLE vessel;
-- case: a table of the script's own is dropped [postgresql mysql mariadb sqlite tsql plsql jet]
CREATE TABLE helper (x integer);
DROP TABLE helper;
-- case: the copy is there already [postgresql mysql mariadb plsql]
-- finds: 0 backup-clash stop
CREATE TABLE IF NOT EXISTS mooring_copy AS SELECT * FROM mooring;
-- case: the copy has a new name [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_copy_2 AS SELECT * FROM mooring;
-- case: SELECT INTO a table that is there [tsql postgresql]
-- finds: 0 backup-clash stop
SELECT * INTO mooring_copy FROM mooring;
-- case: the copy is dropped after the change [postgresql mysql mariadb sqlite plsql]
-- finds: 2 backup-dropped ask
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE day < 9;
DROP TABLE mooring_before;
-- case: rows come back from the copy, which is dropped then [postgresql mysql mariadb sqlite plsql]
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring;
INSERT INTO mooring (mooring_id, vessel_id, fee, day) SELECT mooring_id, vessel_id, fee, day FROM mooring_before;
DROP TABLE mooring_before;
-- case: a move whose halves differ [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 unproven-move stop
INSERT INTO mooring_copy (mooring_id, vessel_id, fee, day) SELECT mooring_id, vessel_id, fee, day FROM mooring WHERE day < 8;
DELETE FROM mooring WHERE day < 9;
-- case: a move whose halves agree [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO mooring_copy (mooring_id, vessel_id, fee, day) SELECT mooring_id, vessel_id, fee, day FROM mooring WHERE day < 9;
DELETE FROM mooring WHERE day < 9;
-- case: a pilot has a status [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 hard-delete note
-- finds: 0 no-way-back note
DELETE FROM pilot WHERE pilot_id = 4;
-- case: several pilots [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 hard-delete ask
-- finds: 0 no-way-back note
DELETE FROM pilot WHERE status = 'gone';
-- case: a column is dropped with its values [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 lossy-structure ask
ALTER TABLE mooring DROP COLUMN fee;
-- case: the column's values have moved into another one [postgresql mysql mariadb sqlite]
ALTER TABLE mooring ADD COLUMN price integer;
UPDATE mooring SET price = fee;
ALTER TABLE mooring DROP COLUMN fee;
-- case: a shorter text, a wider one [postgresql]
-- finds: 0 lossy-structure ask
ALTER TABLE vessel ALTER COLUMN name TYPE varchar(10);
ALTER TABLE vessel ALTER COLUMN name TYPE varchar(90);
-- case: a shorter text, a wider one in mysql and tsql [mysql mariadb]
-- finds: 0 lossy-structure ask
ALTER TABLE vessel MODIFY name varchar(10) NOT NULL;
ALTER TABLE vessel MODIFY name varchar(90) NOT NULL;
-- case: a rebuild that leaves rows out [postgresql sqlite]
-- finds: 1 lossy-structure stop
CREATE TABLE vessel_new AS SELECT * FROM vessel WHERE name <> 'wreck';
DROP TABLE vessel;
ALTER TABLE vessel_new RENAME TO vessel;
-- case: a rebuild of all rows [postgresql sqlite]
CREATE TABLE vessel_new AS SELECT * FROM vessel;
DROP TABLE vessel;
ALTER TABLE vessel_new RENAME TO vessel;
-- case: rows of another kind, made from some of these [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back note
INSERT INTO stay (stay_id, mooring_id, fee) SELECT mooring_id + 1000, mooring_id, 0 FROM mooring WHERE day < 8;
DELETE FROM mooring WHERE day < 9;
-- case: a copy that is made for a later change [postgresql mysql sqlite]
-- finds: 0 no-way-back note
DELETE FROM mooring WHERE fee = 0;
CREATE TABLE mooring_archive AS SELECT * FROM mooring WHERE day < 8;
DELETE FROM mooring WHERE day < 8;
-- case: a copy that is made for a column that goes [postgresql mysql sqlite]
-- finds: 0 no-way-back note
DELETE FROM mooring WHERE fee = 0;
CREATE TABLE mooring_bak_2026 AS SELECT * FROM mooring;
ALTER TABLE mooring DROP COLUMN fee;
-- case: a copy that comes too late, and nothing else follows [postgresql mysql sqlite]
-- finds: 1 thin-backup ask
DELETE FROM mooring WHERE fee = 0;
CREATE TABLE mooring_bak_2026 AS SELECT * FROM mooring;
-- case: a column goes of which the copy holds some rows [postgresql mysql sqlite]
-- finds: 2 lossy-structure ask
CREATE TABLE mooring_bak AS SELECT * FROM mooring WHERE day < 8;
DELETE FROM mooring WHERE day < 8;
ALTER TABLE mooring DROP COLUMN fee;
-- case: a column goes of which the copy holds every value [postgresql mysql sqlite]
CREATE TABLE fees AS SELECT mooring_id, fee FROM mooring WHERE fee IS NOT NULL;
ALTER TABLE mooring DROP COLUMN fee;
-- case: a column by which the rows were picked [postgresql mysql sqlite]
-- finds: 1 lossy-structure ask
CREATE TABLE fees AS SELECT mooring_id, fee FROM mooring WHERE day > 3;
ALTER TABLE mooring DROP COLUMN day;
-- case: a rebuild that gives a value where there was none, and makes another type of one [sqlite]
CREATE TABLE mooring_new (mooring_id integer PRIMARY KEY, vessel_id integer, fee integer NOT NULL, day text);
INSERT INTO mooring_new (mooring_id, vessel_id, fee, day) SELECT mooring_id, vessel_id, COALESCE(fee, 0), CAST(day AS text) FROM mooring;
DROP TABLE mooring;
ALTER TABLE mooring_new RENAME TO mooring;
-- case: a rebuild that leaves a column out [sqlite]
-- finds: 1 thin-backup ask
CREATE TABLE mooring_new (mooring_id integer PRIMARY KEY, vessel_id integer, day text);
INSERT INTO mooring_new (mooring_id, vessel_id, day) SELECT mooring_id, vessel_id, CAST(day AS text) FROM mooring;
DROP TABLE mooring;
ALTER TABLE mooring_new RENAME TO mooring;
