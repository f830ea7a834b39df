-- hazards: swapped-columns
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: crosswise in one SET, in order [mysql mariadb]
-- finds: 0 swapped-columns stop
UPDATE owner SET phone = mobile, mobile = phone WHERE owner_id = 3;
-- case: engines that read the old row first swap them [postgresql sqlite tsql plsql]
UPDATE owner SET phone = mobile, mobile = phone WHERE owner_id = 3;
-- case: crosswise from another table [postgresql]
-- finds: 0 swapped-columns ask
UPDATE mooring SET from_day = o.to_day, to_day = o.from_day FROM mooring_old o WHERE o.mooring_id = mooring.mooring_id;
-- case: each from its own [postgresql]
UPDATE mooring SET from_day = o.from_day, to_day = o.to_day FROM mooring_old o WHERE o.mooring_id = mooring.mooring_id;
