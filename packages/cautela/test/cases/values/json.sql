-- hazards: rewrite-all drifts-on-rerun
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, data json);
-- case: changes where the key is there [mysql mariadb sqlite]
-- finds: 0 rewrite-all ask
UPDATE loaf SET data = JSON_REPLACE(data, '$.kind', 2);
-- case: adds where the key is missing [mysql mariadb sqlite]
-- finds: 0 rewrite-all ask
UPDATE loaf SET data = JSON_INSERT(data, '$.kind', 2);
-- case: writes into every row [mysql mariadb sqlite]
UPDATE loaf SET data = JSON_SET(data, '$.kind', 2);
-- case: removes a key [mysql mariadb sqlite]
-- finds: 0 rewrite-all stop
UPDATE loaf SET data = JSON_REMOVE(data, '$.kind');
