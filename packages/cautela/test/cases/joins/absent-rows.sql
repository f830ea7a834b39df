-- hazards: dead-filter wrong-target hollow-filter trigger-rewrites
-- tables
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY, heat integer);
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, oven_id integer, kind integer);
-- case: a row that is missing is asked for a value [mysql mariadb tsql]
-- finds: 0 dead-filter ask
DELETE l FROM loaf l LEFT JOIN oven o ON o.oven_id = l.oven_id WHERE o.oven_id IS NULL AND o.heat > 6;
-- case: a row that is missing [mysql mariadb tsql]
DELETE l FROM loaf l LEFT JOIN oven o ON o.oven_id = l.oven_id WHERE o.oven_id IS NULL AND l.kind > 6;
-- case: a value that is missing [mysql mariadb tsql]
DELETE l FROM loaf l LEFT JOIN oven o ON o.oven_id = l.oven_id WHERE o.heat IS NULL AND o.oven_id > 6;
