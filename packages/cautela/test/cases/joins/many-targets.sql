-- hazards: many-targets
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: SET names columns of two tables [mysql mariadb]
-- finds: 0 many-targets ask
UPDATE mooring m JOIN vessel v ON v.vessel_id = m.vessel_id SET m.fee = 0, v.class = 'sail' WHERE m.mooring_id = 3;
-- case: the list of a DELETE names two [mysql mariadb]
-- finds: 0 many-targets ask
DELETE m, v FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id WHERE m.mooring_id = 3;
-- case: one target [mysql mariadb]
DELETE m FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail';
