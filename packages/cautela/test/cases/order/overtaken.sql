-- hazards: stale-filter
-- no catalog
-- case: IF EXISTS (SELECT 1 FROM opt WHERE x = 1) [tsql]
IF EXISTS (SELECT 1 FROM opt WHERE x = 1)
  DELETE FROM boat WHERE berth = 4
ELSE
  UPDATE boat SET note = 'x' WHERE berth = 4
-- case: DELETE FROM boat WHERE berth = 4 LIMIT 100 [mysql]
DELETE FROM boat WHERE berth = 4 LIMIT 100;
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: UPDATE boat SET berth = 5 WHERE berth = 4 LIMIT 100 [mysql]
UPDATE boat SET berth = 5 WHERE berth = 4 LIMIT 100;
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: UPDATE b SET b.berth = 5 FROM boat b WHERE b.berth IN (3, 4) [tsql]
-- finds: 1 stale-filter ask
UPDATE b SET b.berth = 5 FROM boat b WHERE b.berth IN (3, 4);
UPDATE b SET b.note = 'x' FROM boat b WHERE b.berth = 4;
-- case: UPDATE boat SET fee *= 1.10 WHERE fee < 3000 [tsql]
-- finds: 1 stale-filter ask
UPDATE boat SET fee *= 1.10 WHERE fee < 3000;
UPDATE boat SET fee *= 1.05 WHERE fee >= 3000;
-- case: UPDATE boat b SET berth = 5 FROM other o WHERE o.id = b.oid AND b.berth IN (3, 4) [postgresql]
UPDATE boat b SET berth = 5 FROM other o WHERE o.id = b.oid AND b.berth IN (3, 4);
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: DELETE FROM boat WHERE berth IN (3, 4) [postgresql]
DELETE FROM boat WHERE berth IN (3, 4);
INSERT INTO boat (id, berth) VALUES (9, 4);
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: DELETE FROM boat WHERE berth IN (3, 4), 2 [postgresql]
DELETE FROM boat WHERE berth IN (3, 4);
COPY boat FROM '/tmp/x';
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: BEGIN [postgresql]
BEGIN;
DELETE FROM boat WHERE berth IN (3, 4);
ROLLBACK;
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: DELETE FROM boat WHERE berth IN (3, 4), 3 [postgresql]
DELETE FROM boat WHERE berth IN (3, 4);
UPDATE boat SET berth = 4 WHERE id = 7;
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: UPDATE boat SET fee = fee * 1.05 WHERE fee >= 3000 [postgresql mysql tsql plsql sqlite jet]
UPDATE boat SET fee = fee * 1.05 WHERE fee >= 3000;
UPDATE boat SET fee = fee * 1.10 WHERE fee < 3000;
-- case: UPDATE boat SET fee = fee + 500 WHERE fee BETWEEN 1000 AND 2000 [postgresql mysql tsql plsql sqlite jet]
-- finds: 1 stale-filter ask
UPDATE boat SET fee = fee + 500 WHERE fee BETWEEN 1000 AND 2000;
UPDATE boat SET fee = fee + 300 WHERE fee > 2000 AND fee <= 3000;
-- case: UPDATE boat SET fee = fee + 500 WHERE fee BETWEEN 1000 AND 2000 [postgresql mysql]
UPDATE boat SET fee = fee + 500 WHERE fee BETWEEN 1000 AND 2000;
UPDATE boat SET fee = 2200 WHERE fee > 2200;
-- case: UPDATE boat SET level = level - 1 WHERE level > 3 [postgresql mysql]
-- finds: 1 stale-filter ask
UPDATE boat SET level = level - 1 WHERE level > 3;
UPDATE boat SET level = level - 1 WHERE level = 3;
-- case: UPDATE boat SET level = level + 1 WHERE level > 3 [postgresql mysql]
UPDATE boat SET level = level + 1 WHERE level > 3;
UPDATE boat SET level = level + 1 WHERE level = 3;
-- case: UPDATE pier SET pos = pos + 1 WHERE pos >= 5 [mysql]
UPDATE pier SET pos = pos + 1 WHERE pos >= 5;
UPDATE pier SET pos = 5 WHERE id = 7;
-- case: UPDATE pier SET pos = -1 WHERE pos = 5 [mysql]
UPDATE pier SET pos = -1 WHERE pos = 5;
UPDATE pier SET pos = pos - 1 WHERE pos > 5 AND pos <= 9;
UPDATE pier SET pos = 9 WHERE pos = -1;
-- case: UPDATE pier SET pos = pos + 1000 WHERE pos < 1000 [mysql]
UPDATE pier SET pos = pos + 1000 WHERE pos < 1000;
UPDATE pier SET pos = pos - 999 WHERE pos >= 1000;
-- case: BEGIN [plsql]
-- finds: 2 stale-filter ask
BEGIN
  UPDATE boat SET fee = fee * 1.10 WHERE fee < 3000;
  UPDATE boat SET fee = fee * 1.05 WHERE fee >= 3000;
