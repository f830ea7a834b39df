-- hazards: key-rewrite
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: the key gets another value [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 key-rewrite ask
UPDATE berth SET berth_id = 40 WHERE berth_id = 4;
-- case: all keys are moved [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 key-rewrite ask
UPDATE berth SET berth_id = berth_id + 1000 WHERE quay = 'north';
-- case: another column [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET code = 'N40' WHERE berth_id = 4;
-- case: the key of the row that is meant [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET owner_id = 7, name = 'Olsen' WHERE owner_id = 7;
