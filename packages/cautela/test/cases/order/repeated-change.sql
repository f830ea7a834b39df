-- hazards: repeated-change
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: a raise twice [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 repeated-change stop
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'lying';
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'lying';
-- case: written in other letters and lines [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 repeated-change stop
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'lying';
update MOORING
   set FEE = FEE * 1.05  where STATUS = 'lying';
-- case: for other rows [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'lying';
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';
