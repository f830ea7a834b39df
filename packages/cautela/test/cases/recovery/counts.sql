-- hazards: expect-mismatch check-differs
-- tables
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee integer NOT NULL);
-- case: a count belongs to the statement above it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 expect-mismatch note
UPDATE mooring SET fee = 4 WHERE mooring_id = 3;
-- 13 rows affected
UPDATE mooring SET fee = 5 WHERE status = 'left';
-- case: and not to the one below [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 5 WHERE status = 'left';
-- 13 rows affected
UPDATE mooring SET fee = 4 WHERE mooring_id = 3;
-- case: at the end [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 expect-mismatch note
UPDATE mooring SET fee = 4 WHERE mooring_id = 3;
-- 13 rows affected
-- case: a look right after a change is its control [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 3 WHERE status = 'left' AND fee = 4;
SELECT * FROM mooring WHERE status = 'left' OR fee = 3;
DELETE FROM mooring WHERE status = 'gone' AND fee = 4;
-- case: a look before it is its check [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 check-differs ask
SELECT * FROM mooring WHERE status = 'left' OR fee = 3;
DELETE FROM mooring WHERE status = 'left' AND fee = 3;
