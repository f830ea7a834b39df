-- BEFORE: look, count, and keep a copy

WHENEVER SQLERROR EXIT FAILURE ROLLBACK

-- line 1: delete of MOORING
-- needs: DELETE on MOORING, SELECT on MOORING
-- note: MOORING_LOG records what happened: its rows stay, and the restore adds rows of its own

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

-- Keep the rows that go
CREATE TABLE MOORING_BEFORE_20261125 AS
SELECT mooring.*
FROM mooring
WHERE status = 'cancelled';

-- Keep the rows of PILOTAGE that refer to them
CREATE TABLE PILOTAGE_BEFORE_20261125 AS
SELECT t.*
FROM PILOTAGE t
WHERE EXISTS (SELECT 1 FROM MOORING_BEFORE_20261125 p WHERE p.MOORING_ID = t.MOORING_ID);

-- THE CHANGE

WHENEVER SQLERROR EXIT FAILURE ROLLBACK

-- line 1: delete of MOORING

-- The change, undone at another number of rows
DECLARE
  cautela_expected NUMBER;
BEGIN
  SELECT (SELECT COUNT(*) FROM MOORING_BEFORE_20261125) INTO cautela_expected FROM dual;
DELETE FROM mooring WHERE status = 'cancelled';
  IF SQL%ROWCOUNT <> cautela_expected THEN
    RAISE_APPLICATION_ERROR(-20000, 'line 1: expected ' || cautela_expected || ' rows, changed ' || SQL%ROWCOUNT);
  END IF;
END;
/

-- AFTER: compare

WHENEVER SQLERROR EXIT FAILURE ROLLBACK

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

WHENEVER SQLERROR EXIT FAILURE ROLLBACK

-- line 1: delete of MOORING

-- Put MOORING, PILOTAGE back as they were
INSERT INTO MOORING (MOORING_ID, BERTH_ID, VESSEL_ID, FROM_DAY, TO_DAY, FEE, STATUS)
SELECT b.MOORING_ID, b.BERTH_ID, b.VESSEL_ID, b.FROM_DAY, b.TO_DAY, b.FEE, b.STATUS
FROM MOORING_BEFORE_20261125 b
WHERE NOT EXISTS (SELECT 1 FROM MOORING t WHERE t.MOORING_ID = b.MOORING_ID);
INSERT INTO PILOTAGE (PILOTAGE_ID, MOORING_ID, PILOT_ID, DONE_AT, CHARGE)
SELECT b.PILOTAGE_ID, b.MOORING_ID, b.PILOT_ID, b.DONE_AT, b.CHARGE
FROM PILOTAGE_BEFORE_20261125 b
WHERE NOT EXISTS (SELECT 1 FROM PILOTAGE t WHERE t.PILOTAGE_ID = b.PILOTAGE_ID);

COMMIT;
