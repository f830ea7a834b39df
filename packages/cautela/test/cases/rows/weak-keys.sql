-- hazards: weak-filter may-not-fit
-- tables
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, name varchar(10) NOT NULL, mail varchar(20) UNIQUE);
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, oven_id integer REFERENCES oven (oven_id), code varchar(5));
-- case: a key that is looked up by a name [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 weak-filter ask
DELETE FROM loaf WHERE oven_id IN (SELECT oven_id FROM oven WHERE name = 'big');
-- case: one key that is looked up by a name [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 weak-filter ask
UPDATE loaf SET code = 'A' WHERE oven_id = (SELECT oven_id FROM oven WHERE name = 'big');
-- case: a key that is looked up by what is unique [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM loaf WHERE oven_id IN (SELECT oven_id FROM oven WHERE mail = 'big@oven.example');
-- case: keys of a kind [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM loaf WHERE oven_id IN (SELECT oven_id FROM oven WHERE name LIKE 'big%');
-- case: a text put before that does not fit [postgresql mysql mariadb plsql]
-- finds: 0 may-not-fit stop
UPDATE loaf SET code = CONCAT('OLDER-', code) WHERE loaf_id = 3;
-- case: a text put before that does not fit, by an operator [postgresql plsql]
-- finds: 0 may-not-fit stop
UPDATE loaf SET code = 'OLDER-' || code WHERE loaf_id = 3;
-- case: a text put before that may fit [postgresql plsql]
UPDATE loaf SET code = 'O-' || code WHERE loaf_id = 3;
-- case: a column of any length [sqlite]
UPDATE loaf SET code = 'OLDER-' || code WHERE loaf_id = 3;
-- case: true into a number [postgresql]
-- finds: 0 may-not-fit stop
UPDATE loaf SET oven_id = true WHERE loaf_id = 3;
-- case: true into a number, where it is 1 [mysql mariadb sqlite]
UPDATE loaf SET oven_id = true WHERE loaf_id = 3;
