-- hazards: case-gap missing-else
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: the filter lets a value through that no branch is for: one finding, told with its fix [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-else ask
UPDATE berth SET note = CASE quay WHEN 'north' THEN 'N' WHEN 'south' THEN 'S' END WHERE quay IN ('north', 'south', 'east');
-- case: a branch for a value that the filter leaves out [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 case-gap ask
UPDATE berth SET note = CASE WHEN quay = 'north' THEN 'N' WHEN quay = 'west' THEN 'W' WHEN quay = 'south' THEN 'S' END WHERE quay IN ('north', 'south');
-- case: ELSE takes in what the other list has for it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 case-gap ask
UPDATE berth SET note = CASE quay WHEN 'north' THEN 'N' WHEN 'west' THEN 'W' ELSE 'S' END WHERE quay IN ('north', 'south');
-- case: ELSE for the rest [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = CASE quay WHEN 'north' THEN 'N' ELSE 'S' END WHERE quay IN ('north', 'south');
-- case: the same values [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = CASE quay WHEN 'north' THEN 'N' WHEN 'south' THEN 'S' END WHERE quay IN ('north', 'south');
