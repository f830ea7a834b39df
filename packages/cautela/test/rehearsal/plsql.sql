-- BEFORE: look, count, and keep a copy

-- line 1: delete of MOORING
-- needs: DELETE on MOORING, SELECT on MOORING

-- How many rows it touches
SELECT COUNT(*) AS rows_touched
FROM mooring
WHERE status = 'cancelled';

-- The rows that go
SELECT mooring.*
FROM mooring
WHERE status = 'cancelled'
ORDER BY mooring.MOORING_ID
FETCH FIRST 100 ROWS ONLY;

-- Control figures of MOORING
SELECT COUNT(*) AS all_rows
FROM MOORING;

-- Control figures of PILOTAGE
SELECT COUNT(*) AS all_rows
FROM PILOTAGE;

-- Control figures of MOORING_LOG
SELECT COUNT(*) AS all_rows
FROM MOORING_LOG;

-- What the figures should be afterwards
SELECT COUNT(*) - SUM(CASE WHEN status = 'cancelled' THEN 1 ELSE 0 END) AS expected_rows
FROM mooring;

-- Keep the rows that will change
CREATE TABLE MOORING_BEFORE_20261125 AS
SELECT mooring.*
FROM mooring
WHERE status = 'cancelled';

-- Keep the rows of PILOTAGE that hang on them
CREATE TABLE PILOTAGE_BEFORE_20261125 AS
SELECT c.*
FROM PILOTAGE c
WHERE EXISTS (SELECT 1 FROM MOORING_BEFORE_20261125 p WHERE p.MOORING_ID = c.MOORING_ID);

-- Note which rows MOORING_LOG holds
CREATE TABLE MOORING_LOG_BEFORE_20261125 AS
SELECT LOG_ID
FROM MOORING_LOG;

-- THE CHANGE

-- line 1: delete of MOORING

-- The change, rolled back at another number of rows
DECLARE
  expected NUMBER;
BEGIN
  SELECT (SELECT COUNT(*) AS rows_touched
FROM mooring
WHERE status = 'cancelled') INTO expected FROM dual;
  DELETE FROM mooring WHERE status = 'cancelled';
  IF SQL%ROWCOUNT <> expected THEN
    RAISE_APPLICATION_ERROR(-20000, 'expected ' || expected || ' rows, changed ' || SQL%ROWCOUNT);
  END IF;
END;
/

-- AFTER: compare

-- line 1: delete of MOORING

-- None of the rows is left (0 is right)
SELECT COUNT(*) AS still_there
FROM MOORING t
WHERE EXISTS (SELECT 1 FROM MOORING_BEFORE_20261125 b WHERE b.MOORING_ID = t.MOORING_ID);

-- Control figures of MOORING
SELECT COUNT(*) AS all_rows
FROM MOORING;

-- Control figures of PILOTAGE
SELECT COUNT(*) AS all_rows
FROM PILOTAGE;

-- Control figures of MOORING_LOG
SELECT COUNT(*) AS all_rows
FROM MOORING_LOG;

-- RESTORE: only if the result is wrong

-- line 1: delete of MOORING

-- Put MOORING back as it was
ALTER TABLE MOORING DISABLE ALL TRIGGERS;

-- Step 2
INSERT INTO MOORING (MOORING_ID, BERTH_ID, VESSEL_ID, FROM_DAY, TO_DAY, FEE, STATUS)
SELECT b.MOORING_ID, b.BERTH_ID, b.VESSEL_ID, b.FROM_DAY, b.TO_DAY, b.FEE, b.STATUS
FROM MOORING_BEFORE_20261125 b;

-- Step 3
INSERT INTO PILOTAGE (PILOTAGE_ID, MOORING_ID, PILOT_ID, DONE_AT, CHARGE)
SELECT b.PILOTAGE_ID, b.MOORING_ID, b.PILOT_ID, b.DONE_AT, b.CHARGE
FROM PILOTAGE_BEFORE_20261125 b
WHERE NOT EXISTS (SELECT 1 FROM PILOTAGE t WHERE t.PILOTAGE_ID = b.PILOTAGE_ID);

-- Step 4
DELETE FROM MOORING_LOG
WHERE NOT EXISTS (SELECT 1 FROM MOORING_LOG_BEFORE_20261125 b WHERE b.LOG_ID = MOORING_LOG.LOG_ID);

-- Step 5
ALTER TABLE MOORING ENABLE ALL TRIGGERS;
