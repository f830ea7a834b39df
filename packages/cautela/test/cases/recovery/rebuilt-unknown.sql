-- hazards: every-row no-way-back
-- no catalog
-- case: the table that takes the place of an older one holds its rows [postgresql sqlite]
-- finds: 4 every-row stop
-- finds: 5 every-row stop
CREATE TABLE buoys_new (id int PRIMARY KEY, light text);
INSERT INTO buoys_new (id, light) SELECT id, light FROM buoys;
DROP TABLE buoys;
ALTER TABLE buoys_new RENAME TO buoys;
UPDATE buoys SET light = 'red';
DELETE FROM buoys;
-- case: only what it has more is new [postgresql sqlite]
CREATE TABLE buoys_new (id int PRIMARY KEY, light text, depth int, sunk int);
INSERT INTO buoys_new (id, light, sunk) SELECT id, light, 0 FROM buoys;
DROP TABLE buoys;
ALTER TABLE buoys_new RENAME TO buoys;
UPDATE buoys SET depth = 3;
UPDATE buoys SET sunk = 1;
-- case: by way of a copy [postgresql sqlite]
-- finds: 5 every-row stop
CREATE TABLE buoys_kept AS SELECT * FROM buoys;
DROP TABLE buoys;
CREATE TABLE buoys (id int PRIMARY KEY, light text);
INSERT INTO buoys SELECT id, light FROM buoys_kept;
DROP TABLE buoys_kept;
DELETE FROM buoys;
-- case: renamed away first [postgresql]
-- finds: 4 every-row stop
ALTER TABLE buoys RENAME TO buoys_old;
CREATE TABLE buoys AS SELECT id, light FROM buoys_old;
DROP TABLE buoys_old;
ALTER TABLE buoys ADD PRIMARY KEY (id);
DELETE FROM buoys;
-- case: filled from another table [postgresql sqlite]
CREATE TABLE buoys_new (id int PRIMARY KEY, light text);
INSERT INTO buoys_new (id, light) SELECT id, light FROM marks;
UPDATE buoys_new SET light = 'red';
DELETE FROM buoys_new;
-- case: a table for the time being [mysql]
-- finds: 0 no-way-back note
DROP TABLE hb_tmp_buoys;
