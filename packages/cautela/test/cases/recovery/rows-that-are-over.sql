-- hazards: hard-delete no-way-back
-- tables
CREATE TABLE ward (ward_id integer NOT NULL PRIMARY KEY, floor integer, closed_on date);
CREATE TABLE bed (bed_id integer NOT NULL PRIMARY KEY, ward_id integer REFERENCES ward (ward_id), active integer NOT NULL, pos integer);
CREATE TABLE stay (stay_id integer NOT NULL PRIMARY KEY, bed_id integer REFERENCES bed (bed_id));
-- case: what was closed long ago [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
DELETE FROM ward WHERE closed_on < '2020-01-01';
-- case: what has an end [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
DELETE FROM ward WHERE closed_on IS NOT NULL AND floor = 3;
-- case: what is off [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
DELETE FROM bed WHERE active = 0;
-- case: what has no end yet [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 0 hard-delete ask
DELETE FROM ward WHERE closed_on IS NULL AND floor = 4;
-- case: what is on [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 0 hard-delete ask
DELETE FROM bed WHERE active = 1 AND pos = 3;
-- case: what ends later [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 0 hard-delete ask
DELETE FROM ward WHERE closed_on > '2030-01-01';
