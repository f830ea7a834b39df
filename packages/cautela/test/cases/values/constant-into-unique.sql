-- hazards: constant-into-unique
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: one code for many [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 constant-into-unique stop
UPDATE berth SET code = 'N1' WHERE quay = 'north';
-- case: one row [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET code = 'N1' WHERE berth_id = 4;
-- case: NULL many times [postgresql mysql mariadb sqlite plsql]
UPDATE owner SET mail = NULL WHERE left_on < '2020-01-01';
-- case: NULL only once [tsql]
-- finds: 0 constant-into-unique stop
UPDATE owner SET mail = NULL WHERE left_on < '2020-01-01';
-- case: every row of a SELECT gets it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 constant-into-unique ask
INSERT INTO berth (berth_id, code, quay, status) SELECT berth_id + 1000, 'X', quay, status FROM berth;
-- case: what is looked up by a name [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO berth (berth_id, code, quay, status) SELECT 1000, 'X', quay, status FROM berth WHERE code = 'N4';
-- case: one row of a SELECT [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO berth (berth_id, code, quay, status) SELECT 1000, 'X', quay, status FROM berth WHERE berth_id = 3;
-- case: another one for each row [postgresql mysql mariadb sqlite plsql]
INSERT INTO berth (berth_id, code, quay, status) SELECT berth_id + 1000, CONCAT(code, 'X'), quay, status FROM berth;
-- case: a part of a SELECT without a table [postgresql mysql mariadb sqlite tsql]
INSERT INTO berth (berth_id, code, quay, status) SELECT 1000, 'X', 'N', 'free';
