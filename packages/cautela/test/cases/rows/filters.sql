-- hazards: every-row hollow-filter dead-filter unread
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(20) NOT NULL, depth_m numeric(4,1));
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, berth_id integer, name varchar(40));
-- case: constants [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE 1 = 1;
-- case: arithmetic of constants [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE 2 * 3 > 5;
-- case: a word of truth [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE TRUE;
-- case: a number of truth [mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE 1;
-- case: one side of OR is true [postgresql mysql sqlite tsql]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE berth_id = 3 OR 'a' = 'a';
-- case: NOT of what is never true [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE NOT (1 = 2);
-- case: one side of AND is true, the other filters [postgresql mysql sqlite tsql]
DELETE FROM berth WHERE 1 = 1 AND berth_id = 3;
-- case: a column with itself [postgresql mysql sqlite tsql]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE berth_id = berth_id;
-- case: a column with itself, once qualified [postgresql mysql sqlite tsql]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE berth.berth_id = berth_id;
-- case: a column with another one [postgresql mysql sqlite tsql]
DELETE FROM vessel WHERE berth_id = vessel_id;
-- case: the same column of the same table, under another name [postgresql]
-- finds: 0 hollow-filter stop
UPDATE berth b SET depth_m = 1 FROM berth c WHERE b.berth_id = c.berth_id;
-- case: a pattern for everything [postgresql mysql sqlite tsql]
-- finds: 0 hollow-filter stop
UPDATE vessel SET berth_id = 1 WHERE name LIKE '%';
-- case: a pattern for something [postgresql mysql sqlite tsql]
UPDATE vessel SET berth_id = 1 WHERE name LIKE 'A%';
-- case: a glob for everything [sqlite]
-- finds: 0 hollow-filter stop
UPDATE vessel SET berth_id = 1 WHERE name GLOB '*';
-- case: a required column is not null [postgresql mysql sqlite tsql plsql]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE code IS NOT NULL;
-- case: a column that may be null is not null [postgresql mysql sqlite tsql plsql]
DELETE FROM berth WHERE depth_m IS NOT NULL;
-- case: null or not null [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE depth_m IS NULL OR depth_m IS NOT NULL;
-- case: two ranges that cover all [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE berth_id < 10 OR berth_id >= 5;
-- case: two ranges with a gap [postgresql mysql sqlite]
DELETE FROM berth WHERE berth_id < 5 OR berth_id >= 10;
-- case: unequal to one or to the other [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE code <> 'N01' OR code <> 'N02';
-- case: an EXISTS without a tie [postgresql mysql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE EXISTS (SELECT 1 FROM vessel WHERE vessel.name = 'Tern');
-- case: an EXISTS with a tie [postgresql mysql sqlite]
DELETE FROM berth WHERE EXISTS (SELECT 1 FROM vessel v WHERE v.berth_id = berth.berth_id);
-- case: a key in its own table [postgresql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM berth WHERE berth_id IN (SELECT berth_id FROM berth);
-- case: a key in its own filtered table [postgresql sqlite]
DELETE FROM berth WHERE berth_id IN (SELECT berth_id FROM berth WHERE depth_m < 2);
-- case: a join condition that is always true [mysql mariadb]
-- finds: 0 hollow-filter stop
UPDATE berth b JOIN vessel v ON 1 = 1 SET b.depth_m = 4;
-- case: compared with NULL [postgresql mysql sqlite plsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE depth_m = NULL;
-- case: unequal to NULL [postgresql mysql sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE depth_m <> NULL;
-- case: asked for NULL [postgresql mysql sqlite tsql]
DELETE FROM berth WHERE depth_m IS NULL;
-- case: the comparison that knows NULL [mysql mariadb]
DELETE FROM berth WHERE depth_m <=> NULL;
-- case: two values at once [postgresql mysql sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE berth_id = 3 AND berth_id = 4;
-- case: one value twice [postgresql mysql sqlite tsql]
DELETE FROM berth WHERE berth_id = 3 AND berth_id = 3;
-- case: a range without an inside [postgresql mysql sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE berth_id > 10 AND berth_id < 5;
-- case: BETWEEN the wrong way round [postgresql mysql sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE berth_id BETWEEN 9 AND 1;
-- case: NOT IN a list with NULL [postgresql mysql sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE berth_id NOT IN (1, 2, NULL);
-- case: IN a list with NULL [postgresql mysql sqlite tsql]
DELETE FROM berth WHERE berth_id IN (1, 2, NULL);
-- case: a required column is null [postgresql mysql sqlite]
-- finds: 0 dead-filter ask
DELETE FROM berth WHERE code IS NULL;
-- case: the empty list is quiet where a template fills it [postgresql]
DELETE FROM berth WHERE berth_id IN (${ids});
-- case: case of letters is the collation's to say [mysql sqlite]
DELETE FROM berth WHERE code = 'a' AND code = 'A';
