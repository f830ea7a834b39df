-- script: a vessel changes hands
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = "0441 20 11" WHERE owner_id = 22;
-- script: fees of cancelled moorings
UPDATE mooring INNER JOIN vessel ON mooring.vessel_id = vessel.vessel_id SET mooring.fee = 0 WHERE mooring.status = "cancelled" AND vessel.class = "sail";
-- script: pilotage of cancelled moorings
DELETE pilotage.* FROM pilotage INNER JOIN mooring ON pilotage.mooring_id = mooring.mooring_id WHERE mooring.status = "cancelled";
-- script: rows
INSERT INTO pilot (pilot_id, name, licence, active) VALUES (31, "Ines Farrow", "PL-331", 1);
DELETE * FROM tide_reading WHERE taken_at < #2024-01-01#;
UPDATE mooring SET status = "left" WHERE mooring_id = 12;
-- script: a copy
SELECT * INTO tariff_2025 FROM tariff;
UPDATE tariff SET per_night = 31 WHERE class = "catamaran";
-- script: a column
ALTER TABLE berth ADD COLUMN lamp YESNO;
UPDATE berth SET lamp = False;
