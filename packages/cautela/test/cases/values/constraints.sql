-- hazards: unmet-constraint lossy-structure guard-left-off
-- tables
CREATE TABLE oven (oven_id integer NOT NULL PRIMARY KEY);
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, oven_id integer, kind integer NOT NULL, name varchar(20));
-- case: a written value breaks the CHECK [postgresql mysql mariadb tsql plsql]
-- finds: 1 unmet-constraint stop
UPDATE loaf SET kind = 7 WHERE loaf_id = 4;
ALTER TABLE loaf ADD CONSTRAINT loaf_kind CHECK (kind IN (1, 2, 3));
-- case: a written value meets the CHECK [postgresql mysql mariadb tsql plsql]
UPDATE loaf SET kind = 3 WHERE loaf_id = 4;
ALTER TABLE loaf ADD CONSTRAINT loaf_kind CHECK (kind IN (1, 2, 3));
-- case: a written value is mended before [postgresql mysql mariadb tsql plsql]
UPDATE loaf SET kind = 7 WHERE loaf_id = 4;
UPDATE loaf SET kind = 3 WHERE kind = 7;
ALTER TABLE loaf ADD CONSTRAINT loaf_kind CHECK (kind IN (1, 2, 3));
-- case: a column becomes unique [postgresql mysql mariadb tsql plsql]
-- finds: 0 unmet-constraint note
ALTER TABLE loaf ADD CONSTRAINT loaf_name UNIQUE (name);
-- case: a unique index [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 unmet-constraint note
CREATE UNIQUE INDEX loaf_name ON loaf (name);
-- case: the key is part of it [postgresql mysql mariadb sqlite tsql plsql]
CREATE UNIQUE INDEX loaf_name ON loaf (loaf_id, name);
-- case: copies are deleted before [postgresql sqlite tsql plsql]
DELETE FROM loaf WHERE loaf_id NOT IN (SELECT MIN(loaf_id) FROM loaf GROUP BY name);
CREATE UNIQUE INDEX loaf_name ON loaf (name);
-- case: a table of the script's own [postgresql mysql mariadb sqlite tsql plsql]
CREATE TABLE bun (bun_id integer NOT NULL, name varchar(20));
CREATE UNIQUE INDEX bun_name ON bun (name);
-- case: an ordinary index [postgresql mysql mariadb sqlite tsql plsql]
CREATE INDEX loaf_name ON loaf (name);
-- case: NOT NULL is lost [tsql]
-- finds: 0 lossy-structure ask
ALTER TABLE loaf ALTER COLUMN kind bigint;
-- case: NOT NULL is said again [tsql]
ALTER TABLE loaf ALTER COLUMN kind bigint NOT NULL;
-- case: a key that looks at no row [tsql]
-- finds: 0 guard-left-off note
ALTER TABLE loaf WITH NOCHECK ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id);
-- case: a key that looks at the rows [tsql]
-- finds: 0 unmet-constraint note
ALTER TABLE loaf WITH CHECK ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id);
ALTER TABLE loaf CHECK CONSTRAINT loaf_oven;
-- case: a key that looks at the rows later [tsql]
ALTER TABLE loaf WITH NOCHECK ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id);
ALTER TABLE loaf WITH CHECK CHECK CONSTRAINT loaf_oven;
-- case: NOT VALID stays [postgresql]
-- finds: 0 guard-left-off note
ALTER TABLE loaf ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id) NOT VALID;
-- case: NOT VALID is validated [postgresql]
ALTER TABLE loaf ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id) NOT VALID;
ALTER TABLE loaf VALIDATE CONSTRAINT loaf_oven;
-- case: NOVALIDATE [plsql]
-- finds: 0 guard-left-off note
ALTER TABLE loaf ADD CONSTRAINT loaf_oven FOREIGN KEY (oven_id) REFERENCES oven (oven_id) ENABLE NOVALIDATE;
