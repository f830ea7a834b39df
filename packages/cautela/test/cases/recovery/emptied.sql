-- hazards: no-way-back every-row hollow-filter
-- no catalog
-- case: emptied and filled again from literals [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row ask
DELETE FROM tariff;
INSERT INTO tariff (tariff_id, fee) VALUES (1, 12);
INSERT INTO tariff (tariff_id, fee) VALUES (2, 14);
-- case: two lookup tables are one finding [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row ask
-- finds: 2 every-row ask
DELETE FROM tariff;
INSERT INTO tariff (tariff_id, fee) VALUES (1, 12);
TRUNCATE TABLE flag;
INSERT INTO flag (code) VALUES ('DK');
-- case: emptied and derived from what is there [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row note
DELETE FROM occupancy;
INSERT INTO occupancy (berth_id, moorings) SELECT berth_id, count(*) FROM mooring GROUP BY berth_id;
-- case: filled before and then emptied [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 every-row stop
INSERT INTO tariff (tariff_id, fee) VALUES (1, 12);
DELETE FROM tariff;
-- case: filled from itself is no refill [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
DELETE FROM tariff;
INSERT INTO tariff (tariff_id, fee) SELECT tariff_id + 100, fee FROM tariff;
-- case: the filter that is always true, and the rows come back [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 hollow-filter ask
DELETE FROM tariff WHERE 1 = 1;
INSERT INTO tariff (tariff_id, fee) VALUES (1, 12);
-- case: the version is taken out and put in [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM schema_version;
INSERT INTO schema_version (version) VALUES (14);
-- case: the version is written over [postgresql mysql mariadb sqlite tsql plsql]
UPDATE Version SET VersionId = 14;
UPDATE db_info SET version = '4.2', applied_on = '2026-02-01';
UPDATE harbour_dbversion SET version = '1.14.3';
-- case: a table of versions is no version of a table [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
-- finds: 1 every-row stop
UPDATE document_version SET state = 'old';
UPDATE versions SET version = '3';
-- case: a relative value, and NULL, are never softened [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
-- finds: 1 every-row stop
UPDATE schema_version SET version = version + 1;
UPDATE schema_version SET version = NULL;
-- case: settings may be one row, or one row each [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row ask
-- finds: 1 every-row stop
UPDATE office_settings SET currency = 'EUR';
UPDATE settings SET value = 'EUR';
-- case: a cache is emptied [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row note
-- finds: 1 every-row note
TRUNCATE TABLE tide_cache;
DELETE FROM user_sessions;
-- case: a session of the business has its own name [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
DELETE FROM session_report;
-- case: NULL over all of a cache [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
UPDATE tide_cache SET level_m = NULL;
-- case: a trial run of a whole table [postgresql sqlite]
-- finds: 1 every-row note
BEGIN;
DELETE FROM pilotage;
ROLLBACK;
-- case: a trial that is committed in a branch is none [tsql]
-- finds: 1 every-row stop
BEGIN TRAN
DELETE FROM pilotage
IF @@ERROR <> 0 ROLLBACK ELSE COMMIT
-- case: a conditional rollback is no end [tsql]
-- finds: 1 every-row stop
BEGIN TRAN
DELETE FROM pilotage
IF @@ERROR <> 0 ROLLBACK
COMMIT
