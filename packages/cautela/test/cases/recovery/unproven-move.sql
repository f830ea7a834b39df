-- hazards: unproven-move
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: more is deleted than was archived [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 unproven-move stop
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2024-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01';
-- case: the same filter [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01';
-- case: a narrower one [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE to_day < '2025-01-01' AND status = 'left';
-- case: what the archive holds [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE mooring_id IN (SELECT mooring_id FROM mooring_archive);
-- case: EXISTS in the archive [postgresql mysql mariadb sqlite plsql]
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE EXISTS (SELECT 1 FROM mooring_archive a WHERE a.mooring_id = mooring.mooring_id);
-- case: EXISTS that ties nothing [postgresql mysql mariadb sqlite plsql]
-- finds: 1 unproven-move stop
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE EXISTS (SELECT 1 FROM mooring_archive a WHERE a.mooring_id = a.mooring_id);
-- case: another column than the key [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 unproven-move stop
INSERT INTO mooring_archive (mooring_id, owner_id, from_day, to_day, fee, status) SELECT mooring_id, owner_id, from_day, to_day, fee, status FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE owner_id IN (SELECT owner_id FROM mooring_archive);
