-- hazards: view-loses-column broken-dependent
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60), phone varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL);
CREATE TABLE scrap (scrap_id integer PRIMARY KEY, note varchar(20));
CREATE VIEW owner_public AS SELECT owner_id, name, mail FROM owner;
-- case: a view loses a column [mysql mariadb tsql plsql]
-- finds: 0 view-loses-column ask
CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name FROM owner;
-- case: postgresql refuses it [postgresql]
-- finds: 0 view-loses-column stop
CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name FROM owner;
-- case: columns change places [mysql mariadb plsql]
-- finds: 0 view-loses-column note
CREATE OR REPLACE VIEW owner_public AS SELECT name, owner_id, mail FROM owner;
-- case: a column follows at the end [postgresql mysql mariadb plsql]
CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name, mail, phone FROM owner;
-- case: dropped and made again without a column [postgresql mysql mariadb sqlite tsql]
-- finds: 1 view-loses-column ask
DROP VIEW owner_public;
CREATE VIEW owner_public AS SELECT owner_id, mail FROM owner;
-- case: dropped and made again as it was [postgresql mysql mariadb sqlite tsql]
DROP VIEW owner_public;
CREATE VIEW owner_public AS SELECT owner_id, name, mail FROM owner;
-- case: a column that a view shows is dropped [postgresql sqlite]
-- finds: 0 broken-dependent stop
ALTER TABLE owner DROP COLUMN mail;
-- case: a column that a view shows is dropped, and the engine says nothing [mysql mariadb tsql plsql]
-- finds: 0 broken-dependent ask
ALTER TABLE owner DROP COLUMN mail;
-- case: the view is made again after it [mysql mariadb]
ALTER TABLE owner DROP COLUMN mail;
CREATE OR REPLACE VIEW owner_public AS SELECT owner_id, name, phone AS mail FROM owner;
-- case: the view is dropped before [postgresql mysql mariadb sqlite tsql]
DROP VIEW owner_public;
ALTER TABLE owner DROP COLUMN mail;
-- case: a column that nothing refers to [postgresql mysql mariadb sqlite tsql plsql]
ALTER TABLE owner DROP COLUMN phone;
-- case: CASCADE takes the view along [postgresql]
-- finds: 0 broken-dependent ask
ALTER TABLE owner DROP COLUMN mail CASCADE;
-- case: a table that a key refers to [postgresql mysql mariadb tsql]
-- finds: 1 broken-dependent stop
DROP VIEW owner_public;
DROP TABLE owner;
-- case: both tables go together [postgresql]
DROP VIEW owner_public;
DROP TABLE vessel, owner;
-- case: the child goes first [postgresql mysql mariadb sqlite tsql]
DROP VIEW owner_public;
DROP TABLE vessel;
DROP TABLE owner;
-- case: a table that nothing refers to [postgresql mysql mariadb sqlite tsql plsql jet]
DROP TABLE scrap;
-- case: a table under a view is dropped and left so [sqlite]
-- finds: 1 broken-dependent ask
DROP TABLE vessel;
DROP TABLE owner;
CREATE TABLE note (x integer);
-- case: the rebuild of a table under a view, which SQLite refuses at the new name [sqlite]
-- finds: 2 broken-dependent ask
CREATE TABLE owner_new (owner_id integer PRIMARY KEY, name text NOT NULL, mail text, phone text);
INSERT INTO owner_new (owner_id, name, mail, phone) SELECT owner_id, name, mail, phone FROM owner;
DROP TABLE owner;
ALTER TABLE owner_new RENAME TO owner;
-- case: the rebuild of a table whose view is dropped first [sqlite]
DROP VIEW owner_public;
CREATE TABLE owner_new (owner_id integer PRIMARY KEY, name text NOT NULL, mail text, phone text);
INSERT INTO owner_new (owner_id, name, mail, phone) SELECT owner_id, name, mail, phone FROM owner;
DROP TABLE owner;
ALTER TABLE owner_new RENAME TO owner;
-- case: a new name that views of postgresql follow [postgresql sqlite]
ALTER TABLE owner RENAME COLUMN mail TO address;
-- case: a new name that leaves the view behind [mysql mariadb plsql]
-- finds: 0 broken-dependent ask
ALTER TABLE owner RENAME COLUMN mail TO address;
-- case: a routine refers to the table [postgresql]
-- finds: 1 broken-dependent ask
CREATE FUNCTION note_all() RETURNS integer LANGUAGE plpgsql AS $$ BEGIN INSERT INTO scrap (scrap_id) VALUES (1); RETURN 1; END $$;
DROP TABLE scrap;
