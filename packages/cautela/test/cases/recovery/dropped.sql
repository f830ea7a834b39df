-- hazards: no-way-back every-row thin-backup lossy-structure backup-clash
-- no catalog
-- case: a table of the business is dropped in an upgrade [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back stop
ALTER TABLE vessel ADD flag varchar(2);
DROP TABLE pilotage;
-- case: two of them are one finding at two places [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back stop
-- finds: 2 no-way-back stop
DROP TABLE pilotage;
CREATE TABLE pier (pier_id integer);
DROP TABLE IF EXISTS pilot;
-- case: dropped and made again is a rebuild, asked once [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back ask
-- finds: 2 no-way-back ask
DROP TABLE IF EXISTS berth;
CREATE TABLE berth (berth_id integer);
DROP TABLE IF EXISTS pier;
CREATE TABLE pier (pier_id integer);
-- case: it comes back under its name by a rename [postgresql mysql mariadb sqlite]
-- finds: 1 no-way-back ask
CREATE TABLE berth_new (berth_id integer, depth_m integer);
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: it comes back with its rows [postgresql mysql mariadb sqlite]
CREATE TABLE berth_new (berth_id integer, depth_m integer);
INSERT INTO berth_new (berth_id, depth_m) SELECT berth_id, depth_m FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: a script that does nothing but drop is one question [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back ask
-- finds: 1 no-way-back ask
-- finds: 2 no-way-back ask
DROP TABLE mooring;
DROP TABLE berth;
DROP TABLE vessel;
-- case: its name says that it can be made again [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back note
-- finds: 2 no-way-back note
CREATE TABLE pier (pier_id integer);
DROP TABLE tide_cache;
DROP TABLE user_sessions;
-- case: the name of a log makes it lighter, and not quiet [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back ask
-- finds: 2 every-row ask
CREATE TABLE pier (pier_id integer);
DROP TABLE tram_events;
DELETE FROM mooring_log;
-- case: an old copy goes [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back ask
CREATE TABLE pier (pier_id integer);
DROP TABLE mooring_backup_2024;
-- case: views, triggers, routines and indexes hold no rows [postgresql mysql mariadb]
DROP VIEW moored_now;
DROP FUNCTION fee_of;
-- case: an empty schema, and one with all that is in it [postgresql]
-- finds: 2 no-way-back stop
CREATE TABLE pier (pier_id integer);
DROP SCHEMA harbour_old;
DROP SCHEMA harbour_archive CASCADE;
-- case: its values went into other tables first [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back note
UPDATE berth SET depth_m = (SELECT max(s.depth_m) FROM sounding s WHERE s.berth_id = berth.berth_id) WHERE depth_m IS NULL;
DROP TABLE sounding;
-- case: several columns of one table are one finding [postgresql mysql mariadb sqlite]
-- finds: 0 lossy-structure ask
ALTER TABLE owner DROP COLUMN fax, DROP COLUMN telex;
-- case: the values went into another column by an expression [postgresql mysql mariadb sqlite]
ALTER TABLE owner ADD COLUMN contact varchar(80);
UPDATE owner SET contact = trim(coalesce(mail, fax, '')) WHERE contact IS NULL;
ALTER TABLE owner DROP COLUMN fax;
-- case: the values went into another table [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'fax', fax FROM owner WHERE fax IS NOT NULL;
ALTER TABLE owner DROP COLUMN fax;
-- case: a scalar subquery takes the column along [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO setting_value (name, content) VALUES ('fee', (SELECT fee FROM office));
ALTER TABLE office DROP COLUMN fee;
-- case: a column that was only counted up has gone nowhere [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 1 lossy-structure ask
UPDATE owner SET visits = visits + 1 WHERE owner_id = 3;
ALTER TABLE owner DROP COLUMN visits;
