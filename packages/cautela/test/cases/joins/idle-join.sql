-- hazards: idle-join
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: ON compares the first table with itself [mysql mariadb]
-- finds: 0 idle-join stop
UPDATE mooring m JOIN vessel v ON m.vessel_id = m.vessel_id SET m.fee = 0 WHERE v.class = 'sail';
-- case: ON compares the joined table with itself [tsql]
-- finds: 0 idle-join stop
UPDATE m SET fee = 0 FROM mooring m LEFT JOIN vessel v ON v.vessel_id = v.vessel_id WHERE v.class = 'sail';
-- case: ON compares the joined table with a constant only [mysql mariadb]
-- finds: 0 idle-join stop
DELETE m FROM mooring m LEFT JOIN vessel v ON m.status = 'left' WHERE v.class = 'sail';
-- case: ON ties the two, with a constant besides [mysql mariadb]
UPDATE mooring m JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail' SET m.fee = 0;
-- case: the tie stands in WHERE [mysql mariadb]
UPDATE mooring m JOIN vessel v ON v.class = 'sail' SET m.fee = 0 WHERE v.vessel_id = m.vessel_id;
