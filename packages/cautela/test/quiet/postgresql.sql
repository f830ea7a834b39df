-- script: a vessel changes hands
BEGIN;
SELECT vessel_id, owner_id, name FROM vessel WHERE vessel_id = 14;
UPDATE vessel SET owner_id = 22 WHERE vessel_id = 14;
UPDATE owner SET phone = '0441 20 11', private_note = 'bought the Tern' WHERE owner_id = 22;
COMMIT;
-- script: new rates from the notices
CREATE TABLE tariff_before_2026 AS SELECT * FROM tariff;
UPDATE tariff AS t
SET per_night = n.new_rate, valid_from = n.valid_from
FROM (SELECT class, max(new_rate) AS new_rate, max(valid_from) AS valid_from FROM tariff_notice WHERE new_rate IS NOT NULL GROUP BY class) AS n
WHERE n.class = t.class AND t.per_night <> n.new_rate;
SELECT t.class, b.per_night AS old, t.per_night AS new FROM tariff t JOIN tariff_before_2026 b USING (class);
-- script: moorings that are over
UPDATE mooring SET status = 'left', to_day = DATE '2025-03-31'
WHERE status = 'lying' AND to_day IS NULL AND from_day < DATE '2025-01-01';
DELETE FROM tide_reading WHERE taken_at < TIMESTAMP '2024-01-01 00:00:00';
-- script: a column for the lamp of a berth
ALTER TABLE berth ADD COLUMN lamp boolean;
UPDATE berth SET lamp = false;
ALTER TABLE berth ALTER COLUMN lamp SET NOT NULL;
CREATE INDEX berth_quay ON berth (quay);
COMMENT ON COLUMN berth.lamp IS 'whether the berth has a lamp';
-- script: three new pilots
INSERT INTO pilot (pilot_id, name, licence) VALUES
  (31, 'Ines Farrow', 'PL-331'), (32, 'Tomas Brandt', 'PL-332'), (33, 'Wen Halloran', 'PL-333');
INSERT INTO tariff_notice (notice_id, class, new_rate, valid_from)
SELECT 900 + row_number() OVER (ORDER BY t.class), t.class, round(t.per_night * 1.03, 2), DATE '2026-01-01' FROM tariff t
ON CONFLICT (notice_id) DO NOTHING;
-- script: moorings of vessels without a call sign
WITH silent AS (SELECT v.vessel_id FROM vessel v WHERE v.call_sign IS NULL)
UPDATE mooring m SET fee = 0
FROM silent s WHERE s.vessel_id = m.vessel_id AND m.status = 'planned';
DELETE FROM pilotage p USING mooring m WHERE m.mooring_id = p.mooring_id AND m.status = 'cancelled';
-- script: a view, a function and a trigger, only defined
CREATE OR REPLACE VIEW berth_free AS SELECT berth_id, code FROM berth WHERE status = 'open';
CREATE OR REPLACE FUNCTION wipe_log() RETURNS void LANGUAGE plpgsql AS $$ BEGIN DELETE FROM mooring_log; END $$;
CREATE TABLE IF NOT EXISTS berth_note (berth_id integer REFERENCES berth, note text, PRIMARY KEY (berth_id));
GRANT SELECT ON berth_free TO PUBLIC;
-- script: one by one
UPDATE berth SET status = 'repair' WHERE code = 'N02';
UPDATE berth SET status = 'open' WHERE berth_id IN (4, 5, 6);
UPDATE owner SET mail = lower(mail) WHERE owner_id = 8;
DELETE FROM pilotage WHERE pilotage_id = 19;
INSERT INTO mooring (mooring_id, berth_id, vessel_id, from_day) VALUES (9001, 4, 14, DATE '2026-02-01');
-- script: scratch work in a temporary table
CREATE TEMP TABLE import_owner (name text, mail text, phone text);
COPY import_owner FROM '/tmp/owners.csv' WITH (FORMAT csv);
UPDATE import_owner SET mail = lower(trim(mail));
DELETE FROM import_owner WHERE mail = '';
INSERT INTO owner (name, mail, phone) SELECT i.name, i.mail, i.phone FROM import_owner i WHERE NOT EXISTS (SELECT 1 FROM owner o WHERE o.mail = i.mail);
DROP TABLE import_owner;
