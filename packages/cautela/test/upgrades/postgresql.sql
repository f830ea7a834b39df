-- script: 4.2 to 4.3, new columns filled, a lookup table seeded, the version bumped
-- Upgrade of the harbour office, 4.2 -> 4.3
BEGIN;
SET LOCAL lock_timeout = '5s';
ALTER TABLE berth ADD COLUMN IF NOT EXISTS quay varchar(20);
UPDATE berth SET quay = split_part(code, '-', 1);
ALTER TABLE berth ALTER COLUMN quay SET NOT NULL;
ALTER TABLE vessel ADD COLUMN gross_tonnage integer, ADD COLUMN flag char(2) DEFAULT 'DK' NOT NULL;
CREATE TABLE flag (code char(2) PRIMARY KEY, name varchar(60) NOT NULL);
INSERT INTO flag (code, name) VALUES ('DK', 'Denmark'), ('NO', 'Norway'), ('SE', 'Sweden'), ('DE', 'Germany');
INSERT INTO flag (code, name) VALUES ('FI', 'Finland') ON CONFLICT (code) DO NOTHING;
ALTER TABLE vessel ADD CONSTRAINT vessel_flag FOREIGN KEY (flag) REFERENCES flag (code);
CREATE INDEX IF NOT EXISTS vessel_by_flag ON vessel (flag);
COMMENT ON COLUMN berth.quay IS 'first part of the code';
GRANT SELECT ON flag TO harbour_read;
UPDATE schema_version SET version = '4.3', applied_on = now();
COMMIT;
-- script: a view and its function are made again
DROP VIEW IF EXISTS moored_now;
DROP FUNCTION IF EXISTS fee_of(integer, date);
ALTER TABLE mooring ALTER COLUMN remark TYPE text;
CREATE FUNCTION fee_of(p_berth integer, p_day date) RETURNS numeric LANGUAGE sql STABLE AS $$
  SELECT t.per_night FROM tariff t JOIN berth b ON b.class = t.class WHERE b.berth_id = p_berth AND t.valid_from <= p_day ORDER BY t.valid_from DESC LIMIT 1
$$;
CREATE OR REPLACE VIEW moored_now AS
SELECT m.mooring_id, v.name, b.code, m.from_day, fee_of(b.berth_id, m.from_day) AS fee
FROM mooring m JOIN vessel v USING (vessel_id) JOIN berth b USING (berth_id)
WHERE m.to_day IS NULL;
GRANT SELECT ON moored_now TO harbour_read;
UPDATE db_info SET schema_version = 57;
-- script: a table is split in two and the rows go along
BEGIN;
CREATE TABLE owner_contact (
  owner_id integer NOT NULL REFERENCES owner (owner_id),
  kind varchar(10) NOT NULL CHECK (kind IN ('mail', 'phone', 'fax')),
  value varchar(120) NOT NULL,
  PRIMARY KEY (owner_id, kind)
);
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'mail', mail FROM owner WHERE mail IS NOT NULL;
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'phone', phone FROM owner WHERE phone IS NOT NULL;
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'fax', fax FROM owner WHERE fax IS NOT NULL;
ALTER TABLE owner DROP COLUMN mail, DROP COLUMN phone, DROP COLUMN fax;
CREATE INDEX owner_contact_value ON owner_contact (lower(value));
UPDATE schema_version SET version = '4.4';
COMMIT;
-- script: an extension script with its schema left open
\echo Use "ALTER EXTENSION quaywork UPDATE" to load this file. \quit
CREATE TABLE @extschema@.gauge (gauge_id serial PRIMARY KEY, name text NOT NULL UNIQUE, zero_m numeric(6,3) NOT NULL DEFAULT 0);
ALTER TABLE @extschema@.tide_reading ADD COLUMN gauge_id integer;
INSERT INTO @extschema@.gauge (name) SELECT DISTINCT station FROM @extschema@.tide_reading;
UPDATE @extschema@.tide_reading r SET gauge_id = g.gauge_id FROM @extschema@.gauge g WHERE g.name = r.station;
ALTER TABLE @extschema@.tide_reading ADD FOREIGN KEY (gauge_id) REFERENCES @extschema@.gauge;
CREATE OR REPLACE FUNCTION @extschema@.zero_of(text) RETURNS numeric LANGUAGE sql AS 'SELECT zero_m FROM @extschema@.gauge WHERE name = $1';
REVOKE ALL ON FUNCTION @extschema@.zero_of(text) FROM PUBLIC;
-- script: columns are added where they are missing, by a block
DO $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM information_schema.columns WHERE table_name = 'pilot' AND column_name = 'languages') THEN
    ALTER TABLE pilot ADD COLUMN languages text[];
  END IF;
  IF NOT EXISTS (SELECT 1 FROM information_schema.columns WHERE table_name = 'pilot' AND column_name = 'since') THEN
    ALTER TABLE pilot ADD COLUMN since date;
  END IF;
END
$$;
UPDATE pilot SET languages = ARRAY['da', 'en'];
UPDATE pilot SET since = DATE '2020-01-01' WHERE since IS NULL;
DELETE FROM setting WHERE name = 'pilot.language.default';
INSERT INTO setting (name, value) VALUES ('pilot.language.list', 'da,en,de');
UPDATE setting SET value = '5.0' WHERE name = 'schema.version' AND value = '4.9';
-- script: partitions for a new year, a cache emptied, statistics
CREATE TABLE tide_reading_2027 PARTITION OF tide_reading FOR VALUES FROM ('2027-01-01') TO ('2028-01-01');
CREATE INDEX ON tide_reading_2027 (station, taken_at);
ALTER TABLE tide_reading ADD COLUMN quality smallint;
UPDATE tide_reading_2027 SET quality = 1 WHERE quality IS NULL;
TRUNCATE occupancy_cache;
REFRESH MATERIALIZED VIEW occupancy_by_month;
DELETE FROM web_sessions WHERE expires_at < now();
ANALYZE tide_reading;
SELECT setval('mooring_mooring_id_seq', (SELECT max(mooring_id) FROM mooring));
-- script: an enumeration grows and old words are replaced
BEGIN;
ALTER TYPE mooring_status RENAME TO mooring_status_old;
CREATE TYPE mooring_status AS ENUM ('planned', 'lying', 'left', 'cancelled', 'no show');
ALTER TABLE mooring ALTER COLUMN status DROP DEFAULT;
ALTER TABLE mooring ALTER COLUMN status TYPE mooring_status USING status::text::mooring_status;
ALTER TABLE mooring ALTER COLUMN status SET DEFAULT 'planned';
DROP TYPE mooring_status_old;
UPDATE mooring SET status = 'no show' WHERE status = 'cancelled' AND remark LIKE 'did not come%' AND from_day < DATE '2026-01-01';
INSERT INTO schema_migration (version, done_at) VALUES ('20260301101500', now());
COMMIT;
