-- hazards: outer-slip hollow-filter dead-filter
-- tables
CREATE TABLE boat (id integer PRIMARY KEY, last_entry integer, kind integer);
CREATE TABLE entry (id integer PRIMARY KEY, boat_id integer NOT NULL, taken_at integer);
CREATE TABLE upgrade (name varchar(10) PRIMARY KEY);
-- case: the subquery takes the name for itself [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-slip stop
UPDATE boat SET last_entry = (SELECT max(taken_at) FROM entry WHERE boat_id = id) WHERE kind = 3;
-- case: with the alias in front [postgresql mysql mariadb sqlite tsql plsql]
UPDATE boat SET last_entry = (SELECT max(taken_at) FROM entry WHERE boat_id = boat.id) WHERE kind = 3;
-- case: the last of all, on purpose [postgresql mysql mariadb sqlite tsql plsql]
UPDATE boat SET last_entry = (SELECT max(taken_at) FROM entry) WHERE kind = 3;
UPDATE boat SET last_entry = (SELECT max(taken_at) FROM entry WHERE boat_id = taken_at) WHERE kind = 3;
-- case: NOT EXISTS that keeps all rows or none [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 hollow-filter stop
DELETE FROM boat WHERE NOT EXISTS (SELECT 1 FROM entry WHERE boat_id = id);
-- case: whether the upgrade has run, beside a filter [postgresql mysql mariadb sqlite tsql plsql]
UPDATE boat SET kind = 4 WHERE kind = 3 AND NOT EXISTS (SELECT 1 FROM upgrade WHERE name = '4.1');
