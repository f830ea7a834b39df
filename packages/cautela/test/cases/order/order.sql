-- hazards: stale-filter early-use reruns-badly repeated-change leftover-assignment
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, mail varchar(60), phone varchar(20));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, status varchar(20) NOT NULL, berth_id integer NOT NULL, fee numeric(10,2) NOT NULL);
-- case: the old value is gone [postgresql mysql sqlite tsql plsql]
-- finds: 1 stale-filter ask
UPDATE mooring SET status = 'left' WHERE status = 'lying';
UPDATE mooring SET fee = 0 WHERE status = 'lying';
-- case: in the right order [postgresql mysql sqlite tsql plsql]
UPDATE mooring SET fee = 0 WHERE status = 'lying';
UPDATE mooring SET status = 'left' WHERE status = 'lying';
-- case: a chain of numbers [postgresql mysql sqlite tsql]
-- finds: 1 stale-filter ask
UPDATE mooring SET berth_id = 2 WHERE berth_id = 1;
UPDATE mooring SET berth_id = 3 WHERE berth_id = 2;
-- case: a chain from its end [postgresql mysql sqlite tsql]
UPDATE mooring SET berth_id = 3 WHERE berth_id = 2;
UPDATE mooring SET berth_id = 2 WHERE berth_id = 1;
-- case: a mark that is set to be found [postgresql mysql]
UPDATE mooring SET status = 'closing' WHERE berth_id = 4;
DELETE FROM mooring WHERE status = 'closing';
-- case: only part of the old value is gone [postgresql mysql]
UPDATE mooring SET status = 'left' WHERE status = 'lying' AND berth_id = 3;
UPDATE mooring SET fee = 0 WHERE status = 'lying';
-- case: gone [postgresql mysql sqlite tsql]
-- finds: 1 early-use stop
DROP TABLE owner;
DELETE FROM owner WHERE owner_id = 3;
-- case: not there yet [postgresql mysql sqlite]
-- finds: 0 early-use stop
DELETE FROM berth_note WHERE berth_id = 3;
CREATE TABLE berth_note (berth_id integer);
-- case: dropped and made again [postgresql mysql sqlite]
DROP TABLE owner;
CREATE TABLE owner (owner_id integer);
DELETE FROM owner WHERE owner_id = 3;
-- case: swapped by drop and rename [postgresql mysql sqlite]
-- finds: 1 reruns-badly note
DROP TABLE owner;
ALTER TABLE mooring RENAME TO owner;
-- case: filled from itself [postgresql mysql sqlite]
-- finds: 0 reruns-badly ask
INSERT INTO mooring (mooring_id, status, berth_id, fee) SELECT mooring_id + 1000, status, berth_id, fee FROM mooring;
-- case: a raise twice [postgresql mysql sqlite tsql]
-- finds: 1 repeated-change stop
UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 3;
UPDATE mooring SET fee = fee * 1.05  WHERE berth_id = 3; -- again
-- case: two raises of two berths [postgresql mysql sqlite tsql]
UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 3;
UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 4;
-- case: a lone slash runs it again [plsql]
-- finds: 0 repeated-change stop
UPDATE mooring SET fee = fee * 1.05 WHERE berth_id = 3;
/
-- case: a value that was not altered [postgresql mysql sqlite]
-- finds: 1 leftover-assignment ask
UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;
UPDATE owner SET mail = 'ada@quay.example', phone = '0442' WHERE owner_id = 4;
-- case: all altered [postgresql mysql sqlite]
UPDATE owner SET mail = 'ada@quay.example', phone = '0441' WHERE owner_id = 3;
UPDATE owner SET mail = 'ben@quay.example', phone = '0442' WHERE owner_id = 4;
-- case: gone under another name [postgresql sqlite mysql mariadb]
-- finds: 1 early-use stop
ALTER TABLE mooring RENAME TO berthing;
UPDATE mooring SET fee = 3 WHERE mooring_id = 4;
-- case: its name is taken again [postgresql sqlite mysql mariadb]
ALTER TABLE mooring RENAME TO berthing;
CREATE VIEW mooring AS SELECT * FROM berthing;
SELECT fee FROM mooring WHERE mooring_id = 4;
-- case: two tables change names [mysql mariadb]
RENAME TABLE mooring TO mooring_2, owner TO mooring, mooring_2 TO owner;
SELECT mail FROM mooring WHERE owner_id = 4;
