-- hazards: other-dialect
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: NVL is Oracle's [postgresql]
-- finds: 0 other-dialect stop
UPDATE owner SET phone = NVL(phone, mobile) WHERE owner_id = 3;
-- case: GETDATE is SQL Server's [postgresql mysql mariadb sqlite]
-- finds: 0 other-dialect stop
UPDATE owner SET left_on = GETDATE() WHERE owner_id = 3;
-- case: || is OR here [mysql mariadb]
-- finds: 0 other-dialect stop
UPDATE owner SET name = name || ' (left)' WHERE owner_id = 3;
-- case: UPDATE with a JOIN [postgresql]
-- finds: 0 other-dialect stop
UPDATE mooring m JOIN owner o ON o.owner_id = m.owner_id SET m.fee = 0 WHERE o.name = 'Olsen';
-- case: what both have [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET phone = COALESCE(phone, mobile) WHERE owner_id = 3;
-- case: || joins texts [postgresql sqlite plsql]
UPDATE owner SET name = name || ' (left)' WHERE owner_id = 3;
-- case: a function of the database's own [postgresql]
CREATE FUNCTION nvl(a varchar, b varchar) RETURNS varchar LANGUAGE sql IMMUTABLE AS 'SELECT coalesce(a, b)';
UPDATE owner SET phone = NVL(phone, mobile) WHERE owner_id = 3;
-- case: an index without its table [mysql mariadb tsql]
-- finds: 0 other-dialect stop
DROP INDEX berth_code;
