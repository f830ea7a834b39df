-- hazards: hollow-filter every-row loose-match silent-cast rewrite-all
-- no catalog
-- case: a key that is above 0 [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 hollow-filter ask
DELETE FROM buoys WHERE id > 0;
-- case: a key with the name of its table [mysql]
-- finds: 0 hollow-filter ask
-- finds: 1 hollow-filter ask
-- finds: 2 hollow-filter ask
UPDATE buoys SET light = 'red' WHERE buoy_id >= 1;
DELETE FROM ferries WHERE 0 < ferry_id;
DELETE FROM boxes WHERE box_id IS NOT NULL;
-- case: more is asked, or of another column [mysql]
DELETE FROM buoys WHERE id > 10;
DELETE FROM buoys WHERE id > 0 AND light = 'red';
DELETE FROM buoys WHERE chart_id > 0;
DELETE FROM buoys WHERE chart_id IS NOT NULL;
-- case: a few at a time [mysql]
DELETE FROM buoys WHERE id > 0 ORDER BY id LIMIT 100;
-- case: a copy stands before [mysql]
CREATE TABLE buoys_before AS SELECT * FROM buoys;
DELETE FROM buoys WHERE id > 0;
-- case: a pattern beside = [postgresql mysql tsql]
-- finds: 0 loose-match ask
UPDATE buoys SET depth = 3 WHERE label = 'North%';
-- case: a pattern beside <> [mysql]
-- finds: 0 loose-match ask
DELETE FROM buoys WHERE label <> '%old';
-- case: a pattern of the desktop beside = [jet]
-- finds: 0 loose-match ask
UPDATE buoys SET depth = 3 WHERE label = "North*";
-- case: a value that is no pattern [mysql]
UPDATE buoys SET depth = 3 WHERE rate = '10%';
UPDATE buoys SET depth = 3 WHERE grade = '%';
UPDATE buoys SET depth = 3 WHERE date_format = '%d.%m.%Y';
UPDATE buoys SET depth = 3 WHERE search_term = 'North%';
UPDATE buoys SET depth = 3 WHERE unit = '%d/%m';
-- case: a text that is compared with 0 [mysql mariadb]
-- finds: 0 silent-cast ask
DELETE FROM owners WHERE email = 0;
-- case: what may be a number, or is a text [mysql mariadb]
DELETE FROM owners WHERE phone = 0;
DELETE FROM owners WHERE email = '0';
-- case: one replacement in the other [mysql mariadb]
-- finds: 0 rewrite-all ask
-- finds: 1 rewrite-all stop
UPDATE notice SET body = REPLACE(TRIM(REPLACE(body, 'Qay', 'Quay')), 'teh', 'the');
UPDATE notice SET data = JSON_REMOVE(JSON_REMOVE(data, '$.a'), '$.b');
-- case: another column is copied [mysql mariadb]
-- finds: 0 every-row stop
UPDATE notice SET body = TRIM(UPPER(title));
-- case: names that say what can be made again [mysql mariadb]
-- finds: 0 every-row note
-- finds: 1 every-row note
-- finds: 2 every-row ask
-- finds: 3 every-row stop
DELETE FROM board_search_index;
TRUNCATE cron_lock;
DELETE FROM import_errors;
DELETE FROM price_index;
