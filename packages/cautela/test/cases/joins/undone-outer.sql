-- hazards: undone-outer
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: WHERE asks for a value of the outer table [mysql mariadb]
-- finds: 0 undone-outer note
UPDATE mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id SET m.fee = 0 WHERE v.class = 'sail';
-- case: an INSERT [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 undone-outer note
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, m.berth_id, b.depth_m, m.from_day FROM mooring m LEFT JOIN berth b ON b.berth_id = m.berth_id WHERE b.quay = 'north';
-- case: NULL is let through [mysql mariadb]
UPDATE mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id SET m.fee = 0 WHERE v.class = 'sail' OR v.class IS NULL;
-- case: rows without a match are asked for [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, m.berth_id, 1, m.from_day FROM mooring m LEFT JOIN survey s ON s.berth_id = m.berth_id WHERE s.survey_id IS NULL;
-- case: IS NULL of a column that may be empty in a row that is there [mysql mariadb]
-- finds: 0 undone-outer ask
DELETE b FROM berth b LEFT JOIN mooring m ON m.berth_id = b.berth_id WHERE m.to_day IS NULL;
-- case: the same of an INSERT [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 undone-outer ask
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT b.berth_id, b.berth_id, 1, '2026-12-01' FROM berth b LEFT JOIN mooring m ON m.berth_id = b.berth_id WHERE m.to_day IS NULL;
-- case: the key is asked for as well [mysql mariadb]
DELETE b FROM berth b LEFT JOIN mooring m ON m.berth_id = b.berth_id WHERE m.to_day IS NULL AND m.mooring_id IS NULL;
-- case: the column is one that the join compares [mysql mariadb]
DELETE o FROM owner o LEFT JOIN owner p ON p.mail = o.phone WHERE p.mail IS NULL;
-- case: a column that is never empty [mysql mariadb]
DELETE b FROM berth b LEFT JOIN mooring m ON m.berth_id = b.berth_id WHERE m.status IS NULL;
