-- script: a vessel changes hands
START TRANSACTION;
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = '0441 20 11' WHERE owner_id = 22;
COMMIT;
-- script: fees of cancelled moorings
UPDATE mooring m
JOIN vessel v ON v.vessel_id = m.vessel_id
SET m.fee = 0
WHERE m.status = 'cancelled' AND v.class = 'sail';
DELETE p FROM pilotage p JOIN mooring m ON m.mooring_id = p.mooring_id WHERE m.status = 'cancelled';
-- script: a column for the lamp
ALTER TABLE berth ADD COLUMN lamp TINYINT(1) NULL AFTER status;
UPDATE berth SET lamp = 0;
ALTER TABLE berth MODIFY lamp TINYINT(1) NOT NULL DEFAULT 0;
ALTER TABLE berth ADD INDEX berth_quay (quay);
-- script: tariffs as they are now
CREATE TABLE tariff_2025 AS SELECT * FROM tariff;
INSERT INTO tariff (class, per_night, valid_from) VALUES ('catamaran', 31.00, '2026-01-01')
ON DUPLICATE KEY UPDATE per_night = VALUES(per_night), valid_from = VALUES(valid_from);
UPDATE tariff SET remark = 'agreed in March' WHERE class IN ('sail', 'motor');
-- script: a procedure, only defined
DELIMITER //
CREATE PROCEDURE clear_log()
BEGIN
  DELETE FROM mooring_log;
END//
DELIMITER ;
-- script: log rows in order
DELETE FROM tide_reading WHERE taken_at < '2024-01-01' ORDER BY taken_at LIMIT 5000;
UPDATE mooring SET status = 'left' WHERE mooring_id = 77 AND status = 'lying';
INSERT INTO pilot (pilot_id, name, licence, active) VALUES (31, 'Ines Farrow', 'PL-331', 1);
