-- hazards: stale-filter
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_archive (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: filters on what was overwritten [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 stale-filter ask
UPDATE mooring SET status = 'left' WHERE status = 'lying';
UPDATE mooring SET fee = 0 WHERE status = 'lying';
-- case: in the other order [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 0 WHERE status = 'lying';
UPDATE mooring SET status = 'left' WHERE status = 'lying';
-- case: rows come in between [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET status = 'left' WHERE status = 'lying';
INSERT INTO mooring (mooring_id, owner_id, from_day, fee, status) VALUES (77, 3, '2025-01-01', 10, 'lying');
UPDATE mooring SET fee = 0 WHERE status = 'lying';
-- case: two words are swapped [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 stale-filter ask
UPDATE mooring SET status = 'left' WHERE status = 'lying';
UPDATE mooring SET status = 'lying' WHERE status = 'left';
-- case: a joined table has no such rows any more [postgresql]
-- finds: 1 stale-filter ask
UPDATE mooring SET status = 'left' WHERE status = 'lying';
DELETE FROM mooring_archive a USING mooring m WHERE m.mooring_id = a.mooring_id AND m.status = 'lying';
-- case: a joined table is asked for what is there [postgresql]
UPDATE mooring SET status = 'left' WHERE status = 'lying';
DELETE FROM mooring_archive a USING mooring m WHERE m.mooring_id = a.mooring_id AND m.status = 'left';
