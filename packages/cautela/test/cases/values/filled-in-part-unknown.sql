-- hazards: null-into-required missing-else
-- no catalog
-- case: filled in part and then required [postgresql]
-- finds: 2 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE light = 'red';
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: required at once [postgresql]
-- finds: 1 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: the same with the type [mysql mariadb]
-- finds: 2 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE light = 'red';
ALTER TABLE buoy MODIFY state varchar(10) NOT NULL;
-- case: what is there already may hold no NULL [mysql mariadb]
ALTER TABLE buoy MODIFY light varchar(10) NOT NULL;
-- case: it has a default [postgresql mysql mariadb]
ALTER TABLE buoy ADD COLUMN state varchar(10) DEFAULT 'open';
UPDATE buoy SET state = 'seen' WHERE light = 'red';
ALTER TABLE buoy ALTER COLUMN light SET DEFAULT 'red';
-- case: a CASE without ELSE [plsql]
-- finds: 1 missing-else stop
ALTER TABLE buoy ADD (state varchar2(10));
UPDATE buoy SET state = CASE WHEN light = 'red' THEN 'seen' END;
ALTER TABLE buoy MODIFY (state NOT NULL);
-- case: a CASE with ELSE [plsql]
ALTER TABLE buoy ADD (state varchar2(10));
UPDATE buoy SET state = CASE WHEN light = 'red' THEN 'seen' ELSE 'lost' END;
ALTER TABLE buoy MODIFY (state NOT NULL);
-- case: the column that stands there in the end is another one [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
ALTER TABLE buoy DROP COLUMN state;
ALTER TABLE buoy ADD COLUMN state varchar(10) DEFAULT 'open';
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: under a new name [postgresql]
-- finds: 3 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
ALTER TABLE buoy RENAME COLUMN state TO condition;
UPDATE buoy SET condition = 'seen' WHERE light = 'red';
ALTER TABLE buoy ALTER COLUMN condition SET NOT NULL;
-- case: other rows each time [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
DO $$ DECLARE r record; BEGIN FOR r IN SELECT buoy_id, state FROM survey LOOP UPDATE buoy SET state = r.state WHERE buoy_id = r.buoy_id; END LOOP; END $$;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: a range each time [tsql]
ALTER TABLE buoy ADD state varchar(10);
GO
DECLARE @i int = 0;
WHILE @i < 100000 BEGIN UPDATE buoy SET state = 'seen' WHERE buoy_id BETWEEN @i AND @i + 999; SET @i = @i + 1000; END
ALTER TABLE buoy ALTER COLUMN state varchar(10) NOT NULL;
-- case: a MERGE may fill it [plsql]
ALTER TABLE buoy ADD (state varchar2(10));
MERGE INTO buoy b USING survey s ON (b.buoy_id = s.buoy_id) WHEN MATCHED THEN UPDATE SET b.state = s.state;
ALTER TABLE buoy MODIFY (state NOT NULL);
-- case: an upsert may fill it [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
INSERT INTO buoy (buoy_id, state) SELECT buoy_id, state FROM survey ON CONFLICT (buoy_id) DO UPDATE SET state = excluded.state;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: code that is not known may fill it [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
CALL fill_states();
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: a change in WITH fills it [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
WITH filled AS (UPDATE buoy SET state = 'seen' RETURNING buoy_id) SELECT COUNT(*) FROM filled;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: every row is converted to a value [postgresql]
ALTER TABLE buoy ADD COLUMN state integer;
ALTER TABLE buoy ALTER COLUMN state TYPE bigint USING 0;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
