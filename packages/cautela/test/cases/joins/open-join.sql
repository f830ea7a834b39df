-- hazards: open-join
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: a comma and no condition for the second table [postgresql sqlite]
-- finds: 0 open-join stop
UPDATE mooring SET fee = t.fee FROM vessel v, mooring t WHERE t.mooring_id = mooring.mooring_id AND mooring.status = 'lying';
-- case: INSERT SELECT from a list of tables [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 open-join stop
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, b.berth_id, b.depth_m, m.from_day FROM mooring m, berth b WHERE b.quay = 'north';
-- case: a comma with its condition in WHERE [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, b.berth_id, b.depth_m, m.from_day FROM mooring m, berth b WHERE b.berth_id = m.berth_id;
-- case: CROSS JOIN says that it is meant [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, b.berth_id, b.depth_m, m.from_day FROM mooring m CROSS JOIN berth b WHERE b.quay = 'north';
-- case: tied through a third table [postgresql]
UPDATE mooring SET fee = 0 FROM vessel v, owner o WHERE v.vessel_id = mooring.vessel_id AND o.owner_id = v.owner_id AND o.name = 'Olsen';
-- case: a row that is looked up by its key [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT o.owner_id, b.berth_id, 3, '2026-12-01' FROM owner o, berth b WHERE b.code = 'N01' AND o.left_on IS NULL;
-- case: by a value that several may have [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 open-join ask
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT o.owner_id, b.berth_id, 3, '2026-12-01' FROM owner o, berth b WHERE b.quay = 'north' AND o.left_on IS NULL;
-- case: by nothing [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 open-join stop
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT o.owner_id, b.berth_id, 3, '2026-12-01' FROM owner o, berth b WHERE o.left_on IS NULL;
