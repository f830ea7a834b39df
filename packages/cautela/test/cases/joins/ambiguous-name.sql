-- hazards: ambiguous-name
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(10), length_m numeric(6,2) NOT NULL);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE survey (survey_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL, depth_m numeric(6,2), taken_on date NOT NULL);
-- case: a column that both tables have [postgresql]
-- finds: 0 ambiguous-name stop
UPDATE mooring SET fee = 0 FROM berth WHERE berth.berth_id = mooring.berth_id AND status = 'closed';
-- case: in the list of an INSERT SELECT [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 ambiguous-name stop
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, berth_id, 1, m.from_day FROM mooring m JOIN berth b ON b.berth_id = m.berth_id;
-- case: qualified [postgresql]
UPDATE mooring SET fee = 0 FROM berth WHERE berth.berth_id = mooring.berth_id AND berth.status = 'closed';
-- case: merged by USING [postgresql mysql mariadb sqlite]
INSERT INTO survey (survey_id, berth_id, depth_m, taken_on) SELECT m.mooring_id, berth_id, 1, m.from_day FROM mooring m JOIN berth b USING (berth_id);
