-- hazards: guard-off
-- tables
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(20));
CREATE TABLE buoy (buoy_id integer NOT NULL PRIMARY KEY, quay_id integer, CONSTRAINT fk_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id) ON DELETE CASCADE);
CREATE TABLE light (light_id integer NOT NULL PRIMARY KEY, colour varchar(9));
-- case: rows that refer to what goes [mysql mariadb]
-- finds: 0 guard-off ask
SET FOREIGN_KEY_CHECKS = 0;
DELETE FROM quay WHERE quay_id = 3;
SET FOREIGN_KEY_CHECKS = 1;
-- case: the same in SQLite [sqlite]
-- finds: 0 guard-off ask
PRAGMA foreign_keys = OFF;
DELETE FROM quay WHERE quay_id = 3;
PRAGMA foreign_keys = ON;
-- case: one key alone [tsql]
-- finds: 0 guard-off ask
ALTER TABLE buoy NOCHECK CONSTRAINT fk_quay;
DELETE FROM quay WHERE quay_id = 3;
ALTER TABLE buoy WITH CHECK CHECK CONSTRAINT fk_quay;
-- case: they go as well [mysql mariadb]
-- finds: 0 guard-off ask
SET FOREIGN_KEY_CHECKS = 0;
DELETE FROM quay WHERE quay_id = 3;
DELETE FROM buoy WHERE quay_id = 3;
SET FOREIGN_KEY_CHECKS = 1;
-- case: nothing refers to it [mysql mariadb]
-- finds: 0 guard-off ask
SET FOREIGN_KEY_CHECKS = 0;
DELETE FROM light WHERE light_id = 3;
SET FOREIGN_KEY_CHECKS = 1;
