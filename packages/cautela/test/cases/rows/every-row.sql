-- hazards: every-row hollow-filter dead-filter unread stranded-filter
-- tables
CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(20) NOT NULL, depth_m numeric(4,1));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, berth_id integer, name varchar(40));
-- case: an update without a filter [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 every-row stop
UPDATE berth SET depth_m = 4;
-- case: a delete without a filter [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 every-row stop
DELETE FROM berth;
-- case: a truncate [postgresql mysql mariadb tsql plsql]
-- finds: 0 every-row stop
TRUNCATE TABLE berth;
-- case: a delete without FROM [tsql plsql]
-- finds: 0 every-row stop
DELETE berth;
-- case: a star before FROM [jet]
-- finds: 0 every-row stop
DELETE * FROM berth;
-- case: the filter stands in a comment [postgresql sqlite tsql plsql]
-- finds: 0 every-row stop
DELETE FROM berth -- WHERE berth_id = 3
/* WHERE berth_id = 3 */;
-- case: the filter stands in a string [postgresql mysql sqlite]
-- finds: 0 every-row stop
UPDATE berth SET code = ' WHERE berth_id = 3';
-- case: the filter is in a comment of another server's version [mariadb]
-- finds: 0 every-row stop
DELETE FROM berth /*!80013 WHERE berth_id = 3 */;
-- case: the filter is in a comment that is run [mysql mariadb]
DELETE FROM berth /*!50001 WHERE berth_id = 3 */;
-- case: a comment that hides only on one server [mysql]
-- finds: 0 every-row stop
DELETE FROM berth # WHERE berth_id = 3
;
-- case: two dashes without a blank are no comment [mysql]
UPDATE berth SET depth_m = 5--1 WHERE berth_id = 3;
-- case: the semicolon cuts the filter off [postgresql sqlite mysql]
-- finds: 0 stranded-filter stop
-- finds: 1 stranded-filter stop
DELETE FROM berth;
WHERE berth_id = 3;
-- case: the batch separator cuts the filter off [tsql]
-- finds: 0 stranded-filter stop
-- finds: 1 stranded-filter stop
DELETE berth
GO
WHERE berth_id = 3
-- case: a join without a filter changes only what it meets [mysql mariadb]
UPDATE berth b JOIN vessel v ON v.berth_id = b.berth_id SET b.depth_m = 4;
-- case: a join in FROM decides [tsql]
UPDATE b SET b.depth_m = 4 FROM berth b JOIN vessel v ON v.berth_id = b.berth_id;
-- case: an outer join keeps every row of the target [mysql mariadb]
-- finds: 0 every-row stop
UPDATE berth b LEFT JOIN vessel v ON v.berth_id = b.berth_id SET b.depth_m = 4;
-- case: the target is the side that an outer join may leave out [mysql mariadb]
UPDATE berth b LEFT JOIN vessel v ON v.berth_id = b.berth_id SET v.name = 'x';
-- case: a product with another table [postgresql sqlite]
-- finds: 0 every-row stop
UPDATE berth SET depth_m = 4 FROM vessel;
-- case: USING with a filter [postgresql]
DELETE FROM berth USING vessel WHERE vessel.berth_id = berth.berth_id;
-- case: joined by USING [mysql mariadb]
DELETE b FROM berth b JOIN vessel v USING (berth_id);
-- case: joined delete [jet]
DELETE berth.* FROM berth INNER JOIN vessel ON berth.berth_id = vessel.berth_id;
-- case: the filter stands inside the common table expression that is the target [tsql]
WITH old AS (SELECT * FROM berth WHERE depth_m < 2) DELETE FROM old;
-- case: a common table expression beside an unfiltered target [postgresql sqlite]
-- finds: 0 every-row stop
WITH old AS (SELECT berth_id FROM berth WHERE depth_m < 2) DELETE FROM berth;
-- case: the filter uses a common table expression [postgresql sqlite mysql]
WITH old AS (SELECT berth_id FROM berth WHERE depth_m < 2) DELETE FROM berth WHERE berth_id IN (SELECT berth_id FROM old);
-- case: a subquery as the target [plsql]
UPDATE (SELECT depth_m FROM berth WHERE berth_id = 3) SET depth_m = 4;
-- case: a limit is a filter of a kind [mysql mariadb]
DELETE FROM berth LIMIT 5;
-- case: TOP is a filter of a kind [tsql]
DELETE TOP (5) FROM berth;
-- case: a table made in this script [postgresql mysql sqlite]
CREATE TABLE scratch (a integer);
INSERT INTO scratch VALUES (1);
UPDATE scratch SET a = 2;
DELETE FROM scratch;
-- case: a table that was there before is not made by IF NOT EXISTS [postgresql sqlite mysql]
-- finds: 1 every-row stop
CREATE TABLE IF NOT EXISTS berth (berth_id integer);
DELETE FROM berth;
-- case: a temporary table [postgresql sqlite mysql]
CREATE TEMPORARY TABLE scratch (a integer);
DELETE FROM scratch;
-- case: a temporary table by its name [tsql]
SELECT * INTO #scratch FROM berth;
DELETE FROM #scratch;
DELETE FROM @list;
-- case: a new column is filled [postgresql mysql sqlite]
ALTER TABLE berth ADD COLUMN quay varchar(10);
UPDATE berth SET quay = 'north';
-- case: a new column and an old one are written [postgresql mysql sqlite]
-- finds: 1 every-row stop
ALTER TABLE berth ADD COLUMN quay varchar(10);
UPDATE berth SET quay = 'north', code = 'x';
-- case: a copy of the table stands before [postgresql mysql sqlite]
-- finds: 1 every-row ask
CREATE TABLE berth_before AS SELECT * FROM berth;
UPDATE berth SET depth_m = 4;
-- case: a copy of a part is no copy of the table [postgresql mysql sqlite]
-- finds: 1 every-row stop
CREATE TABLE berth_before AS SELECT * FROM berth WHERE depth_m < 2;
UPDATE berth SET depth_m = 4;
-- case: only defined, not run [postgresql]
CREATE FUNCTION clear() RETURNS void LANGUAGE sql AS $$ DELETE FROM berth; $$;
-- case: only defined, with a delimiter [mysql mariadb]
DELIMITER //
CREATE PROCEDURE clear_all() BEGIN DELETE FROM berth; END//
DELIMITER ;
SELECT 1;
-- case: accepted with a reason [postgresql]
-- cautela: accept every-row, the berths are measured anew every spring
UPDATE berth SET depth_m = 4;
-- case: accepted without a reason [postgresql]
-- finds: 0 every-row stop
-- cautela: accept every-row
UPDATE berth SET depth_m = 4;
-- case: a cursor's row [postgresql]
UPDATE berth SET depth_m = 4 WHERE CURRENT OF c;
-- case: rows of inline data are no statements [postgresql]
COPY vessel FROM stdin;
1	2	DELETE FROM berth;
\.
SELECT 1;
-- case: a statement inside a client command [postgresql]
\echo DELETE FROM berth;
SELECT 1;
