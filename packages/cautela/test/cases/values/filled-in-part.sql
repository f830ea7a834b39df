-- hazards: null-into-required missing-else
-- tables
CREATE TABLE buoy (buoy_id integer NOT NULL PRIMARY KEY, seen_on date, light varchar(10));
-- case: a new column is filled in part and then required [postgresql]
-- finds: 2 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE seen_on IS NOT NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: the same where types come with it [mysql mariadb]
-- finds: 2 null-into-required ask
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE light = 'red';
ALTER TABLE buoy MODIFY state varchar(10) NOT NULL;
-- case: the same in capitals [plsql]
-- finds: 2 null-into-required ask
ALTER TABLE buoy ADD (state varchar2(10));
UPDATE buoy SET state = 'seen' WHERE light = 'red';
ALTER TABLE buoy MODIFY (state NOT NULL);
-- case: the gaps that are left are filled [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE seen_on IS NOT NULL;
UPDATE buoy SET state = 'lost' WHERE state IS NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: two halves [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE seen_on IS NOT NULL;
UPDATE buoy SET state = 'lost' WHERE seen_on IS NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: the filter asks for the gaps [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE state IS NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: every row is filled [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen';
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: the rest has gone [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = 'seen' WHERE seen_on IS NOT NULL;
DELETE FROM buoy WHERE state IS NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: an older column that may hold NULL [mysql mariadb]
-- finds: 0 null-into-required ask
ALTER TABLE buoy MODIFY light varchar(10) NOT NULL;
-- case: under another name [mysql mariadb]
-- finds: 0 null-into-required ask
ALTER TABLE buoy CHANGE light lamp varchar(10) NOT NULL DEFAULT '';
-- case: an older column in capitals [plsql]
-- finds: 0 null-into-required ask
ALTER TABLE buoy MODIFY (light NOT NULL);
-- case: a CASE without ELSE fills a column that may hold no NULL [postgresql mysql mariadb]
-- finds: 1 missing-else stop
ALTER TABLE buoy ADD COLUMN state varchar(10) NOT NULL DEFAULT 'open';
UPDATE buoy SET state = CASE WHEN seen_on IS NOT NULL THEN 'seen' END;
-- case: a CASE without ELSE fills a column that is required then [postgresql]
-- finds: 1 missing-else stop
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = CASE WHEN seen_on IS NOT NULL THEN 'seen' END;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: what the CASE leaves is filled before [postgresql]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = CASE WHEN seen_on IS NOT NULL THEN 'seen' END;
UPDATE buoy SET state = 'lost' WHERE state IS NULL;
ALTER TABLE buoy ALTER COLUMN state SET NOT NULL;
-- case: NULL is what the new column held before [postgresql mysql mariadb]
ALTER TABLE buoy ADD COLUMN state varchar(10);
UPDATE buoy SET state = CASE WHEN seen_on IS NOT NULL THEN 'seen' END;
