-- hazards: sealed-view
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, depth integer, code varchar(10));
CREATE TABLE gone (berth_id integer);
CREATE VIEW shallow AS SELECT berth_id, code FROM berth WHERE depth < 3;
CREATE RULE berth_noted AS ON UPDATE TO berth DO ALSO INSERT INTO gone VALUES (OLD.berth_id);
CREATE RULE berth_moved AS ON DELETE TO berth DO INSTEAD INSERT INTO gone VALUES (OLD.berth_id);
CREATE TABLE lane (lane_id integer NOT NULL PRIMARY KEY, code varchar(10)) PARTITION BY RANGE (lane_id);
CREATE TABLE lane_low PARTITION OF lane FOR VALUES FROM (0) TO (100);
CREATE RULE lane_kept AS ON DELETE TO lane_low DO INSTEAD NOTHING;
-- case: MERGE into a table with rules [postgresql]
-- finds: 0 sealed-view stop
MERGE INTO berth b USING (SELECT 3 AS k) s ON b.berth_id = s.k WHEN MATCHED THEN UPDATE SET code = 'N';
-- case: MERGE through a view of such a table [postgresql]
-- finds: 0 sealed-view stop
MERGE INTO shallow b USING (SELECT 3 AS k) s ON b.berth_id = s.k WHEN MATCHED THEN UPDATE SET code = 'N';
-- case: a rule besides, in WITH [postgresql]
-- finds: 0 sealed-view stop
WITH c AS (UPDATE berth SET code = 'N' WHERE berth_id = 3 RETURNING 1) SELECT count(*) FROM c;
-- case: a rule besides, after a WITH [postgresql]
-- finds: 0 sealed-view stop
WITH c AS (SELECT 3 AS k) UPDATE berth SET code = 'N' WHERE berth_id = (SELECT k FROM c);
-- case: rows back from a rule that gives none [postgresql]
-- finds: 0 sealed-view stop
DELETE FROM berth WHERE berth_id = 3 RETURNING code;
-- case: rows back beside a rule [postgresql]
UPDATE berth SET code = 'N' WHERE berth_id = 3 RETURNING code;
-- case: a rule instead, in WITH [postgresql]
WITH c AS (DELETE FROM berth WHERE berth_id = 3) SELECT 1;
-- case: a rule of a partition does not act on its table [postgresql]
WITH c AS (DELETE FROM lane WHERE lane_id = 3 RETURNING 1) SELECT count(*) FROM c;
-- case: on the partition itself it does [postgresql]
-- finds: 0 sealed-view stop
WITH c AS (DELETE FROM lane_low WHERE lane_id = 3 RETURNING 1) SELECT count(*) FROM c;
-- case: only the partitioned table [postgresql]
-- finds: 0 sealed-view stop
TRUNCATE ONLY lane;