END;
/
-- case: DO $$ BEGIN [postgresql]
-- finds: 3 stale-filter ask
DO $$ BEGIN
  UPDATE boat SET fee = fee * 1.10 WHERE fee < 3000;
  UPDATE boat SET fee = fee * 1.05 WHERE fee >= 3000;
END $$;
-- case: UPDATE boat SET fee = fee * 1.10 WHERE fee < 3000 AND year = 2026 [postgresql]
-- finds: 1 stale-filter ask
UPDATE boat SET fee = fee * 1.10 WHERE fee < 3000 AND year = 2026;
UPDATE boat SET fee = fee * 1.05 WHERE fee >= 3000 AND year = 2026;
-- case: UPDATE boat SET fee = 100 WHERE fee < 50 [postgresql]
-- finds: 1 stale-filter ask
UPDATE boat SET fee = 100 WHERE fee < 50;
UPDATE boat SET fee = 200 WHERE fee BETWEEN 90 AND 150;
-- case: DELETE FROM boat WHERE left_on IS NOT NULL [postgresql]
-- finds: 1 stale-filter ask
DELETE FROM boat WHERE left_on IS NOT NULL;
UPDATE boat SET note = 'gone' WHERE left_on IS NOT NULL AND berth = 4;
-- case: UPDATE boat SET berth = 9 WHERE berth IN (4, 5) [postgresql]
-- finds: 1 stale-filter ask
UPDATE boat SET berth = 9 WHERE berth IN (4, 5);
DELETE FROM boat WHERE berth = 4;
-- case: UPDATE boat SET berth = NULL WHERE berth = 4 [postgresql]
-- finds: 1 stale-filter ask
UPDATE boat SET berth = NULL WHERE berth = 4;
UPDATE boat SET note = 'x' WHERE berth = 4;
-- case: UPDATE boat SET state = 'new' WHERE state IS NULL [postgresql]
-- finds: 1 stale-filter ask
UPDATE boat SET state = 'new' WHERE state IS NULL;
UPDATE boat SET note = 'x' WHERE state IS NULL;
-- case: dates without dashes [tsql mysql]
-- finds: 1 stale-filter ask
UPDATE stay SET status = 'closed' WHERE status = 'left' AND left_on < '20250101';
DELETE FROM stay WHERE status = 'left' AND left_on < '2024-01-01 00:00:00';
-- case: a later date [tsql mysql]
UPDATE stay SET status = 'closed' WHERE status = 'left' AND left_on < '20250101';
DELETE FROM stay WHERE status = 'left' AND left_on < '20250102';
-- case: three bands [postgresql mysql]
-- finds: 1 stale-filter ask
-- finds: 2 stale-filter ask
UPDATE berth SET fee = ROUND(fee * 1.08, 2) WHERE fee <= 50;
UPDATE berth SET fee = ROUND(fee * 1.05, 2) WHERE fee > 50 AND fee <= 200;
UPDATE berth SET fee = ROUND(fee * 1.03, 2) WHERE fee > 200;
