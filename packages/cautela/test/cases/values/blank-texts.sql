-- hazards: missing-else shadowed-alias reruns-badly silent-cast
-- no catalog
-- case: CONCAT passes NULL on [mysql mariadb]
-- finds: 0 missing-else ask
UPDATE boat SET name = CONCAT(name, CASE kind WHEN 'a' THEN ' A' END) WHERE boat_id > 3;
-- case: and leaves it out elsewhere [postgresql tsql]
UPDATE boat SET name = CONCAT(name, CASE kind WHEN 'a' THEN ' A' END) WHERE boat_id > 3;
-- case: two tables that stand for each other [mysql mariadb]
-- finds: 0 shadowed-alias ask
-- finds: 0 shadowed-alias ask
UPDATE boat owner JOIN owner boat ON boat.id = owner.owner_id SET boat.x = 1 WHERE owner.y = 2;
-- case: a table that is filled from itself [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 reruns-badly ask
INSERT INTO boat (name) SELECT name FROM boat;
-- case: the same keys again [mysql mariadb sqlite]
REPLACE INTO boat (boat_id, name) SELECT boat_id, lower(name) FROM boat;
-- case: from some of its rows, or from another one [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO boat (name) SELECT name FROM boat WHERE kind = 'a';
INSERT INTO boat (name) SELECT name FROM boat_new;
-- case: a zero in front [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 silent-cast ask
UPDATE boat SET kind = 'x' WHERE zip = 01234;
-- case: a number, and a text [postgresql mysql mariadb sqlite tsql plsql]
UPDATE boat SET kind = 'x' WHERE zip = '01234' AND length > 0 AND width < 0.5;
