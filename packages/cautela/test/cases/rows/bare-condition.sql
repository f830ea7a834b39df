-- hazards: bare-condition hollow-filter dead-filter
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer NOT NULL, name varchar(5) NOT NULL);
-- case: a number after AND [postgresql tsql plsql]
-- finds: 0 bare-condition stop
DELETE FROM loaf WHERE loaf_id = 1 AND 2;
-- case: a number after AND, where it counts as true [mysql mariadb sqlite jet]
-- finds: 0 bare-condition ask
DELETE FROM loaf WHERE loaf_id = 1 AND 2;
-- case: a number after OR [postgresql tsql plsql]
-- finds: 0 bare-condition stop
DELETE FROM loaf WHERE loaf_id = 1 OR 2;
-- case: a number after OR, where it counts as true [mysql mariadb sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM loaf WHERE loaf_id = 1 OR 2;
-- case: a text after OR [mysql mariadb sqlite]
-- finds: 0 bare-condition ask
DELETE FROM loaf WHERE name = 'rye' OR 'oat';
-- case: a column of numbers as a condition [postgresql tsql]
-- finds: 0 bare-condition stop
DELETE FROM loaf WHERE kind AND loaf_id < 4;
-- case: nothing but a number [postgresql tsql plsql]
-- finds: 0 bare-condition stop
DELETE FROM loaf WHERE 1;
-- case: what a program puts first [mysql mariadb sqlite]
DELETE FROM loaf WHERE 1 AND loaf_id = 4;
-- case: whole conditions [postgresql mysql mariadb sqlite tsql plsql jet]
DELETE FROM loaf WHERE loaf_id = 1 OR loaf_id = 2;
-- case: a list [postgresql mysql mariadb sqlite tsql plsql jet]
DELETE FROM loaf WHERE loaf_id IN (1, 2);
-- case: a text that is too long for the column [postgresql mysql mariadb tsql plsql]
-- finds: 0 dead-filter ask
DELETE FROM loaf WHERE name = 'walnut';
-- case: a beginning that is too long for the column [postgresql mysql mariadb tsql plsql]
-- finds: 0 dead-filter ask
DELETE FROM loaf WHERE name LIKE 'walnut%';
-- case: a text of any length [sqlite]
DELETE FROM loaf WHERE name = 'walnut';
-- case: a text that just fits [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM loaf WHERE name LIKE 'wheat%';
