-- hazards: shadowed-alias
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: an alias that is another table's name [postgresql sqlite]
-- finds: 0 shadowed-alias ask
UPDATE mooring SET fee = 0 FROM vessel owner WHERE owner.vessel_id = mooring.vessel_id AND owner.class = 'sail';
-- case: the same in a join [mysql mariadb]
-- finds: 0 shadowed-alias ask
UPDATE mooring m JOIN vessel berth ON berth.vessel_id = m.vessel_id SET m.fee = 0 WHERE berth.class = 'sail';
-- case: an alias of its own [mysql mariadb]
UPDATE mooring m JOIN vessel v ON v.vessel_id = m.vessel_id SET m.fee = 0 WHERE v.class = 'sail';
