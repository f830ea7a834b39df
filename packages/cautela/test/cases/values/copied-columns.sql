-- hazards: read-only-column unknown-name
-- tables
CREATE TABLE tariff (tariff_id integer NOT NULL PRIMARY KEY, fee integer, taxed integer GENERATED ALWAYS AS (fee * 2) STORED);
-- case: COPY fills a computed column [postgresql]
-- finds: 0 read-only-column stop
COPY tariff (tariff_id, taxed) FROM '/srv/tariff.csv';
-- case: COPY fills the others [postgresql]
COPY tariff (tariff_id, fee) TO '/tmp/tariff.csv';
-- case: COPY names a column that is not there [postgresql]
-- finds: 0 unknown-name stop
COPY tariff (tariff_id, fees) FROM '/srv/tariff.csv';
