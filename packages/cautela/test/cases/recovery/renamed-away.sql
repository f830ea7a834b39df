-- hazards: lossy-structure thin-backup no-way-back
-- no catalog
-- case: the old table goes under another name, and the new one has only a part of it [postgresql mysql mariadb sqlite]
-- finds: 2 lossy-structure stop
ALTER TABLE pilot RENAME TO pilot_old;
CREATE TABLE pilot AS SELECT * FROM pilot_old WHERE active = 1;
DROP TABLE pilot_old;
-- case: the same by a procedure [tsql]
-- finds: 2 lossy-structure stop
EXEC sp_rename 'dbo.Pilot', 'PilotOld';
SELECT * INTO dbo.Pilot FROM dbo.PilotOld WHERE Active = 1;
DROP TABLE dbo.PilotOld;
-- case: all of it [postgresql mysql mariadb sqlite]
ALTER TABLE pilot RENAME TO pilot_old;
CREATE TABLE pilot AS SELECT * FROM pilot_old;
DROP TABLE pilot_old;
-- case: rows that a join finds [sqlite postgresql mysql mariadb]
-- finds: 2 lossy-structure stop
CREATE TABLE entry_new (id INTEGER PRIMARY KEY, boat_id INTEGER NOT NULL);
INSERT INTO entry_new (id, boat_id) SELECT e.id, e.boat_id FROM entry e JOIN boat b ON b.id = e.boat_id;
DROP TABLE entry;
ALTER TABLE entry_new RENAME TO entry;
