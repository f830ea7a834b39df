-- hazards: thin-backup lossy-structure no-way-back
-- tables
CREATE TABLE loaf (id integer PRIMARY KEY, name varchar(20) NOT NULL, fee integer, note varchar(20));
-- case: the new table has the column, and nothing fills it [sqlite postgresql]
-- finds: 1 thin-backup stop
CREATE TABLE new_loaf (id integer PRIMARY KEY, name varchar(20) NOT NULL, fee integer NOT NULL DEFAULT 0, note varchar(20));
INSERT INTO new_loaf (id, name, note) SELECT id, name, note FROM loaf;
DROP TABLE loaf;
ALTER TABLE new_loaf RENAME TO loaf;
-- case: the new table does without it [sqlite postgresql]
-- finds: 1 thin-backup ask
CREATE TABLE new_loaf (id integer PRIMARY KEY, name varchar(20) NOT NULL, note varchar(20));
INSERT INTO new_loaf (id, name, note) SELECT id, name, note FROM loaf;
DROP TABLE loaf;
ALTER TABLE new_loaf RENAME TO loaf;
-- case: all of it goes along [sqlite postgresql]
CREATE TABLE new_loaf (id integer PRIMARY KEY, name varchar(20) NOT NULL, fee integer NOT NULL DEFAULT 0, note varchar(20));
INSERT INTO new_loaf (id, name, fee, note) SELECT id, name, coalesce(fee, 0), note FROM loaf;
DROP TABLE loaf;
ALTER TABLE new_loaf RENAME TO loaf;
