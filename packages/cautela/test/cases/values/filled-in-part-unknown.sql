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
