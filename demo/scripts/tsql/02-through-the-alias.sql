-- The fees of last year's moorings, through a join.
SELECT * INTO mooring_before FROM mooring
GO

UPDATE m
SET m.fee = m.fee + t.per_night
FROM mooring AS m
INNER JOIN vessel AS v ON v.vessel_id = m.vessel_id
INNER JOIN tariff AS t ON t.class = v.class
WHERE m.status = 'planned'

DELETE TOP (10) FROM tide_reading WHERE gauge = 'east mole'

DELETE FROM tariff_notice
