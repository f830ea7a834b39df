-- hazards: no-way-back wrong-database early-use unknown-name
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10));
-- case: only a temporary table goes [mysql mariadb]
CREATE TEMPORARY TABLE berth (berth_id integer);
DROP TEMPORARY TABLE berth;
DROP TEMPORARY TABLE IF EXISTS work_list;
SELECT code FROM berth;
-- case: the permanent one goes [mysql mariadb]
-- finds: 0 no-way-back stop
-- finds: 1 early-use stop
DROP TABLE berth;
SELECT code FROM berth;
