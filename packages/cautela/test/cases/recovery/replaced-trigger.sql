-- hazards: guard-left-off
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20), price integer);
CREATE TABLE oven (oven_id integer PRIMARY KEY, bun_id integer);
CREATE TRIGGER bun_stamp AFTER UPDATE ON bun BEGIN UPDATE oven SET bun_id = NEW.bun_id WHERE oven_id = 1; END;
-- case: it goes for good [sqlite]
-- finds: 0 guard-left-off ask
DROP TRIGGER bun_stamp;
-- case: the trigger of the same moment has another name [sqlite]
DROP TRIGGER bun_stamp;
CREATE TRIGGER bun_stamp_2 AFTER UPDATE ON bun BEGIN UPDATE oven SET bun_id = NEW.bun_id WHERE oven_id = 2; END;
-- case: the new one fires at another moment [sqlite]
-- finds: 0 guard-left-off ask
DROP TRIGGER bun_stamp;
CREATE TRIGGER bun_gone AFTER DELETE ON bun BEGIN DELETE FROM oven WHERE bun_id = OLD.bun_id; END;
