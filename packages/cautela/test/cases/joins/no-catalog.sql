-- hazards: wrong-target unknown-name open-join every-row missing-required null-into-required dangling-reference
-- no catalog
-- case: nothing ties the target to the rest of its statement [postgresql]
-- finds: 0 wrong-target stop
DELETE FROM tram t USING depot d WHERE d.town = 'Ulm';
-- case: it is tied [postgresql]
DELETE FROM tram t USING depot d WHERE d.town = 'Ulm' AND d.depot_id = t.depot_id;
-- case: the same in other words [mysql mariadb]
-- finds: 0 wrong-target stop
DELETE t FROM tram t JOIN depot d WHERE d.town = 'Ulm';
-- case: a table that stands in no FROM [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 unknown-name stop
UPDATE loaf SET price = 1 WHERE loaf.oven_id = oven.oven_id;
-- case: it stands there [postgresql sqlite]
UPDATE loaf SET price = 1 FROM oven WHERE loaf.oven_id = oven.oven_id;
-- case: the script's own table has no such column [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 unknown-name stop
CREATE TABLE loaf (loaf_id integer PRIMARY KEY, price integer);
UPDATE loaf SET prise = 3 WHERE loaf_id = 3;
-- case: a column that the script has added [postgresql mysql mariadb sqlite]
CREATE TABLE loaf (loaf_id integer PRIMARY KEY, price integer);
ALTER TABLE loaf ADD COLUMN weight integer;
UPDATE loaf SET weight = 3 WHERE loaf_id = 3;
-- case: a table of which only some columns are known [postgresql mysql mariadb sqlite]
ALTER TABLE loaf ADD COLUMN weight integer;
UPDATE loaf SET weight = price WHERE kind = 'rye';
-- case: the script's own table asks for a value [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 missing-required stop
CREATE TABLE loaf (loaf_id integer PRIMARY KEY, price integer NOT NULL);
INSERT INTO loaf (loaf_id) VALUES (1);
