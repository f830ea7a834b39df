-- hazards: cascade reference-blocks trigger-skipped
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL, name varchar(20), FOREIGN KEY (owner_id) REFERENCES owner (owner_id) ON DELETE CASCADE);
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer, fee integer, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id) ON DELETE SET NULL);
CREATE TABLE crew (crew_id integer PRIMARY KEY, vessel_id integer NOT NULL, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id));
CREATE TABLE crew_log (crew_id integer);
-- case: a cascade two keys deep [postgresql mysql mariadb tsql plsql]
-- finds: 0 cascade ask
-- finds: 0 reference-blocks note
DELETE FROM owner WHERE name = 'Asta';
-- case: rows of the business go even with one row [postgresql mysql mariadb tsql plsql]
-- finds: 0 cascade ask
-- finds: 0 reference-blocks note
DELETE FROM owner WHERE owner_id = 3;
-- case: the children are deleted by hand first [postgresql mysql mariadb tsql plsql]
-- finds: 2 cascade note
DELETE FROM crew WHERE vessel_id IN (SELECT vessel_id FROM vessel WHERE name = 'x');
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM vessel WHERE name = 'x');
DELETE FROM vessel WHERE name = 'x';
-- case: sqlite enforces keys only when it is told to [sqlite]
-- finds: 0 cascade note
-- finds: 0 reference-blocks note
-- finds: 2 cascade ask
-- finds: 2 reference-blocks note
DELETE FROM owner WHERE name = 'Asta';
PRAGMA foreign_keys = ON;
DELETE FROM owner WHERE name = 'Bo';
-- case: foreign keys are switched off [mysql mariadb]
SET foreign_key_checks = 0;
DELETE FROM owner WHERE name = 'Asta';
-- case: a change that touches no key [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET name = 'Bo' WHERE name = 'Asta';
-- case: rows may refer to it [postgresql mysql mariadb tsql plsql]
-- finds: 0 cascade note
-- finds: 0 reference-blocks note
DELETE FROM vessel WHERE vessel_id = 3;
-- case: TRUNCATE of a table that others refer to [postgresql mysql mariadb tsql plsql]
-- finds: 0 reference-blocks stop
TRUNCATE TABLE vessel;
-- case: TRUNCATE with its children [postgresql]
TRUNCATE TABLE vessel, crew, mooring;
-- case: TRUNCATE CASCADE empties the children [postgresql]
-- finds: 0 cascade ask
TRUNCATE TABLE vessel CASCADE;
-- case: TRUNCATE of a table that nobody refers to [postgresql mysql mariadb tsql plsql]
TRUNCATE TABLE crew;
