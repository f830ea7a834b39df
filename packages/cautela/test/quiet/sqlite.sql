-- script: a vessel changes hands
BEGIN;
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = '0441 20 11' WHERE owner_id = 22;
COMMIT;
-- script: rebuild of a table
CREATE TABLE tariff_new (class TEXT NOT NULL PRIMARY KEY, per_night REAL NOT NULL, valid_from TEXT NOT NULL, remark TEXT, season TEXT);
INSERT INTO tariff_new (class, per_night, valid_from, remark) SELECT class, per_night, valid_from, remark FROM tariff;
ALTER TABLE tariff RENAME TO tariff_old;
ALTER TABLE tariff_new RENAME TO tariff;
-- script: notices that were taken over
DELETE FROM tariff_notice WHERE EXISTS (SELECT 1 FROM tariff t WHERE t.class = tariff_notice.class AND t.per_night = tariff_notice.new_rate);
INSERT OR IGNORE INTO pilot (pilot_id, name, licence) VALUES (31, 'Ines Farrow', 'PL-331');
INSERT INTO tariff (class, per_night, valid_from) VALUES ('catamaran', 31, '2026-01-01') ON CONFLICT (class) DO UPDATE SET per_night = excluded.per_night;
-- script: small corrections
UPDATE berth SET depth_m = 4.2 WHERE code = 'N02';
UPDATE mooring SET to_day = '2025-04-01' WHERE mooring_id IN (12, 13);
UPDATE owner SET left_on = '2025-02-01' WHERE owner_id = 5 AND left_on IS NULL;
-- script: a new column
ALTER TABLE vessel ADD COLUMN flag TEXT;
UPDATE vessel SET flag = 'NL';
CREATE INDEX vessel_flag ON vessel (flag);
PRAGMA foreign_keys = ON;
-- script: a trigger, only defined
CREATE TRIGGER vessel_gone AFTER DELETE ON vessel BEGIN DELETE FROM mooring WHERE vessel_id = old.vessel_id; END;
UPDATE pilotage SET pilot_id = 3 WHERE pilotage_id = 40;
