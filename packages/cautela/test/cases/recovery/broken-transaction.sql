-- hazards: broken-transaction
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: DDL commits in the middle [mysql mariadb]
-- finds: 2 broken-transaction stop
BEGIN;
UPDATE owner SET phone = '1' WHERE owner_id = 3;
ALTER TABLE owner ADD COLUMN fax varchar(20);
UPDATE owner SET fax = '2' WHERE owner_id = 3;
COMMIT;
-- case: DDL is rolled back with the rest [postgresql sqlite]
BEGIN;
UPDATE owner SET phone = '1' WHERE owner_id = 3;
ALTER TABLE owner ADD COLUMN fax varchar(20);
UPDATE owner SET fax = '2' WHERE owner_id = 3;
COMMIT;
-- case: DDL before it [mysql mariadb]
ALTER TABLE owner ADD COLUMN fax varchar(20);
BEGIN;
UPDATE owner SET fax = '2' WHERE owner_id = 3;
COMMIT;
