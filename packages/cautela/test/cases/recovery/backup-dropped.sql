-- hazards: backup-dropped
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: the copy goes in the same script [postgresql mysql mariadb sqlite]
-- finds: 2 backup-dropped ask
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE status = 'left';
DROP TABLE mooring_before;
-- case: it is emptied [postgresql mysql mariadb]
-- finds: 2 backup-dropped ask
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE status = 'left';
TRUNCATE TABLE mooring_before;
-- case: it stays [postgresql mysql mariadb sqlite]
CREATE TABLE mooring_before AS SELECT * FROM mooring;
DELETE FROM mooring WHERE status = 'left';
