-- hazards: every-row overwrites-filled no-way-back key-rewrite outer-null
-- no catalog
-- case: the source is dropped afterwards [mysql postgresql plsql]
-- finds: 0 every-row ask
UPDATE buoys SET colour = light;
ALTER TABLE buoys DROP COLUMN light;
-- case: the source is dropped in capitals, and made over on the way [mysql]
-- finds: 0 every-row ask
UPDATE buoys SET colour = UPPER(light), level = depth * 10;
ALTER TABLE buoys DROP COLUMN LIGHT, DROP COLUMN depth;
-- case: another column is dropped, or one of two, or before [mysql]
-- finds: 0 every-row stop
-- finds: 2 every-row stop
-- finds: 5 every-row stop
UPDATE buoys SET colour = light;
ALTER TABLE buoys DROP COLUMN depth;
UPDATE marks SET colour = light, level = depth;
ALTER TABLE marks DROP COLUMN light;
ALTER TABLE lamps DROP COLUMN old_light;
UPDATE lamps SET colour = old_light;
-- case: NULL is no value that is carried over [mysql]
-- finds: 0 every-row stop
UPDATE buoys SET colour = NULL;
ALTER TABLE buoys DROP COLUMN light;
-- case: the last number of another table [mysql]
UPDATE buoy_seq SET id = (SELECT MAX(id) FROM buoy);
UPDATE mark_sequence SET next_id = (SELECT COALESCE(MAX(id), 0) + 1 FROM mark);
-- case: no table of numbers [mysql]
-- finds: 0 every-row ask
-- finds: 0 key-rewrite ask
UPDATE buoy_group SET id = (SELECT MAX(id) FROM buoy);
-- case: the release of the whole [plsql mysql]
UPDATE HB_System SET ReleaseNo = '370LTS', Version = '2011-03-01';
-- case: the system, and no release [plsql mysql]
-- finds: 0 every-row stop
UPDATE HB_System SET Name = 'Harbour';
