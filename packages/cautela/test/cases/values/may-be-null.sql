-- hazards: null-into-required blanks-value outer-null
-- tables
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(20) NOT NULL, phone varchar(20));
CREATE TABLE buoy (buoy_id integer NOT NULL PRIMARY KEY, quay_id integer NOT NULL, near_id integer, code varchar(20) NOT NULL, light varchar(20), n integer NOT NULL, m integer, data varchar(90), CONSTRAINT fk_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id), CONSTRAINT fk_near FOREIGN KEY (near_id) REFERENCES quay (quay_id));
-- case: a column that may be NULL goes into one that may not [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-into-required note
-- finds: 1 null-into-required note
UPDATE buoy SET n = m WHERE buoy_id < 9;
UPDATE buoy SET code = UPPER(light), n = 1 WHERE buoy_id < 9;
-- case: a CASE gives it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-into-required note
UPDATE buoy SET code = CASE WHEN light = 'red' THEN 'x' ELSE light END WHERE buoy_id < 9;
-- case: it is asked for, or something stands in for it [postgresql mysql mariadb sqlite plsql]
UPDATE buoy SET n = m WHERE m IS NOT NULL;
UPDATE buoy SET n = m + 1 WHERE m > 3 AND buoy_id < 9;
UPDATE buoy SET n = COALESCE(m, 0) WHERE buoy_id < 9;
UPDATE buoy SET code = CASE WHEN light IS NULL THEN 'x' ELSE light END WHERE buoy_id < 9;
UPDATE buoy SET code = CASE WHEN light IS NOT NULL THEN light ELSE 'x' END WHERE buoy_id < 9;
-- case: into a column that may be NULL as well [postgresql mysql mariadb sqlite tsql plsql]
UPDATE buoy SET m = n, light = code WHERE buoy_id < 9;
UPDATE buoy SET light = UPPER(light) WHERE buoy_id < 9;
-- case: from a joined table [postgresql sqlite]
-- finds: 0 null-into-required note
UPDATE buoy SET code = q.phone FROM quay q WHERE q.quay_id = buoy.quay_id AND buoy_id < 9;
-- case: from a query that leaves them out [postgresql]
UPDATE buoy SET code = q.phone FROM (SELECT quay_id, phone FROM quay WHERE phone IS NOT NULL) q WHERE q.quay_id = buoy.quay_id AND buoy_id < 9;
-- case: a function passes the NULL of another column on [postgresql mysql mariadb sqlite tsql]
-- finds: 0 blanks-value ask
UPDATE buoy SET code = REPLACE(code, 'a', light) WHERE buoy_id < 9;
-- case: a null inside of a document is none for the whole [mysql mariadb sqlite]
UPDATE buoy SET data = JSON_SET(data, '$.a', NULL) WHERE buoy_id < 9;
UPDATE buoy SET data = JSON_SET(data, '$.a', light) WHERE buoy_id < 9;
-- case: a text from which a piece is taken, NULL or not [plsql]
UPDATE buoy SET code = REPLACE(code, 'a', light) WHERE buoy_id < 9;
-- case: the parent of a required key is always there [postgresql mysql mariadb tsql plsql]
UPDATE buoy SET code = (SELECT q.name FROM quay q WHERE q.quay_id = buoy.quay_id) WHERE buoy_id < 9;
UPDATE buoy SET code = (SELECT q.name FROM quay q WHERE buoy.near_id = q.quay_id) WHERE near_id IS NOT NULL AND buoy_id < 9;
UPDATE buoy SET code = (SELECT q.name FROM quay q WHERE buoy.near_id = q.quay_id) WHERE near_id = 3 AND buoy_id < 9;
-- case: the key may be empty, is another one, or more is asked of the parent [postgresql mysql mariadb tsql plsql]
-- finds: 0 outer-null ask
-- finds: 1 outer-null ask
-- finds: 2 outer-null ask
UPDATE buoy SET light = (SELECT q.name FROM quay q WHERE q.quay_id = buoy.near_id) WHERE buoy_id < 9;
UPDATE buoy SET light = (SELECT q.name FROM quay q WHERE q.quay_id = buoy.buoy_id) WHERE buoy_id < 9;
UPDATE buoy SET light = (SELECT q.name FROM quay q WHERE q.quay_id = buoy.quay_id AND q.name <> 'N') WHERE buoy_id < 9;
-- case: the key was not checked [tsql]
-- finds: 1 outer-null ask
ALTER TABLE buoy NOCHECK CONSTRAINT fk_quay;
UPDATE buoy SET light = (SELECT q.name FROM quay q WHERE q.quay_id = buoy.quay_id) WHERE buoy_id < 9;
