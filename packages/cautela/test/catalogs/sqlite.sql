-- case: a rowid, and keys that may be empty
-- holds: berth (berth_id integer!, code text)  key berth_id
-- holds: pier (pier_id text, area real as 2 * 3)  key pier_id
CREATE TABLE berth (berth_id INTEGER PRIMARY KEY, code TEXT);
CREATE TABLE pier (pier_id TEXT PRIMARY KEY, area REAL GENERATED ALWAYS AS (2 * 3) VIRTUAL);
-- case: made again
-- holds: berth (berth_id integer!, code text!)  key berth_id
CREATE TABLE berth (berth_id INTEGER PRIMARY KEY, code TEXT);
CREATE TABLE berth_new (berth_id INTEGER PRIMARY KEY, code TEXT NOT NULL);
INSERT INTO berth_new SELECT * FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
