-- hazards: cascade reference-blocks
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, town varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL, FOREIGN KEY (owner_id) REFERENCES owner (owner_id) ON DELETE CASCADE);
CREATE TABLE pilot (pilot_id integer PRIMARY KEY, town varchar(20));
CREATE TABLE pilotage (pilotage_id integer PRIMARY KEY, pilot_id integer NOT NULL, FOREIGN KEY (pilot_id) REFERENCES pilot (pilot_id));
-- case: the children of the same parent go first [postgresql mysql mariadb tsql plsql]
-- finds: 1 cascade note
DELETE FROM vessel WHERE owner_id = 3;
DELETE FROM owner WHERE owner_id = 3;
-- case: the children of another parent [postgresql mysql mariadb tsql plsql]
-- finds: 1 cascade ask
DELETE FROM vessel WHERE owner_id = 4;
DELETE FROM owner WHERE owner_id = 3;
-- case: more children than parents [postgresql mysql mariadb tsql plsql]
-- finds: 1 cascade note
DELETE FROM vessel WHERE owner_id IN (3, 4, 5);
DELETE FROM owner WHERE owner_id IN (3, 4);
-- case: by a subquery with the same filter [postgresql mysql mariadb tsql plsql]
-- finds: 1 cascade note
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
DELETE FROM owner WHERE town = 'Ulm';
-- case: by a subquery with another one [postgresql mysql mariadb tsql plsql]
-- finds: 1 cascade ask
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
DELETE FROM owner WHERE town = 'Bonn';
-- case: it was rolled back [postgresql tsql]
-- finds: 3 cascade ask
BEGIN TRANSACTION;
DELETE FROM vessel WHERE owner_id = 3;
ROLLBACK;
DELETE FROM owner WHERE owner_id = 3;
-- case: a key that refuses, and its rows are gone [postgresql mysql mariadb tsql plsql]
DELETE FROM pilotage WHERE pilot_id = 3;
DELETE FROM pilot WHERE pilot_id = 3;
-- case: a key that refuses, and other rows are gone [postgresql mysql mariadb tsql plsql]
-- finds: 1 reference-blocks note
DELETE FROM pilotage WHERE pilot_id = 4;
DELETE FROM pilot WHERE pilot_id = 3;
-- case: TRUNCATE is refused all the same [postgresql mysql mariadb tsql]
-- finds: 1 reference-blocks stop
DELETE FROM pilotage WHERE pilotage_id > 0;
TRUNCATE TABLE pilot;
