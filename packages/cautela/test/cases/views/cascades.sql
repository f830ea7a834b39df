-- hazards: broken-dependent
-- no catalog
-- case: what depends on constraints and types goes with them, asked once [postgresql]
-- finds: 0 broken-dependent ask
-- finds: 1 broken-dependent ask
-- finds: 2 broken-dependent ask
ALTER TABLE berth DROP CONSTRAINT berth_pk CASCADE;
ALTER TABLE vessel DROP CONSTRAINT vessel_pk CASCADE;
DROP TYPE mooring_status CASCADE;
-- case: views are noted [postgresql]
-- finds: 0 broken-dependent note
-- finds: 1 broken-dependent note
DROP VIEW moored_now CASCADE;
DROP FUNCTION fee_of(integer) CASCADE;
-- case: without CASCADE the engine refuses [postgresql]
ALTER TABLE berth DROP CONSTRAINT berth_pk;
DROP TYPE mooring_status;
DROP VIEW moored_now;
-- case: CASCADE says nothing here [mysql mariadb]
DROP VIEW moored_now CASCADE;
