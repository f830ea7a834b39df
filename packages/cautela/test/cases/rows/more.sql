-- hazards: outer-slip loose-or weak-filter null-blind stranded-filter silent-cast loose-match rewrite-all unordered-limit moving-filter unclear-date open-placeholder
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60) UNIQUE, phone varchar(20), left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, name varchar(60) NOT NULL, class varchar(20), pilot_no integer);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL, berth_id integer NOT NULL, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL, note varchar(200));
-- case: a column that the subquery's table lacks [postgresql mysql sqlite tsql plsql]
-- finds: 0 outer-slip stop
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM owner WHERE left_on IS NOT NULL);
-- case: the same with ANY [postgresql mysql]
-- finds: 0 outer-slip stop
DELETE FROM mooring WHERE vessel_id = ANY (SELECT vessel_id FROM owner);
-- case: the outer row compared with itself [postgresql mysql sqlite tsql]
-- finds: 0 outer-slip stop
DELETE FROM mooring WHERE EXISTS (SELECT 1 FROM owner WHERE berth_id = berth_id);
-- case: the subquery's table has the column [postgresql mysql sqlite tsql plsql]
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM vessel WHERE owner_id = 3);
-- case: a tie to the outer table that is meant [postgresql mysql sqlite tsql]
DELETE FROM mooring WHERE EXISTS (SELECT 1 FROM vessel v WHERE v.vessel_id = mooring.vessel_id AND v.class = 'sail');
-- case: a tie to the outer table without its name [postgresql mysql sqlite tsql]
UPDATE mooring SET note = 'x' WHERE EXISTS (SELECT 1 FROM owner o WHERE o.owner_id = berth_id);
-- case: AND and OR without parentheses [postgresql mysql sqlite tsql plsql]
-- finds: 0 loose-or ask
UPDATE mooring SET fee = 0 WHERE berth_id = 3 AND status = 'planned' OR status = 'lying';
-- case: the same the other way round [postgresql mysql sqlite tsql]
-- finds: 0 loose-or ask
UPDATE mooring SET fee = 0 WHERE status = 'lying' OR status = 'planned' AND berth_id = 3;
-- case: a key given up by OR [postgresql mysql sqlite tsql]
-- finds: 0 loose-or ask
DELETE FROM mooring WHERE mooring_id = 7 OR status = 'left';
-- case: parentheses around the alternatives [postgresql mysql sqlite tsql plsql]
UPDATE mooring SET fee = 0 WHERE berth_id = 3 AND (status = 'planned' OR status = 'lying');
-- case: parentheses around each alternative [postgresql mysql sqlite tsql]
UPDATE mooring SET fee = 0 WHERE (berth_id = 3 AND status = 'planned') OR (berth_id = 4 AND status = 'lying');
-- case: alternatives of one column [postgresql mysql sqlite tsql]
UPDATE mooring SET fee = 0 WHERE status = 'planned' OR status = 'lying';
-- case: a name where one row is meant [postgresql mysql tsql plsql]
-- finds: 0 weak-filter ask
UPDATE owner SET phone = '0441' WHERE name = 'Ada Storm';
-- case: the same with the value first, and IN of one [postgresql mysql]
-- finds: 0 weak-filter ask
-- finds: 1 weak-filter ask
DELETE FROM owner WHERE 'Ada Storm' = name;
DELETE FROM owner WHERE name IN ('Ada Storm');
-- case: a unique column [postgresql mysql tsql plsql]
UPDATE owner SET phone = '0441' WHERE mail = 'ada@quay.example';
-- case: a category [postgresql mysql tsql plsql]
UPDATE vessel SET name = 'x' WHERE class = 'sail';
-- case: a name and its owner [postgresql mysql tsql]
UPDATE vessel SET class = 'sail' WHERE name = 'Tern' AND owner_id = 3;
-- case: NOT IN a column that may be NULL [postgresql mysql sqlite tsql]
-- finds: 0 null-blind ask
DELETE FROM owner WHERE owner_id NOT IN (SELECT pilot_no FROM vessel);
-- case: the same as NOT (… IN …) [postgresql mysql]
-- finds: 0 null-blind ask
DELETE FROM owner WHERE NOT (owner_id IN (SELECT pilot_no FROM vessel));
-- case: NOT IN a required column, and NULLs left out [postgresql mysql sqlite tsql]
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM vessel);
DELETE FROM owner WHERE owner_id NOT IN (SELECT pilot_no FROM vessel WHERE pilot_no IS NOT NULL);
-- case: unequal on a column that may be NULL, the constant first [postgresql mysql tsql]
-- finds: 0 null-blind note
UPDATE vessel SET name = 'x' WHERE 'sail' <> class;
-- case: unequal on a column that may be NULL [postgresql mysql tsql]
-- finds: 0 null-blind note
UPDATE vessel SET name = 'x' WHERE class <> 'sail';
-- case: unequal with a word about NULL [postgresql mysql tsql]
UPDATE vessel SET name = 'x' WHERE class <> 'sail' AND class IS NOT NULL;
-- case: text and number [mysql mariadb]
-- finds: 0 silent-cast stop
DELETE FROM vessel WHERE class = 0;
-- case: text and number, refused [postgresql]
-- finds: 0 silent-cast stop
DELETE FROM vessel WHERE class = 5;
-- case: text and number, turned into numbers [tsql plsql]
-- finds: 0 silent-cast ask
DELETE FROM vessel WHERE class IN (5, 6);
-- case: number and text that is none [postgresql tsql]
-- finds: 0 silent-cast stop
DELETE FROM mooring WHERE berth_id = 'N01';
-- case: number and text that is one [postgresql mysql tsql]
DELETE FROM mooring WHERE berth_id = '3';
-- case: an underscore in a code [postgresql mysql tsql]
-- finds: 0 loose-match note
UPDATE vessel SET name = 'x' WHERE class LIKE 'a_b';
-- case: an escaped one [postgresql tsql]
UPDATE vessel SET name = 'x' WHERE class LIKE 'a!_b' ESCAPE '!';
-- case: REPLACE as the filter [postgresql mysql sqlite tsql plsql]
-- finds: 0 rewrite-all ask
UPDATE mooring SET note = REPLACE(note, 'Qay', 'Quay');
-- case: REPLACE with its filter [postgresql mysql sqlite tsql plsql]
UPDATE mooring SET note = REPLACE(note, 'Qay', 'Quay') WHERE note LIKE 'Qay%';
-- case: a limit without an order [mysql]
-- finds: 0 unordered-limit ask
DELETE FROM mooring WHERE status = 'left' LIMIT 10;
-- case: TOP without an order [tsql]
-- finds: 0 unordered-limit ask
DELETE TOP (10) FROM mooring WHERE status = 'left';
-- case: ROWNUM [plsql]
-- finds: 0 unordered-limit ask
DELETE FROM mooring WHERE status = 'left' AND ROWNUM <= 10;
-- case: a limit in a subquery [postgresql sqlite]
-- finds: 0 unordered-limit ask
DELETE FROM mooring WHERE mooring_id IN (SELECT mooring_id FROM mooring WHERE status = 'left' LIMIT 10);
-- case: with an order [mysql]
DELETE FROM mooring WHERE status = 'left' ORDER BY mooring_id LIMIT 10;
-- case: chance [postgresql sqlite]
-- finds: 0 moving-filter ask
DELETE FROM mooring WHERE random() < 0 AND status = 'left';
-- case: the clock [postgresql]
-- finds: 0 moving-filter note
UPDATE owner SET phone = NULL WHERE left_on < current_date - 365;
-- case: the clock as a value, not in the filter [postgresql]
UPDATE owner SET left_on = current_date WHERE owner_id = 3;
-- case: day or month [postgresql tsql]
-- finds: 0 unclear-date ask
UPDATE owner SET left_on = '03/04/2025' WHERE owner_id = 3;
-- case: neither where the year is read first [mysql mariadb]
-- finds: 0 unclear-date stop
UPDATE owner SET left_on = '03/04/2025' WHERE owner_id = 3;
-- case: a day that can be no month, and the right order [postgresql tsql]
UPDATE owner SET left_on = '2025-04-03' WHERE owner_id = 3;
UPDATE owner SET left_on = '23/04/2025' WHERE owner_id = 3;
-- case: read by a format [plsql]
UPDATE owner SET left_on = TO_DATE('03/04/2025', 'DD/MM/YYYY') WHERE owner_id = 3;
-- case: a hole for the table and for the condition [postgresql]
-- finds: 0 open-placeholder ask
-- finds: 1 open-placeholder ask
DELETE FROM ${table} WHERE mooring_id = 3;
DELETE FROM mooring WHERE ${condition};
-- case: a parameter for a value [postgresql]
-- finds: 0 open-placeholder note
DELETE FROM mooring WHERE mooring_id = $1;
-- case: a question to whoever runs it [jet]
-- finds: 0 open-placeholder ask
DELETE FROM mooring WHERE berth_id = [Which berth];
-- case: a terminator before WHERE [postgresql mysql sqlite plsql]
-- finds: 0 stranded-filter stop
-- finds: 1 stranded-filter stop
DELETE FROM mooring;
WHERE mooring_id = 3;
-- case: a comment with WHERE [postgresql]
DELETE FROM mooring WHERE mooring_id = 3;
-- WHERE mooring_id = 4;
-- case: several alternatives beside AND, in front and after it [postgresql mysql sqlite tsql]
-- finds: 0 loose-or ask
-- finds: 1 loose-or ask
-- finds: 2 loose-or ask
UPDATE mooring SET note = 'x' WHERE status = 'left' OR status = 'lying' OR status = 'planned' AND berth_id = 3;
UPDATE mooring SET note = 'x' WHERE note IS NULL OR from_day < '2020-01-01' AND berth_id = 3;
UPDATE mooring SET note = 'x' WHERE berth_id = 3 AND status = 'left' OR berth_id = 4 AND status = 'lying' OR note IS NULL;
