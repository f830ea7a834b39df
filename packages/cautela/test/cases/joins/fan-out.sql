-- hazards: fan-out
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: several surveys of a berth [postgresql sqlite]
-- finds: 0 fan-out ask
UPDATE berth SET depth_m = s.depth_m FROM survey s WHERE s.berth_id = berth.berth_id AND berth.quay = 'north';
-- case: the same as a join [mysql mariadb]
-- finds: 0 fan-out ask
UPDATE berth b JOIN survey s ON s.berth_id = b.berth_id SET b.depth_m = s.depth_m WHERE b.quay = 'north';
-- case: the source is met on its key [postgresql sqlite]
UPDATE berth SET depth_m = s.depth_m FROM survey s WHERE s.survey_id = berth.berth_id AND berth.quay = 'north';
-- case: the source is grouped by the join's column [postgresql sqlite]
UPDATE berth SET depth_m = s.depth_m FROM (SELECT berth_id, MAX(depth_m) AS depth_m FROM survey GROUP BY berth_id) s WHERE s.berth_id = berth.berth_id AND berth.quay = 'north';
-- case: a constant is written, whichever matches [postgresql sqlite]
UPDATE berth SET status = 'known' FROM survey s WHERE s.berth_id = berth.berth_id AND berth.quay = 'north';
-- case: one row is taken by its number [plsql]
UPDATE vessel SET class = (SELECT m.status FROM mooring m WHERE m.vessel_id = vessel.vessel_id AND ROWNUM = 1) WHERE vessel_id = 3;
-- case: two rows by their numbers [plsql]
-- finds: 0 fan-out ask
UPDATE vessel SET class = (SELECT m.status FROM mooring m WHERE m.vessel_id = vessel.vessel_id AND ROWNUM <= 2) WHERE vessel_id = 3;
