-- hazards: wrong-target
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: both are filtered and nothing ties them [mysql mariadb]
-- finds: 0 wrong-target stop
DELETE m FROM mooring m, vessel v WHERE m.status = 'left' AND v.class = 'sail';
-- case: the same with FROM [postgresql sqlite]
-- finds: 0 wrong-target stop
UPDATE mooring SET fee = 0 FROM vessel v WHERE mooring.status = 'left' AND v.class = 'sail';
-- case: only the other one is filtered [postgresql sqlite]
-- finds: 0 wrong-target stop
UPDATE mooring SET fee = 0 FROM vessel v WHERE v.class = 'sail';
-- case: a value from one row, named by its key [postgresql sqlite]
UPDATE mooring SET fee = b.depth_m FROM berth b WHERE mooring.status = 'left' AND b.code = 'N1';
-- case: a value from a table of settings [postgresql sqlite]
UPDATE mooring SET fee = s.depth_m FROM survey s WHERE mooring.status = 'left';
-- case: tied [postgresql sqlite]
UPDATE mooring SET fee = 0 FROM vessel v WHERE v.vessel_id = mooring.vessel_id AND mooring.status = 'left' AND v.class = 'sail';
