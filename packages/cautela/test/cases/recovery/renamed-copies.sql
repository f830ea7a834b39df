-- hazards: every-row backup-dropped no-way-back
-- tables
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
-- case: a copy under a new name is still a copy [postgresql sqlite]
-- finds: 2 every-row ask
CREATE TABLE o AS SELECT * FROM oven;
ALTER TABLE o RENAME TO oven_before;
DELETE FROM oven;
-- case: the renamed copy goes at the end [postgresql sqlite mysql mariadb]
-- finds: 3 backup-dropped ask
CREATE TABLE o AS SELECT * FROM oven;
ALTER TABLE o RENAME TO oven_before;
DELETE FROM oven WHERE oven_id < 9;
DROP TABLE oven_before;
-- case: what has taken the name of its table is no copy of it [postgresql sqlite mysql mariadb]
-- finds: 4 every-row stop
CREATE TABLE oven_new (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
INSERT INTO oven_new (oven_id, name) SELECT oven_id, name FROM oven;
DROP TABLE oven;
ALTER TABLE oven_new RENAME TO oven;
DELETE FROM oven;
-- case: the old table is kept under another name [mysql mariadb]
-- finds: 3 every-row ask
CREATE TABLE oven_new (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
INSERT INTO oven_new (oven_id, name) SELECT oven_id, name FROM oven;
RENAME TABLE oven TO oven_old, oven_new TO oven;
DELETE FROM oven;
-- case: a column that the rebuild has brought is filled [postgresql sqlite mysql mariadb]
CREATE TABLE oven_new (oven_id integer NOT NULL PRIMARY KEY, name varchar(10), depth integer);
INSERT INTO oven_new (oven_id, name) SELECT oven_id, name FROM oven;
DROP TABLE oven;
ALTER TABLE oven_new RENAME TO oven;
UPDATE oven SET depth = 1;
-- case: one that was there before is written over [postgresql sqlite mysql mariadb]
-- finds: 5 every-row stop
CREATE TABLE oven_tmp (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
INSERT INTO oven_tmp (oven_id, name) SELECT oven_id, name FROM oven;
DROP TABLE oven;
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, name varchar(10), depth integer);
INSERT INTO oven (oven_id, name) SELECT oven_id, name FROM oven_tmp;
UPDATE oven SET name = 'same';
-- case: a table that begins again is the script's own [postgresql sqlite mysql mariadb]
-- finds: 0 no-way-back ask
DROP TABLE oven;
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
INSERT INTO oven (oven_id, name) VALUES (1, 'big'), (2, 'small');
DELETE FROM oven;
-- case: a copy that is rolled back keeps nothing [postgresql sqlite]
-- finds: 3 every-row stop
BEGIN;
CREATE TABLE oven_before AS SELECT * FROM oven;
ROLLBACK;
DELETE FROM oven;
-- case: the table takes another name after it was copied [postgresql sqlite mysql mariadb]
-- finds: 2 every-row ask
CREATE TABLE oven_before AS SELECT * FROM oven;
ALTER TABLE oven RENAME TO stove;
DELETE FROM stove;
-- case: the old table goes when the new one has its rows [mysql mariadb]
CREATE TABLE oven_new (oven_id integer NOT NULL PRIMARY KEY, name varchar(10));
INSERT INTO oven_new (oven_id, name) SELECT oven_id, name FROM oven;
RENAME TABLE oven TO oven_old, oven_new TO oven;
DROP TABLE oven_old;
-- case: a copy that names the columns [postgresql sqlite mysql mariadb]
-- finds: 1 every-row ask
CREATE TABLE oven_before AS SELECT oven_id, name FROM oven;
UPDATE oven SET name = 'same';
-- case: a copy that names other columns [postgresql sqlite mysql mariadb]
-- finds: 1 every-row stop
CREATE TABLE oven_before AS SELECT name FROM oven;
UPDATE oven SET name = 'same';
