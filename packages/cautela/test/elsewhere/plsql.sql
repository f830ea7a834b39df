-- schema
CREATE TABLE grower (grower_id NUMBER(9) PRIMARY KEY, name VARCHAR2(40) NOT NULL, head_id NUMBER(9) CONSTRAINT grower_head REFERENCES grower (grower_id) ON DELETE SET NULL, town VARCHAR2(40), notes CLOB, photo BLOB);
CREATE TABLE "Order Lines" ("Line No" NUMBER(9) PRIMARY KEY, "select" NUMBER(9), qty NUMBER(10,2) NOT NULL, grower_id NUMBER(9) CONSTRAINT line_grower REFERENCES grower (grower_id) ON DELETE CASCADE);
CREATE TABLE tally (what VARCHAR2(20) PRIMARY KEY, n NUMBER(9) NOT NULL);
CREATE TABLE delivery (name VARCHAR2(40), price NUMBER(10,2));
CREATE TABLE mixed (a NUMBER(9), b NUMBER(9), c VARCHAR2(20), CONSTRAINT mixed_key PRIMARY KEY (a, b));
CREATE TABLE a_table_with_a_rather_long_nm (id NUMBER(9) PRIMARY KEY, n NUMBER(9));
CREATE OR REPLACE TRIGGER grower_counted AFTER DELETE ON grower FOR EACH ROW BEGIN UPDATE tally SET n = n - 1 WHERE what = 'grower'; END;
/
-- script: plain changes
UPDATE grower SET town = 'Ulm', notes = NULL WHERE grower_id < 5;
DELETE FROM grower WHERE town = 'Bonn';
-- script: subqueries
UPDATE tally t SET n = (SELECT COUNT(*) FROM grower g WHERE g.town = t.what) WHERE EXISTS (SELECT 1 FROM grower g WHERE g.town = t.what);
DELETE FROM "Order Lines" WHERE grower_id IN (SELECT grower_id FROM grower WHERE town = 'Ulm');
-- script: limits, chance and the clock
DELETE FROM grower WHERE ROWNUM <= 10;
DELETE FROM tally WHERE n > DBMS_RANDOM.VALUE(1, 10);
UPDATE grower SET town = 'x' WHERE name > TO_CHAR(SYSDATE);
-- script: names
UPDATE "Order Lines" SET "select" = 1, qty = 3 WHERE "Line No" < 3;
UPDATE a_table_with_a_rather_long_nm SET n = 1 WHERE id < 5;
-- script: keys
UPDATE mixed SET a = a + 10 WHERE b = 1;
-- script: rows come
INSERT INTO tally (what, n) SELECT name, 1 FROM delivery;
MERGE INTO tally t USING delivery d ON (d.name = t.what) WHEN MATCHED THEN UPDATE SET t.n = t.n + 1 WHEN NOT MATCHED THEN INSERT (what, n) VALUES (d.name, 1);
-- script: emptied
TRUNCATE TABLE delivery;
-- script: one after the other
UPDATE tally SET n = 5 WHERE what = 'a';
DELETE FROM tally WHERE n = 5;
COMMIT;
-- script: structure
ALTER TABLE grower ADD (first_name VARCHAR2(20));
UPDATE grower SET first_name = SUBSTR(name, 1, 3);
ALTER TABLE grower DROP COLUMN town;
DROP TABLE delivery;
CREATE INDEX tally_n ON tally (n);
ALTER TRIGGER grower_counted DISABLE;
