-- script: a table is rebuilt the way this engine asks for
PRAGMA foreign_keys = OFF;
BEGIN TRANSACTION;
CREATE TABLE mooring_new (
  mooring_id INTEGER PRIMARY KEY,
  vessel_id INTEGER NOT NULL REFERENCES vessel (vessel_id),
  berth_id INTEGER NOT NULL REFERENCES berth (berth_id),
  from_day TEXT NOT NULL,
  to_day TEXT,
  fee NUMERIC NOT NULL DEFAULT 0,
  paid_on TEXT
);
INSERT INTO mooring_new (mooring_id, vessel_id, berth_id, from_day, to_day, fee)
SELECT mooring_id, vessel_id, berth_id, from_day, to_day, fee FROM mooring;
DROP TABLE mooring;
ALTER TABLE mooring_new RENAME TO mooring;
CREATE INDEX mooring_by_berth ON mooring (berth_id);
PRAGMA foreign_key_check;
COMMIT;
PRAGMA foreign_keys = ON;
PRAGMA user_version = 14;
-- script: columns, a lookup table, the version
ALTER TABLE berth ADD COLUMN quay TEXT;
UPDATE berth SET quay = substr(code, 1, 1);
CREATE TABLE IF NOT EXISTS flag (code TEXT PRIMARY KEY, name TEXT NOT NULL);
INSERT OR IGNORE INTO flag (code, name) VALUES ('DK', 'Denmark');
INSERT OR IGNORE INTO flag (code, name) VALUES ('NO', 'Norway');
INSERT OR REPLACE INTO setting (name, value) VALUES ('flag.default', 'DK');
UPDATE schema_version SET version = 15;
-- script: two tables become one
BEGIN;
CREATE TABLE person (person_id INTEGER PRIMARY KEY, name TEXT NOT NULL, mail TEXT, kind TEXT NOT NULL);
INSERT INTO person (name, mail, kind) SELECT name, mail, 'owner' FROM owner;
INSERT INTO person (name, mail, kind) SELECT name, mail, 'pilot' FROM pilot;
DROP VIEW IF EXISTS owner_public;
CREATE VIEW owner_public AS SELECT person_id, name FROM person WHERE kind = 'owner';
UPDATE db_info SET version = '2.0';
COMMIT;
-- script: derived rows are made again
DELETE FROM occupancy;
INSERT INTO occupancy (berth_id, month, nights)
SELECT berth_id, substr(from_day, 1, 7), count(*) FROM mooring GROUP BY berth_id, substr(from_day, 1, 7);
DELETE FROM search_cache;
DELETE FROM schema_version;
INSERT INTO schema_version (version) VALUES (16);
VACUUM;
