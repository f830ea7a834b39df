-- hazards: outer-null
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: a subquery in SET without the same filter in WHERE [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-null ask
UPDATE berth SET depth_m = (SELECT s.depth_m FROM survey s WHERE s.survey_id = berth.berth_id);
-- case: a LEFT JOIN whose value is written [mysql mariadb]
-- finds: 0 outer-null ask
UPDATE berth b LEFT JOIN survey s ON s.survey_id = b.berth_id SET b.depth_m = s.depth_m WHERE b.quay = 'north';
-- case: EXISTS lets only rows with a match through [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET depth_m = (SELECT s.depth_m FROM survey s WHERE s.survey_id = berth.berth_id) WHERE EXISTS (SELECT 1 FROM survey s WHERE s.survey_id = berth.berth_id);
-- case: COALESCE keeps the old value [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET depth_m = COALESCE((SELECT s.depth_m FROM survey s WHERE s.survey_id = berth.berth_id), depth_m);
-- case: an aggregate without GROUP BY that counts [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET depth_m = (SELECT COUNT(*) FROM survey s WHERE s.berth_id = berth.berth_id);
