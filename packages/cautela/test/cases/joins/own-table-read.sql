-- hazards: own-table-read moving-filter
-- tables
CREATE TABLE bun (bun_id integer NOT NULL PRIMARY KEY, price integer NOT NULL, kind integer);
CREATE TABLE roll (roll_id integer NOT NULL PRIMARY KEY, price integer NOT NULL);
-- case: an average of the same table [mysql]
-- finds: 0 moving-filter ask
-- finds: 0 own-table-read stop
DELETE FROM bun WHERE price < (SELECT AVG(price) FROM bun);
-- case: an average of the same table, which is read [postgresql mariadb sqlite tsql plsql]
-- finds: 0 moving-filter ask
DELETE FROM bun WHERE price < (SELECT AVG(price) FROM bun);
-- case: turned round, under another name [postgresql mariadb sqlite tsql plsql]
-- finds: 0 moving-filter ask
DELETE FROM bun WHERE (SELECT AVG(b.price) FROM bun b) > bun.price;
-- case: a target named before FROM [mysql mariadb]
-- finds: 0 own-table-read stop
DELETE b FROM bun b WHERE b.kind IN (SELECT kind FROM bun WHERE price = 0);
-- case: a key worked out of the table [mysql]
-- finds: 0 own-table-read stop
INSERT INTO bun (bun_id, price) VALUES ((SELECT MAX(bun_id) + 1 FROM bun), 3);
-- case: INSERT from a SELECT [mysql mariadb postgresql sqlite]
INSERT INTO bun (bun_id, price) SELECT COALESCE(MAX(bun_id), 0) + 1, 3 FROM bun;
-- case: a derived table in between [mysql mariadb]
DELETE FROM bun WHERE bun_id IN (SELECT bun_id FROM (SELECT MAX(bun_id) AS bun_id FROM bun GROUP BY kind) AS newest);
-- case: another table [mysql mariadb postgresql sqlite tsql plsql]
DELETE FROM bun WHERE price < (SELECT AVG(price) FROM roll);
-- case: the changed column is averaged [postgresql mariadb sqlite tsql plsql]
-- finds: 0 moving-filter ask
UPDATE bun SET price = 3 WHERE price < (SELECT AVG(price) FROM bun);
-- case: another column is changed [postgresql mariadb sqlite tsql plsql]
UPDATE bun SET kind = 3 WHERE price < (SELECT AVG(price) FROM bun);
-- case: the last row [postgresql mariadb sqlite tsql plsql]
-- finds: 0 moving-filter ask
DELETE FROM bun WHERE bun_id = (SELECT MAX(bun_id) FROM bun);
-- case: all but the last hundred [postgresql mariadb sqlite tsql plsql]
DELETE FROM bun WHERE bun_id < (SELECT MAX(bun_id) - 100 FROM bun);
-- case: copies of a row [postgresql mariadb sqlite]
DELETE FROM bun WHERE bun_id < (SELECT MAX(b.bun_id) FROM bun b WHERE b.kind = bun.kind);
