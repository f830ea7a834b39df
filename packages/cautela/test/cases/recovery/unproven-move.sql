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
-- case: a join with the archive [postgresql]
INSERT INTO mooring_archive SELECT * FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring USING mooring_archive a WHERE a.mooring_id = mooring.mooring_id;
-- case: a join with the archive, named as target [mysql mariadb tsql]
INSERT INTO mooring_archive SELECT * FROM mooring WHERE to_day < '2025-01-01';
DELETE m FROM mooring m JOIN mooring_archive a ON a.mooring_id = m.mooring_id;
-- case: a join that finds what the archive lacks [mysql mariadb tsql]
-- finds: 1 unproven-move stop
INSERT INTO mooring_archive SELECT * FROM mooring WHERE to_day < '2025-01-01';
DELETE m FROM mooring m LEFT JOIN mooring_archive a ON a.mooring_id = m.mooring_id WHERE a.mooring_id IS NULL;
-- case: returned rows arrive whole [postgresql]
WITH gone AS (DELETE FROM mooring WHERE status = 'left' RETURNING *) INSERT INTO mooring_archive SELECT * FROM gone;
-- case: returned rows are filtered on their way [postgresql]
-- finds: 0 unproven-move stop
WITH gone AS (DELETE FROM mooring WHERE status = 'left' RETURNING *) INSERT INTO mooring_archive SELECT * FROM gone WHERE to_day IS NOT NULL;
-- case: returned rows are joined on their way [postgresql]
-- finds: 0 unproven-move stop
WITH gone AS (DELETE FROM mooring WHERE status = 'left' RETURNING *) INSERT INTO mooring_archive SELECT gone.* FROM gone JOIN owner ON owner.owner_id = gone.owner_id;
-- case: returned rows are cut off on their way [postgresql]
-- finds: 0 unproven-move stop
WITH gone AS (DELETE FROM mooring WHERE status = 'left' RETURNING *) INSERT INTO mooring_archive SELECT * FROM gone ORDER BY mooring_id LIMIT 10;
-- case: a history is told of a change, and keeps no row [postgresql mysql mariadb sqlite]
CREATE TABLE mooring_history (mooring_id integer, what varchar(20), at timestamp);
INSERT INTO mooring_history (mooring_id, what, at) SELECT mooring_id, 'closed', CURRENT_TIMESTAMP FROM mooring WHERE to_day < '2025-01-01';
DELETE FROM mooring WHERE status = 'cancelled';
