-- hazards: overwrites-filled
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: a stand-in for all of a quay [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 overwrites-filled ask
UPDATE berth SET note = 'unknown' WHERE quay = 'north';
-- case: only where there is nothing [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = 'unknown' WHERE quay = 'north' AND note IS NULL;
-- case: with COALESCE [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = COALESCE(note, 'unknown') WHERE quay = 'north';
