-- script: a vessel changes hands
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = '0441 20 11' WHERE owner_id = 22;
COMMIT;
-- script: rates from the notices, where there is one
UPDATE tariff t
SET per_night = (SELECT MAX(n.new_rate) FROM tariff_notice n WHERE n.class = t.class)
WHERE EXISTS (SELECT 1 FROM tariff_notice n WHERE n.class = t.class AND n.new_rate IS NOT NULL);
COMMIT;
-- script: a column for the lamp
ALTER TABLE berth ADD (lamp NUMBER(1));
UPDATE berth SET lamp = 0;
ALTER TABLE berth MODIFY (lamp NOT NULL);
-- script: a procedure, only defined
CREATE OR REPLACE PROCEDURE clear_log IS
BEGIN
  DELETE FROM mooring_log;
END;
/
-- script: rows from a form
INSERT INTO pilot (pilot_id, name, licence) VALUES (31, 'Ines Farrow', 'PL-331');
DELETE FROM pilotage WHERE pilotage_id = 19;
UPDATE mooring SET status = 'left', to_day = DATE '2025-03-31' WHERE mooring_id = 12;
MERGE INTO tariff t USING (SELECT 'catamaran' AS class, 31 AS per_night FROM dual) s ON (t.class = s.class)
WHEN MATCHED THEN UPDATE SET t.per_night = s.per_night
WHEN NOT MATCHED THEN INSERT (class, per_night, valid_from) VALUES (s.class, s.per_night, DATE '2026-01-01');
COMMIT;
-- script: a copy, and last year's readings
CREATE TABLE tide_reading_2023 AS SELECT * FROM tide_reading WHERE taken_at < TIMESTAMP '2024-01-01 00:00:00';
DELETE FROM tide_reading WHERE taken_at < TIMESTAMP '2024-01-01 00:00:00';
COMMIT;
