-- script: a vessel changes hands
SET XACT_ABORT ON;
BEGIN TRANSACTION;
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = N'0441 20 11' WHERE owner_id = 22;
COMMIT;
GO
-- script: fees through the alias
UPDATE m
SET m.fee = t.per_night
FROM mooring AS m
JOIN vessel AS v ON v.vessel_id = m.vessel_id
JOIN tariff AS t ON t.class = v.class
WHERE m.status = 'planned' AND m.fee = 0;
GO
-- script: pilotage of cancelled moorings
DELETE p
FROM pilotage p
INNER JOIN mooring m ON m.mooring_id = p.mooring_id
WHERE m.status = 'cancelled'
GO
SELECT COUNT(*) FROM pilotage
GO
-- script: a column for the lamp
ALTER TABLE berth ADD lamp bit NULL
GO
UPDATE berth SET lamp = 0
GO
ALTER TABLE berth ALTER COLUMN lamp bit NOT NULL
GO
-- script: a copy and a scratch table
SELECT * INTO tariff_2025 FROM tariff;
CREATE TABLE #seen (mooring_id int PRIMARY KEY);
INSERT INTO #seen (mooring_id) SELECT mooring_id FROM mooring WHERE status = 'lying';
UPDATE mooring SET status = 'left' FROM mooring INNER JOIN #seen s ON s.mooring_id = mooring.mooring_id WHERE mooring.to_day < '2025-01-01';
DELETE FROM #seen;
DROP TABLE #seen;
-- script: if it is not there yet
IF NOT EXISTS (SELECT 1 FROM pilot WHERE licence = 'PL-331')
  INSERT INTO pilot (pilot_id, name, licence) VALUES (31, 'Ines Farrow', 'PL-331');
ELSE
  UPDATE pilot SET active = 1 WHERE licence = 'PL-331';
MERGE INTO tariff AS t
USING (SELECT 'catamaran' AS class, 31.00 AS per_night) AS s ON s.class = t.class
WHEN MATCHED THEN UPDATE SET per_night = s.per_night
WHEN NOT MATCHED THEN INSERT (class, per_night, valid_from) VALUES (s.class, s.per_night, '2026-01-01');
