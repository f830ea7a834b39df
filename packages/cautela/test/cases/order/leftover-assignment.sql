-- hazards: leftover-assignment
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: the name of the row before [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 leftover-assignment ask
UPDATE owner SET name = 'Olsen', phone = '441', mobile = '771' WHERE owner_id = 3;
UPDATE owner SET name = 'Olsen', phone = '442', mobile = '772' WHERE owner_id = 4;
-- case: everything differs [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET name = 'Olsen', phone = '441', mobile = '771' WHERE owner_id = 3;
UPDATE owner SET name = 'Berg', phone = '442', mobile = '772' WHERE owner_id = 4;
