-- hazards: missing-column-filter
-- policy: { "unfiltered-by": { "mooring": "port_id", "*_entry": ["port_id", "office"] } }
-- tables
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, port_id integer NOT NULL, berth_id integer, fee numeric(10,2) NOT NULL);
CREATE TABLE berth (berth_id integer PRIMARY KEY, port_id integer NOT NULL, code varchar(20) NOT NULL);
CREATE TABLE day_entry (entry_id integer PRIMARY KEY, port_id integer NOT NULL, office varchar(20) NOT NULL, amount numeric(10,2));
-- case: by the key alone [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-column-filter stop
UPDATE mooring SET fee = 12 WHERE mooring_id = 3;
-- case: in a DELETE and without any filter [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-column-filter stop
-- finds: 1 missing-column-filter stop
DELETE FROM mooring WHERE fee = 0;
DELETE FROM mooring;
-- case: truncated [postgresql mysql mariadb tsql plsql]
-- finds: 0 missing-column-filter stop
TRUNCATE TABLE mooring;
-- case: only in one branch [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-column-filter stop
UPDATE mooring SET fee = 12 WHERE (port_id = 7 AND fee > 3) OR mooring_id = 3;
-- case: everything but one, or compared with itself [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-column-filter stop
-- finds: 1 missing-column-filter stop
UPDATE mooring SET fee = 12 WHERE port_id <> 7;
UPDATE mooring SET fee = 12 WHERE port_id = port_id AND mooring_id = 3;
-- case: the column of the other table [postgresql]
-- finds: 0 missing-column-filter stop
UPDATE mooring SET fee = 12 FROM berth WHERE berth.berth_id = mooring.berth_id AND berth.port_id = 7;
-- case: joined by it, and nothing limits it [postgresql]
-- finds: 0 missing-column-filter stop
UPDATE mooring SET fee = 12 FROM berth b WHERE b.port_id = mooring.port_id AND b.code = 'A1';
-- case: two columns, one of them missing [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-column-filter stop
UPDATE day_entry SET amount = 0 WHERE entry_id = 3 AND port_id = 7;
-- case: in the filter [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 12 WHERE mooring_id = 3 AND port_id = 7;
DELETE FROM mooring WHERE 7 = port_id AND fee = 0;
UPDATE mooring SET fee = 12 WHERE port_id IN (7, 8) AND mooring_id = 3;
UPDATE mooring SET fee = 12 WHERE port_id BETWEEN 7 AND 9;
-- case: in every branch [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 12 WHERE (port_id = 7 AND fee > 3) OR (mooring_id = 3 AND port_id = 8);
-- case: through an alias, and joined by a column that is limited [postgresql]
UPDATE mooring AS m SET fee = 12 WHERE m.mooring_id = 3 AND m.port_id = 7;
UPDATE mooring SET fee = 12 FROM berth b WHERE b.port_id = mooring.port_id AND b.port_id = 7 AND b.berth_id = mooring.berth_id;
-- case: another table, an INSERT, a filter that is never true [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET code = 'A2' WHERE berth_id = 3;
INSERT INTO mooring (mooring_id, port_id, berth_id, fee) VALUES (9001, 7, NULL, 12);
DELETE FROM mooring WHERE 1 = 0;
