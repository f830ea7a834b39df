-- hazards: hollow-filter dead-filter every-row stale-filter unordered-limit loose-match weak-filter
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20) NOT NULL, price integer NOT NULL);
CREATE TABLE oven (oven_id integer PRIMARY KEY, hot integer, lastname varchar(20));
-- case: the key in its own table, through WITH and through a derived table [postgresql mysql mariadb sqlite tsql]
-- finds: 0 hollow-filter stop
-- finds: 1 hollow-filter stop
WITH x AS (SELECT bun_id FROM bun) DELETE FROM bun WHERE bun_id IN (SELECT bun_id FROM x);
DELETE FROM bun WHERE bun_id IN (SELECT bun_id FROM (SELECT bun_id FROM bun) y);
-- case: a part of them, through WITH [postgresql mysql sqlite tsql]
WITH x AS (SELECT bun_id FROM bun WHERE price > 3) DELETE FROM bun WHERE bun_id IN (SELECT bun_id FROM x);
-- case: a join with itself takes every copy [postgresql]
-- finds: 0 hollow-filter stop
DELETE FROM bun a USING bun b WHERE a.kind = b.kind;
-- case: and all but one [postgresql]
DELETE FROM bun a USING bun b WHERE a.kind = b.kind AND a.bun_id > b.bun_id;
-- case: numbered from one [sqlite]
-- finds: 0 hollow-filter stop
-- finds: 1 hollow-filter stop
DELETE FROM bun WHERE bun_id > 0;
DELETE FROM bun WHERE bun_id;
-- case: the row's own number [sqlite]
DELETE FROM bun WHERE rowid = 4;
-- case: rows are numbered as they are met [plsql]
-- finds: 0 dead-filter ask
-- finds: 1 dead-filter ask
DELETE FROM bun WHERE ROWNUM > 1;
DELETE FROM bun WHERE ROWNUM = 2;
-- case: the first of them, whichever that is [plsql]
-- finds: 0 unordered-limit ask
DELETE FROM bun WHERE ROWNUM <= 3;
-- case: the empty text is NULL [plsql]
-- finds: 0 dead-filter ask
-- finds: 1 dead-filter ask
DELETE FROM oven WHERE lastname = '';
UPDATE oven SET hot = 1 WHERE lastname <> '';
-- case: the empty text is a text [postgresql mysql mariadb sqlite tsql]
UPDATE oven SET hot = 1 WHERE lastname = '' AND oven_id = 3;
-- case: a subquery asks for what is gone [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 stale-filter ask
UPDATE bun SET kind = 'old' WHERE kind = 'new';
UPDATE oven SET hot = 1 WHERE oven_id IN (SELECT bun_id FROM bun WHERE kind = 'new');
-- case: the rows are deleted already [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 stale-filter ask
DELETE FROM bun WHERE kind = 'old';
UPDATE bun SET price = 3 WHERE kind = 'old' AND price > 4;
-- case: others are there [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM bun WHERE kind = 'old';
UPDATE bun SET price = 3 WHERE kind = 'new' AND price > 4;
-- case: one of several values, whichever comes first [postgresql mysql mariadb sqlite]
-- finds: 0 unordered-limit ask
UPDATE bun SET price = (SELECT hot FROM oven LIMIT 1) WHERE bun_id = 3;
-- case: the cheapest [postgresql mysql mariadb sqlite]
UPDATE bun SET price = (SELECT hot FROM oven ORDER BY hot LIMIT 1) WHERE bun_id = 3;
-- case: a name in one word [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 weak-filter ask
DELETE FROM oven WHERE lastname = 'Storm';
-- case: the underscore before the percent sign [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 loose-match note
UPDATE bun SET price = 3 WHERE kind LIKE 'X_%';
