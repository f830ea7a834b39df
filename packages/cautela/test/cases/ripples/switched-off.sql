-- hazards: guard-off trigger-skipped
-- tables
CREATE TABLE berth (berth_id int NOT NULL PRIMARY KEY, code varchar(20) NOT NULL);
CREATE TABLE berth_log (berth_id int NOT NULL);
GO
CREATE TRIGGER berth_seen ON berth AFTER UPDATE AS BEGIN INSERT INTO berth_log (berth_id) SELECT berth_id FROM inserted END
GO
-- case: what a trigger leaves undone is told once, where the rows change [tsql]
-- finds: 0 guard-off note
-- finds: 1 trigger-skipped ask
DISABLE TRIGGER berth_seen ON berth;
UPDATE berth SET code = 'N1' WHERE berth_id = 3;
ENABLE TRIGGER berth_seen ON berth;
-- case: it would not have fired [tsql]
-- finds: 0 guard-off note
DISABLE TRIGGER berth_seen ON berth;
DELETE FROM berth WHERE berth_id = 3;
ENABLE TRIGGER berth_seen ON berth;
