-- hazards: null-blind
-- tables
CREATE TABLE quay (quay_id int NOT NULL PRIMARY KEY, n int NOT NULL);
CREATE TABLE buoy (buoy_id int NOT NULL PRIMARY KEY, n int, quay_id int);
CREATE TABLE boat (boat_id int NOT NULL PRIMARY KEY, n int, w int NOT NULL);
-- case: union [postgresql mysql tsql sqlite plsql jet]
-- finds: 0 null-blind ask
DELETE FROM quay WHERE n NOT IN (SELECT w FROM boat UNION SELECT n FROM buoy);
-- case: union that leaves the NULLs out [postgresql mysql tsql sqlite]
DELETE FROM quay WHERE n NOT IN (SELECT w FROM boat UNION ALL SELECT n FROM buoy WHERE n IS NOT NULL);
-- case: all [postgresql mysql tsql plsql]
-- finds: 0 null-blind ask
DELETE FROM quay WHERE n <> ALL (SELECT n FROM buoy);
-- case: a row without a match [postgresql tsql sqlite plsql]
-- finds: 0 null-blind ask
DELETE FROM boat WHERE n NOT IN (SELECT q.quay_id FROM buoy b LEFT JOIN quay q ON q.quay_id = b.quay_id);
-- case: a match that WHERE asks for [postgresql tsql sqlite plsql]
DELETE FROM boat WHERE n NOT IN (SELECT q.quay_id FROM buoy b LEFT JOIN quay q ON q.quay_id = b.quay_id WHERE q.n > 0) AND n IS NOT NULL;
-- case: the largest of NULLs [postgresql mysql tsql sqlite plsql jet]
-- finds: 0 null-blind ask
DELETE FROM quay WHERE quay_id NOT IN (SELECT MAX(quay_id) FROM buoy GROUP BY n);
-- case: a sum with a NULL [postgresql mysql tsql sqlite plsql jet]
-- finds: 0 null-blind ask
DELETE FROM quay WHERE quay_id NOT IN (SELECT quay_id + 1 FROM buoy);
-- case: a derived table [postgresql mysql tsql sqlite]
-- finds: 0 null-blind ask
DELETE FROM quay WHERE quay_id NOT IN (SELECT x.v FROM (SELECT quay_id AS v FROM buoy) x);
-- case: a derived table without NULLs [postgresql mysql tsql sqlite]
DELETE FROM quay WHERE quay_id NOT IN (SELECT x.v FROM (SELECT quay_id AS v FROM buoy WHERE quay_id > 0) x);
-- case: an inner join [postgresql tsql sqlite]
DELETE FROM boat WHERE w NOT IN (SELECT b.quay_id FROM buoy b JOIN quay q ON q.quay_id = b.quay_id);
-- case: what an INSERT leaves out [postgresql mysql tsql sqlite plsql jet]
-- finds: 0 null-blind ask
INSERT INTO quay (quay_id, n) SELECT boat_id, 1 FROM boat WHERE boat_id NOT IN (SELECT quay_id FROM buoy);
-- case: what an INSERT leaves out, asked by a key [postgresql mysql tsql sqlite plsql jet]
INSERT INTO quay (quay_id, n) SELECT boat_id, 1 FROM boat WHERE boat_id NOT IN (SELECT quay_id FROM quay);
-- case: several columns [postgresql mysql sqlite]
DELETE FROM quay WHERE (quay_id, n) NOT IN (SELECT w, n FROM boat);
