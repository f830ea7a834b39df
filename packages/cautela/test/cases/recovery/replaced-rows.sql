-- hazards: cascade
-- tables
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, code varchar(5) UNIQUE, name varchar(10));
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, oven_id integer, FOREIGN KEY (oven_id) REFERENCES oven (oven_id) ON DELETE CASCADE);
-- case: REPLACE takes the children along [mysql mariadb]
-- finds: 0 cascade ask
REPLACE INTO oven (oven_id, code, name) VALUES (1, 'A', 'big');
-- case: INSERT OR REPLACE takes the children along [sqlite]
-- finds: 1 cascade ask
PRAGMA foreign_keys = ON;
INSERT OR REPLACE INTO oven (oven_id, code, name) VALUES (1, 'A', 'big');
-- case: UPDATE OR REPLACE takes other rows and their children [sqlite]
-- finds: 1 cascade ask
PRAGMA foreign_keys = ON;
UPDATE OR REPLACE oven SET code = 'B' WHERE oven_id = 3;
-- case: UPDATE OR REPLACE of no key [sqlite]
PRAGMA foreign_keys = ON;
UPDATE OR REPLACE oven SET name = 'small' WHERE oven_id = 3;
-- case: an upsert leaves the row where it is [mysql mariadb]
INSERT INTO oven (oven_id, code, name) VALUES (1, 'A', 'big') ON DUPLICATE KEY UPDATE name = 'big';
