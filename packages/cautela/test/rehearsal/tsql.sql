-- BEFORE: look, count, and keep a copy

SET XACT_ABORT ON;
GO

-- line 1: update of dbo.mooring
-- needs: UPDATE on dbo.mooring, SELECT on dbo.mooring, SELECT on dbo.vessel
-- note: a row that the join meets several times stands in the preview as often, and only one of its new values is written
-- note: dbo.mooring_log records what happened: its rows stay, and the restore adds rows of its own

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
SELECT t.*
INTO mooring_before_20261125
FROM mooring AS t
WHERE t.mooring_id IN (SELECT m.mooring_id FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id
WHERE v.class = 'sail');

-- THE CHANGE

SET XACT_ABORT ON;
GO

-- line 1: update of dbo.mooring

-- The change, undone at another number of rows
DECLARE @cautela_expected_1 bigint = (SELECT COUNT(*) FROM mooring_before_20261125);
DECLARE @cautela_changed_1 bigint;
BEGIN TRANSACTION;
UPDATE m SET m.fee = m.fee * 1.1 FROM mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail';
SET @cautela_changed_1 = @@ROWCOUNT;
IF @cautela_changed_1 <> @cautela_expected_1
BEGIN
  ROLLBACK TRANSACTION;
  THROW 50000, 'line 1: another number of rows than expected; rolled back', 1;
END;
COMMIT TRANSACTION;

-- AFTER: compare

SET XACT_ABORT ON;
GO

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

SET XACT_ABORT ON;
BEGIN TRANSACTION;
GO

-- line 1: update of dbo.mooring

-- Put dbo.mooring back as it was
ALTER TABLE mooring DISABLE TRIGGER refuse_double_mooring;
UPDATE t
SET fee = b.fee
FROM mooring AS t
INNER JOIN mooring_before_20261125 AS b ON t.mooring_id = b.mooring_id
WHERE (EXISTS (SELECT t.fee EXCEPT SELECT b.fee));
ALTER TABLE mooring ENABLE TRIGGER refuse_double_mooring;

COMMIT TRANSACTION;
