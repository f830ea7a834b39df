-- BEFORE: look, count, and keep a copy

-- line 1: update of mooring
-- needs: UPDATE on mooring, SELECT on mooring
-- note: Jet SQL has no assertion outside of routines: compare the number of rows by hand

-- How many rows it touches
SELECT COUNT(*) AS rows_touched
FROM mooring
WHERE status = 'planned';

-- How many of them really change
SELECT COUNT(*) AS rows_changed
FROM mooring
WHERE (status = 'planned')
  AND ((mooring.fee <> (fee * 1.1) OR (mooring.fee IS NULL AND (fee * 1.1) IS NOT NULL) OR (mooring.fee IS NOT NULL AND (fee * 1.1) IS NULL)));

-- Old and new values side by side
SELECT TOP 100 mooring.mooring_id,
       mooring.fee AS old_fee,
       (fee * 1.1) AS new_fee
FROM mooring
WHERE status = 'planned'
ORDER BY mooring.mooring_id;

-- Control figures of mooring
SELECT COUNT(*) AS all_rows, SUM(fee) AS sum_fee
FROM mooring;

-- What the figures should be afterwards
SELECT SUM(IIF(status = 'planned', (fee * 1.1), mooring.fee)) AS expected_sum_fee
FROM mooring;

-- Keep the rows that will change
SELECT mooring.*
INTO mooring_before_20261125
FROM mooring
WHERE status = 'planned';

-- THE CHANGE

-- line 1: update of mooring

-- The change
UPDATE mooring SET fee = fee * 1.1 WHERE status = 'planned';

-- AFTER: compare

-- line 1: update of mooring

-- Before and now, row by row
SELECT TOP 100 b.mooring_id,
       b.fee AS was_fee,
       t.fee AS is_fee
FROM mooring_before_20261125 AS b
LEFT JOIN mooring AS t ON t.mooring_id = b.mooring_id
ORDER BY b.mooring_id;

-- Control figures of mooring
SELECT COUNT(*) AS all_rows, SUM(fee) AS sum_fee
FROM mooring;

-- RESTORE: only if the result is wrong

-- line 1: update of mooring

-- Put mooring back as it was
UPDATE mooring AS t INNER JOIN mooring_before_20261125 AS b ON t.mooring_id = b.mooring_id
SET t.fee = b.fee
WHERE ((t.fee <> b.fee OR (t.fee IS NULL AND b.fee IS NOT NULL) OR (t.fee IS NOT NULL AND b.fee IS NULL)));
