-- hazards: open-transaction check-differs thin-backup unproven-move
-- no catalog
-- case: autocommit is off, and nothing commits [mysql mariadb]
-- finds: 1 open-transaction ask
SET autocommit = 0;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
-- case: DDL has committed what was there, and a change comes after it [mysql mariadb]
-- finds: 2 open-transaction ask
SET autocommit = 0;
CREATE TABLE loaf_2 AS SELECT * FROM loaf;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
-- case: a change after the COMMIT [mysql mariadb]
-- finds: 3 open-transaction ask
SET autocommit = 0;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
COMMIT;
UPDATE loaf SET price = 5 WHERE loaf_id = 5;
-- case: committed, or switched on again [mysql mariadb]
SET autocommit = 0;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
COMMIT;
UPDATE loaf SET price = 5 WHERE loaf_id = 5;
SET autocommit = 1;
-- case: put back as it was [mysql mariadb]
SET @was = @@autocommit;
SET autocommit = 0;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
COMMIT;
SET autocommit = @was;
UPDATE loaf SET price = 5 WHERE loaf_id = 5;
SET autocommit = DEFAULT;
UPDATE loaf SET price = 6 WHERE loaf_id = 6;
-- case: nothing is changed after it [mysql mariadb tsql]
SET autocommit = 0;
SELECT price FROM loaf;
-- case: implicit transactions [tsql]
-- finds: 1 open-transaction ask
SET IMPLICIT_TRANSACTIONS ON;
UPDATE loaf SET price = 3 WHERE loaf_id = 4;
-- case: a look whose subquery asks less [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 check-differs ask
SELECT count(*) FROM pal WHERE NOT EXISTS (SELECT 1 FROM loaf l WHERE l.o = pal.id);
DELETE FROM pal WHERE NOT EXISTS (SELECT 1 FROM loaf l WHERE l.o = pal.id AND l.s = 0);
-- case: a look whose subquery asks another table [postgresql mysql mariadb sqlite tsql plsql]
SELECT count(*) FROM pal WHERE NOT EXISTS (SELECT 1 FROM bun b WHERE b.o = pal.id);
DELETE FROM pal WHERE NOT EXISTS (SELECT 1 FROM loaf l WHERE l.o = pal.id AND l.s = 0);
-- case: an archive belongs to the DELETE after it [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 2 unproven-move stop
UPDATE loaf SET price = 3 WHERE kind = 'x';
INSERT INTO loaf_archive SELECT * FROM loaf WHERE baked = 2024;
DELETE FROM loaf WHERE baked <= 2024;
