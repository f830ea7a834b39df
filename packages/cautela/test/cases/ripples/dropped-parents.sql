-- hazards: cascade reference-blocks
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(9));
CREATE TABLE stay (stay_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL REFERENCES berth (berth_id) ON DELETE CASCADE);
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id));
CREATE TABLE pilot (pilot_id integer NOT NULL PRIMARY KEY);
CREATE TABLE trip (trip_id integer NOT NULL PRIMARY KEY, pilot_id integer REFERENCES pilot (pilot_id) ON DELETE SET NULL);
-- case: a parent is rebuilt, and keys are on [sqlite]
-- finds: 3 cascade stop
PRAGMA foreign_keys = ON;
CREATE TABLE berth_new (berth_id integer PRIMARY KEY, code text, quay text);
INSERT INTO berth_new (berth_id, code) SELECT berth_id, code FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: nobody says whether they are on [sqlite]
-- finds: 2 cascade ask
CREATE TABLE berth_new (berth_id integer PRIMARY KEY, code text, quay text);
INSERT INTO berth_new (berth_id, code) SELECT berth_id, code FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: they are off [sqlite]
PRAGMA foreign_keys = OFF;
CREATE TABLE berth_new (berth_id integer PRIMARY KEY, code text, quay text);
INSERT INTO berth_new (berth_id, code) SELECT berth_id, code FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: they are switched off too late [sqlite]
-- finds: 3 cascade ask
BEGIN;
PRAGMA foreign_keys = OFF;
INSERT INTO berth VALUES (7, 'x');
DROP TABLE berth;
COMMIT;
-- case: its children refuse it [sqlite]
-- finds: 1 reference-blocks ask
PRAGMA foreign_keys = ON;
DROP TABLE owner;
-- case: its children are emptied of their key [sqlite]
-- finds: 1 cascade ask
PRAGMA foreign_keys = ON;
DROP TABLE pilot;
-- case: the children go first [sqlite]
PRAGMA foreign_keys = ON;
DROP TABLE stay;
DROP TABLE berth;
