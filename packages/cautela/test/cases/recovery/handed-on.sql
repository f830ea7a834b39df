-- hazards: thin-backup every-row no-way-back
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer NOT NULL, name varchar(40));
CREATE TABLE loaf_archive (loaf_id integer NOT NULL PRIMARY KEY, kind integer NOT NULL, name varchar(40));
-- case: OUTPUT keeps the rows [tsql]
DELETE FROM loaf OUTPUT deleted.* INTO loaf_archive WHERE kind = 3;
-- case: OUTPUT keeps every row [tsql]
-- finds: 0 every-row ask
DELETE FROM loaf OUTPUT deleted.* INTO loaf_archive;
-- case: OUTPUT leaves a column out [tsql]
-- finds: 0 thin-backup ask
DELETE FROM loaf OUTPUT deleted.loaf_id, deleted.kind INTO loaf_archive (loaf_id, kind) WHERE kind = 3;
-- case: RETURNING leaves a column out [postgresql]
-- finds: 0 thin-backup ask
WITH gone AS (DELETE FROM loaf WHERE kind = 3 RETURNING loaf_id, kind) INSERT INTO loaf_archive SELECT * FROM gone;
-- case: RETURNING keeps every row [postgresql]
-- finds: 0 every-row ask
WITH gone AS (DELETE FROM loaf RETURNING *) INSERT INTO loaf_archive SELECT * FROM gone;
-- case: OUTPUT keeps the new values [tsql]
-- finds: 0 thin-backup ask
UPDATE loaf SET name = 'rye' OUTPUT inserted.loaf_id, inserted.name INTO loaf_archive (loaf_id, name) WHERE kind = 3;
-- case: OUTPUT keeps the old values [tsql]
UPDATE loaf SET name = 'rye' OUTPUT deleted.loaf_id, deleted.name INTO loaf_archive (loaf_id, name) WHERE kind = 3;
-- case: a copy without the column that changes [postgresql mysql mariadb sqlite plsql]
-- finds: 0 thin-backup ask
CREATE TABLE loaf_was AS SELECT loaf_id, kind FROM loaf;
UPDATE loaf SET name = 'rye' WHERE kind = 2;
-- case: a copy with the column that changes [postgresql mysql mariadb sqlite plsql]
CREATE TABLE loaf_was AS SELECT loaf_id, name FROM loaf;
UPDATE loaf SET name = 'rye' WHERE kind = 2;
-- case: a list of keys is no copy [postgresql mysql mariadb sqlite plsql]
-- finds: 1 no-way-back note
CREATE TABLE loaf_was AS SELECT loaf_id FROM loaf WHERE kind = 2;
UPDATE loaf SET name = 'rye' WHERE loaf_id IN (SELECT loaf_id FROM loaf_was);
-- case: a plan alone changes nothing [postgresql mysql mariadb]
EXPLAIN DELETE FROM loaf;
-- case: a plan that runs the statement [mariadb]
-- finds: 0 every-row stop
ANALYZE FORMAT=JSON DELETE FROM loaf;
