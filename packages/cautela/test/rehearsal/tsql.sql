-- BEFORE: look, count, and keep a copy

-- line 1: update of dbo.mooring
-- needs: UPDATE on dbo.mooring, SELECT on dbo.mooring, SELECT on dbo.vessel
-- note: a row that the join meets several times stands in the preview as often, and only one of its new values is written

-- How many rows it touches
SELECT COUNT(*) AS rows_touched
FROM (SELECT DISTINCT m.mooring_id FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id
WHERE v.class = 'sail') AS touched;

-- Old and new values side by side
SELECT TOP (100) m.mooring_id,
       m.fee AS old_fee,
       CAST((m.fee * 1.1) AS decimal(10, 2)) AS new_fee
FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id
WHERE v.class = 'sail'
ORDER BY m.mooring_id;

-- Control figures of dbo.mooring
SELECT COUNT(*) AS all_rows, SUM(fee) AS sum_fee
FROM mooring;

-- Control figures of dbo.mooring_log
SELECT COUNT(*) AS all_rows
FROM mooring_log;

-- Keep the rows that will change
SELECT DISTINCT m.*
INTO mooring_before_20261125
FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id
WHERE v.class = 'sail';

-- Note which rows dbo.mooring_log holds
SELECT log_id
INTO mooring_log_before_20261125
FROM mooring_log;

-- THE CHANGE

-- line 1: update of dbo.mooring

-- The change, rolled back at another number of rows
DECLARE @expected int = (SELECT COUNT(*) AS rows_touched
FROM (SELECT DISTINCT m.mooring_id FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id
WHERE v.class = 'sail') AS touched);
DECLARE @changed int;
BEGIN TRANSACTION;
UPDATE m SET m.fee = m.fee * 1.1 FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail';
SET @changed = @@ROWCOUNT;
IF @changed <> @expected
BEGIN
  ROLLBACK TRANSACTION;
  THROW 50000, 'another number of rows than expected; rolled back', 1;
END;
COMMIT TRANSACTION;

-- AFTER: compare

-- line 1: update of dbo.mooring

-- Before and now, row by row
SELECT TOP (100) b.mooring_id,
       b.fee AS was_fee,
       t.fee AS is_fee
FROM mooring_before_20261125 AS b
LEFT JOIN mooring AS t ON t.mooring_id = b.mooring_id
ORDER BY b.mooring_id;

-- Control figures of dbo.mooring
SELECT COUNT(*) AS all_rows, SUM(fee) AS sum_fee
FROM mooring;

-- Control figures of dbo.mooring_log
SELECT COUNT(*) AS all_rows
FROM mooring_log;

-- RESTORE: only if the result is wrong

-- line 1: update of dbo.mooring

-- Put dbo.mooring back as it was
DISABLE TRIGGER ALL ON mooring;
GO

-- Step 2
UPDATE mooring
SET fee = (SELECT b.fee FROM mooring_before_20261125 AS b WHERE b.mooring_id = mooring.mooring_id)
WHERE EXISTS (SELECT 1 FROM mooring_before_20261125 AS b WHERE b.mooring_id = mooring.mooring_id);

-- Step 3
DELETE FROM mooring_log
WHERE NOT EXISTS (SELECT 1 FROM mooring_log_before_20261125 AS b WHERE b.log_id = mooring_log.log_id);

-- Step 4
ENABLE TRIGGER ALL ON mooring;
GO
