-- hazards: outer-slip hollow-filter loose-or bare-condition
-- no catalog
-- case: a table of the script lacks the column, and the outer one may have it [postgresql mysql mariadb sqlite]
-- finds: 1 outer-slip stop
CREATE TABLE gone AS SELECT id FROM customer WHERE mail = 'x@port.example';
DELETE FROM address WHERE customer_id IN (SELECT customer_id FROM gone);
-- case: in a temporary table [tsql]
-- finds: 1 outer-slip stop
SELECT id INTO #gone FROM customer WHERE mail = 'x@port.example';
DELETE FROM address WHERE customer_id IN (SELECT customer_id FROM #gone);
-- case: the column is there, or may be [postgresql mysql mariadb sqlite]
CREATE TABLE gone AS SELECT id FROM customer WHERE mail = 'x@port.example';
CREATE TABLE all_gone AS SELECT * FROM customer WHERE mail = 'x@port.example';
DELETE FROM address WHERE customer_id IN (SELECT id FROM gone);
DELETE FROM letter WHERE customer_id IN (SELECT customer_id FROM all_gone);
-- case: the bare name is the subquery's own [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-slip stop
-- finds: 1 outer-slip stop
DELETE FROM customer WHERE NOT EXISTS (SELECT 1 FROM loaded s WHERE s.customer_no = customer_no);
UPDATE boat SET last_day = (SELECT max(m.day) FROM stay m WHERE m.boat_id = boat_id) WHERE kind = 'x';
-- case: with the table in front, or another column [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM customer WHERE NOT EXISTS (SELECT 1 FROM loaded s WHERE s.customer_no = customer.customer_no);
UPDATE boat SET last_day = (SELECT max(m.day) FROM stay m WHERE m.boat_id = id) WHERE kind = 'x';
-- case: = ANY is IN [postgresql mysql mariadb]
-- finds: 0 hollow-filter stop
DELETE FROM loaf WHERE id = ANY (SELECT id FROM loaf);
-- case: a number of one thing, or all of another kind [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 loose-or ask
-- finds: 1 loose-or ask
DELETE FROM stay WHERE stay_id = 4 OR status = 'left';
UPDATE stay SET fee = 0 WHERE day >= '2026-01-01' OR boat_id = 4;
-- case: two numbers, one column, or a list [postgresql mysql mariadb sqlite tsql plsql]
UPDATE stay SET fee = 0 WHERE boat_id = 4 OR berth_id = 7;
UPDATE stay SET fee = 0 WHERE boat_id = 4 OR boat_id IS NULL;
UPDATE stay SET fee = 0 WHERE boat_id = 4 OR status = 'left' OR status = 'lying';
UPDATE stay SET fee = 0 WHERE status = 'left' OR day < '2020-01-01';
-- case: a key without a comparison [mysql mariadb sqlite]
-- finds: 0 bare-condition stop
DELETE FROM stay WHERE stay_id;
-- case: a switch [mysql mariadb sqlite]
DELETE FROM stay WHERE paid;
