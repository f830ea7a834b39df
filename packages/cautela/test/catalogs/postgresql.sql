-- case: columns, keys and checks
-- holds: owner (owner_id integer! = nextval('owner_owner_id_seq'), mail character varying(40), born date! = now())  key owner_id  unique mail
-- holds: vessel (vessel_id integer!, owner_id integer!, tags text[])  key vessel_id  check vessel_id > 0  owner_id -> owner cascade
CREATE TABLE owner (owner_id serial PRIMARY KEY, mail varchar(40) UNIQUE, born date DEFAULT now() NOT NULL);
CREATE TABLE vessel (vessel_id int4 PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner ON DELETE CASCADE, tags text[], CHECK (vessel_id > 0));
-- case: a column added, renamed, given another type, dropped
-- holds: berth (berth_id integer!, sign character varying(20), quay text)  key berth_id
CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(10), depth numeric(5));
ALTER TABLE berth ADD COLUMN quay text NOT NULL DEFAULT 'north', DROP COLUMN depth;
ALTER TABLE berth RENAME COLUMN code TO sign;
ALTER TABLE berth ALTER COLUMN sign TYPE varchar(20), ALTER COLUMN quay DROP NOT NULL, ALTER COLUMN quay DROP DEFAULT;
-- case: keys that follow a renamed table
-- holds: holder (owner_id integer!)  key owner_id
-- holds: vessel (vessel_id integer!, owner_id integer)  key vessel_id  owner_id -> holder
CREATE TABLE owner (owner_id int PRIMARY KEY);
CREATE TABLE vessel (vessel_id int PRIMARY KEY, owner_id int REFERENCES owner);
ALTER TABLE owner RENAME TO holder;
-- case: LIKE with what is named
-- holds: berth (berth_id integer!, code character varying(10)! = 'N')  key berth_id  check code <> ''
-- holds: plain (berth_id integer!, code character varying(10)!)
-- holds: some_of (berth_id integer!, code character varying(10)!)  key berth_id  check code <> ''
-- holds: whole (berth_id integer!, code character varying(10)! = 'N')  key berth_id  check code <> ''
CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(10) NOT NULL DEFAULT 'N', CHECK (code <> ''));
CREATE TABLE plain (LIKE berth);
CREATE TABLE whole (LIKE berth INCLUDING ALL);
CREATE TABLE some_of (LIKE berth INCLUDING ALL EXCLUDING DEFAULTS);
-- case: CREATE TABLE AS, and SELECT INTO
-- holds: berth (berth_id integer!, code character varying(10)!)  key berth_id
-- holds: copy_a (berth_id integer, code character varying(10))
-- holds: copy_b (id integer, code character varying(10))
-- holds: copy_c (code character varying(10))  temporary
CREATE TABLE berth (berth_id int PRIMARY KEY, code varchar(10) NOT NULL);
CREATE TABLE copy_a AS SELECT * FROM berth;
SELECT berth_id AS id, code INTO copy_b FROM berth;
CREATE TEMPORARY TABLE copy_c AS SELECT code FROM berth;
-- case: partitions and heirs
-- holds: craft (craft_id integer!)  key craft_id
-- holds: tide (taken date!, level integer)
-- holds: tide_2025 (taken date!, level integer)  partition of tide
-- holds: yacht (craft_id integer!, cabins integer)  inherits craft
CREATE TABLE tide (taken date NOT NULL, level int) PARTITION BY RANGE (taken);
CREATE TABLE tide_2025 PARTITION OF tide FOR VALUES FROM ('2025-01-01') TO ('2026-01-01');
CREATE TABLE craft (craft_id int PRIMARY KEY);
CREATE TABLE yacht (cabins int) INHERITS (craft);
-- case: an index that is unique is a key; a partial one is one partly
-- holds: berth (berth_id integer!, code character varying(10), quay text)  key berth_id  unique code  unique quay partly
CREATE TABLE berth (berth_id int, code varchar(10), quay text);
CREATE UNIQUE INDEX berth_code ON berth (code);
CREATE UNIQUE INDEX berth_quay ON berth (quay) WHERE quay <> '';
ALTER TABLE berth ADD CONSTRAINT berth_key PRIMARY KEY (berth_id);
-- case: what depends goes with CASCADE
-- holds: mooring (mooring_id integer!, berth_id integer)  key mooring_id
CREATE TABLE berth (berth_id int PRIMARY KEY);
CREATE TABLE mooring (mooring_id int PRIMARY KEY, berth_id int REFERENCES berth);
DROP TABLE berth CASCADE;
-- case: views, triggers and routines come and go
-- holds: berth (berth_id integer!, code text)  key berth_id
-- holds: routine tidy
-- holds: trigger note after delete on berth off
-- holds: trigger tidy before insert or update on berth origin
-- holds: view named (sign)
CREATE TABLE berth (berth_id int PRIMARY KEY, code text);
CREATE VIEW codes AS SELECT code FROM berth;
CREATE VIEW named (sign) AS SELECT code FROM berth;
CREATE FUNCTION tidy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;
CREATE TRIGGER tidy BEFORE INSERT OR UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION tidy();
CREATE TRIGGER note AFTER DELETE ON berth FOR EACH ROW EXECUTE FUNCTION tidy();
ALTER TABLE berth DISABLE TRIGGER note;
DROP VIEW codes;
-- case: constraints that are dropped and switched
-- holds: owner (owner_id integer!)  key owner_id
-- holds: vessel (vessel_id integer!, owner_id integer, length integer)  key vessel_id
CREATE TABLE owner (owner_id int PRIMARY KEY);
CREATE TABLE vessel (vessel_id int CONSTRAINT vessel_key PRIMARY KEY, owner_id int CONSTRAINT vessel_owner REFERENCES owner, length int CONSTRAINT long CHECK (length > 0));
ALTER TABLE vessel DROP CONSTRAINT vessel_owner, DROP CONSTRAINT long;
