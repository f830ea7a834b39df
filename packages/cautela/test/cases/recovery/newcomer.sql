-- hazards: no-way-back thin-backup dropped-rows drifts-on-rerun reruns-badly null-blind loose-insert check-differs
-- no catalog
-- case: a temporary table, dropped before it is made [tsql]
IF OBJECT_ID('tempdb..#Twin') IS NOT NULL DROP TABLE #Twin;
SELECT OwnerId INTO #Twin FROM Owner;
-- case: an archive takes the rows that go, and is no copy for other changes [postgresql mysql sqlite tsql plsql jet]
-- finds: 2 no-way-back note
INSERT INTO mooring_past (mooring_id, fee) SELECT mooring_id, fee FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
UPDATE mooring SET note = 'x' WHERE quay = 'N';
-- case: a raise whose filter the next statement clears [postgresql mysql sqlite tsql plsql jet]
-- finds: 0 drifts-on-rerun note
-- finds: 0 no-way-back note
UPDATE tariff SET rate = rate * 1.19 WHERE kind = 'net';
UPDATE tariff SET kind = 'gross' WHERE kind = 'net';
-- case: only some of them are cleared [postgresql mysql sqlite tsql plsql jet]
-- finds: 0 drifts-on-rerun ask
-- finds: 0 no-way-back note
UPDATE tariff SET rate = rate * 1.19 WHERE kind = 'net';
UPDATE tariff SET kind = 'gross' WHERE kind = 'net' AND class = 'sail';
-- case: they keep what the filter asks [postgresql mysql sqlite tsql plsql jet]
-- finds: 0 drifts-on-rerun ask
-- finds: 0 no-way-back note
UPDATE tariff SET rate = rate * 1.19 WHERE kind = 'net';
UPDATE tariff SET kind = 'net' WHERE kind = 'net';
-- case: a rebuild makes its table anew at each run [postgresql mysql sqlite]
-- finds: 2 no-way-back ask
CREATE TABLE tariff_new (tariff_id integer PRIMARY KEY, rate integer);
ALTER TABLE tariff_new ADD COLUMN class varchar(9);
DROP TABLE tariff;
ALTER TABLE tariff_new RENAME TO tariff;
-- case: the list of a table whose columns nobody knows [postgresql]
-- finds: 2 loose-insert note
ALTER TABLE invoice RENAME TO invoice_past;
CREATE TABLE invoice (LIKE invoice_past);
INSERT INTO invoice SELECT * FROM invoice_past WHERE issued_on > '2026-01-01';
-- case: NOT IN a table made from one that nobody knows [postgresql mysql sqlite]
-- finds: 1 no-way-back note
CREATE TEMPORARY TABLE keep AS SELECT owner_id FROM owner WHERE town = 'Ulm';
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM keep);
-- case: a list of values that fills a table [mysql mariadb]
-- finds: 0 dropped-rows note
INSERT IGNORE INTO class (name) SELECT DISTINCT class FROM vessel;
-- case: the same in its own words [sqlite]
-- finds: 0 dropped-rows note
INSERT OR IGNORE INTO class (name) SELECT class FROM vessel GROUP BY class;
-- case: rows that are left out of a whole query [mysql mariadb]
-- finds: 0 dropped-rows ask
INSERT IGNORE INTO class (name) SELECT class FROM vessel;
-- case: a key for which rows go [mariadb]
-- finds: 0 dropped-rows ask
ALTER IGNORE TABLE vote ADD UNIQUE KEY one_each (poll_id, owner_id);
-- case: a key that the table may not meet [mariadb]
ALTER TABLE vote ADD UNIQUE KEY one_each (poll_id, owner_id);
-- case: the check asks more than the change [postgresql mysql sqlite tsql plsql jet]
-- finds: 1 check-differs ask
-- finds: 1 no-way-back note
SELECT count(*) FROM mooring WHERE status = 'left' AND quay = 'N';
DELETE FROM mooring WHERE status = 'left';
-- case: the change asks more than the check [postgresql mysql sqlite tsql plsql jet]
-- finds: 1 check-differs note
-- finds: 1 no-way-back note
SELECT count(*) FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE quay = 'N' AND status = 'left';
-- case: the check is about something else [postgresql mysql sqlite tsql plsql jet]
-- finds: 1 no-way-back note
SELECT count(*) FROM mooring WHERE berth_id = 7;
DELETE FROM mooring WHERE quay = 'N' AND status = 'left';
-- case: an archive that is made for the move [mysql mariadb postgresql]
-- finds: 3 no-way-back note
CREATE TABLE mooring_past (LIKE mooring);
INSERT INTO mooring_past (mooring_id, quay) SELECT mooring_id, quay FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
UPDATE mooring SET note = 'x' WHERE quay = 'N';
-- case: a copy that was made for another change [postgresql mysql sqlite]
-- finds: 2 no-way-back note
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
UPDATE mooring SET note = 'x' WHERE status = 'left';
UPDATE mooring SET note = 'x' WHERE quay = 'N';
-- case: a copy that fits no change [postgresql mysql sqlite]
-- finds: 0 thin-backup ask
CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
UPDATE mooring SET note = 'x' WHERE quay = 'N';
