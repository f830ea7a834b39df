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
-- case: SET writes what the filter asks for [postgresql sqlite plsql mysql tsql]
-- finds: 0 leftover-assignment note
UPDATE mooring SET fee = 4, owner_id = 7 WHERE owner_id = 7 AND mooring_id > 100;
-- case: SET writes nothing but what the filter asks for [postgresql sqlite plsql mysql tsql]
-- finds: 0 leftover-assignment ask
UPDATE mooring SET owner_id = 7 WHERE owner_id = 7;
-- case: the key is written along [postgresql sqlite plsql mysql tsql]
UPDATE mooring SET mooring_id = 7, fee = 4 WHERE mooring_id = 7;
-- case: one spelling over the others [mysql tsql]
UPDATE mooring SET status = 'left' WHERE status = 'left';
-- case: the filter of the statement before [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 leftover-assignment ask
UPDATE mooring SET fee = 4 WHERE status = 'left';
UPDATE mooring SET fee = 5, status = 'left' WHERE mooring_id = 8;
-- case: the filter of the statement before, once more [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 4 WHERE status = 'left';
UPDATE mooring SET fee = 5, owner_id = 3 WHERE status = 'lying' AND mooring_id = 8;
