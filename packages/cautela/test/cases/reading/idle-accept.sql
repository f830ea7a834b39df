-- hazards: idle-accept
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: nothing of that name is found [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 idle-accept note
-- cautela: accept hollow-filter, the office asked
UPDATE owner SET phone = '1' WHERE owner_id = 3;
-- case: a hazard that there is not [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 idle-accept note
-- cautela: accept every-rwo, the office asked
DELETE FROM mooring;
-- case: it accepts what is found [postgresql mysql mariadb sqlite tsql plsql]
-- cautela: accept every-row, the season is over
DELETE FROM mooring;
-- case: two are accepted and both are found [postgresql mysql mariadb sqlite tsql plsql]
-- cautela: accept every-row, the season is over
-- cautela: accept no-way-back, the archive has it
DELETE FROM mooring;
