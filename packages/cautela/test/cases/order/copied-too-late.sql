-- hazards: stale-filter
-- tables
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, status varchar(10) NOT NULL, to_day date);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, status varchar(10) NOT NULL, to_day date);
-- case: the rows are deleted before they are copied [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 1 stale-filter stop
DELETE FROM mooring WHERE status = 'left';
INSERT INTO mooring_archive (mooring_id, status) SELECT mooring_id, status FROM mooring WHERE status = 'left';
-- case: copied, and then deleted [postgresql mysql mariadb sqlite tsql plsql jet]
INSERT INTO mooring_archive (mooring_id, status) SELECT mooring_id, status FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';
-- case: others are copied [postgresql mysql mariadb sqlite tsql plsql jet]
DELETE FROM mooring WHERE status = 'left';
INSERT INTO mooring_archive (mooring_id, status) SELECT mooring_id, status FROM mooring WHERE status = 'planned';
-- case: a copy by a date [postgresql mysql mariadb sqlite]
-- finds: 1 stale-filter stop
DELETE FROM mooring WHERE to_day < '2025-01-01';
CREATE TABLE mooring_old AS SELECT * FROM mooring WHERE to_day < '2025-01-01';
-- case: the table was emptied [postgresql mysql mariadb tsql]
-- finds: 1 stale-filter stop
TRUNCATE TABLE mooring;
INSERT INTO mooring_archive (mooring_id, status) SELECT mooring_id, status FROM mooring;
-- case: and filled again [postgresql mysql mariadb tsql]
TRUNCATE TABLE mooring;
INSERT INTO mooring (mooring_id, status) VALUES (1, 'left');
INSERT INTO mooring_archive (mooring_id, status) SELECT mooring_id, status FROM mooring;
