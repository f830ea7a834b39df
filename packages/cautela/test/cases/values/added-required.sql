-- hazards: missing-required null-into-required
-- no catalog
-- case: a new column that every row needs [mysql mariadb postgresql plsql]
-- finds: 1 missing-required stop
ALTER TABLE buoy ADD depth INT NOT NULL;
INSERT INTO buoy (id) VALUES (3);
-- case: a default, a value, or a second thought [mysql mariadb]
ALTER TABLE buoy ADD depth INT NOT NULL DEFAULT 3;
INSERT INTO buoy (id) VALUES (3);
ALTER TABLE mark ADD depth INT NOT NULL;
ALTER TABLE mark ALTER depth SET DEFAULT 3;
INSERT INTO mark (id) VALUES (3);
ALTER TABLE lamp ADD depth INT NOT NULL;
INSERT INTO lamp (id, Depth) VALUES (3, 4);
ALTER TABLE quay ADD depth INT NOT NULL;
ALTER TABLE quay MODIFY depth INT NULL;
INSERT INTO quay (id) VALUES (3);
ALTER TABLE pier ADD depth INT NOT NULL;
ALTER TABLE pier DROP COLUMN depth;
INSERT INTO pier (id) VALUES (3);
INSERT INTO dock (id) VALUES (3);
ALTER TABLE dock ADD depth INT NOT NULL;
-- case: a default by a constraint of its own [tsql]
ALTER TABLE buoy ADD depth INT NULL;
ALTER TABLE buoy ADD CONSTRAINT df_depth DEFAULT 0 FOR depth;
UPDATE buoy SET depth = 1 WHERE depth IS NULL;
ALTER TABLE buoy ALTER COLUMN depth INT NOT NULL;
INSERT INTO buoy (id) VALUES (3);
-- case: a trigger may fill it [mysql]
ALTER TABLE buoy ADD depth INT NOT NULL;
CREATE TRIGGER buoy_depth BEFORE INSERT ON buoy FOR EACH ROW SET NEW.depth = 3;
INSERT INTO buoy (id) VALUES (3);
-- case: NULL for a column that the script has made NOT NULL [postgresql]
-- finds: 1 null-into-required stop
-- finds: 2 null-into-required stop
ALTER TABLE buoy ALTER COLUMN light SET NOT NULL;
UPDATE buoy SET light = NULL WHERE id = 3;
INSERT INTO buoy (id, light) VALUES (4, NULL);
-- case: the same in other words [mysql plsql]
-- finds: 1 null-into-required stop
ALTER TABLE buoy MODIFY light INT NOT NULL;
UPDATE buoy SET light = NULL WHERE id = 3;
-- case: renamed since [postgresql]
-- finds: 2 null-into-required stop
ALTER TABLE buoy ADD COLUMN light INT NOT NULL DEFAULT 3;
ALTER TABLE buoy RENAME COLUMN light TO lamp;
UPDATE buoy SET lamp = NULL WHERE id = 3;
-- case: no longer, another column, another table, a filter [postgresql]
ALTER TABLE buoy ALTER COLUMN light SET NOT NULL;
ALTER TABLE buoy ALTER COLUMN light DROP NOT NULL;
UPDATE buoy SET light = NULL WHERE id = 3;
ALTER TABLE mark ALTER COLUMN light SET NOT NULL;
UPDATE mark SET colour = NULL WHERE id = 3;
UPDATE lamp SET light = NULL WHERE id = 3;
UPDATE mark SET colour = 'red' WHERE light IS NULL;
