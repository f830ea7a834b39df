-- schema
CREATE TABLE Grower (grower_id int PRIMARY KEY, name varchar(40) NOT NULL, head_id int, mentor_id int, town varchar(40), CONSTRAINT grower_head FOREIGN KEY (head_id) REFERENCES Grower (grower_id) ON DELETE CASCADE, CONSTRAINT grower_mentor FOREIGN KEY (mentor_id) REFERENCES Grower (grower_id) ON DELETE SET NULL);
CREATE TABLE orchard (orchard_id int PRIMARY KEY, grower_id int, name varchar(40) NOT NULL UNIQUE, trees int NOT NULL DEFAULT 0, changed_at timestamp NULL DEFAULT NULL ON UPDATE CURRENT_TIMESTAMP, CONSTRAINT orchard_grower FOREIGN KEY (grower_id) REFERENCES Grower (grower_id) ON DELETE CASCADE ON UPDATE CASCADE);
CREATE TABLE variety (variety_id int AUTO_INCREMENT PRIMARY KEY, name varchar(40) NOT NULL, tag varchar(20), price decimal(8,2) NOT NULL);
CREATE TABLE `Order Lines` (`Line No` int PRIMARY KEY, `select` int, Qty int NOT NULL, variety_id int, total decimal(10,2) AS (Qty * 2.5) STORED, CONSTRAINT line_variety FOREIGN KEY (variety_id) REFERENCES variety (variety_id));
CREATE TABLE picking (picking_id int PRIMARY KEY, orchard_id int, variety_id int, kilos int NOT NULL, picked_on date NOT NULL, CONSTRAINT picking_orchard FOREIGN KEY (orchard_id) REFERENCES orchard (orchard_id) ON DELETE CASCADE ON UPDATE CASCADE, CONSTRAINT picking_variety FOREIGN KEY (variety_id) REFERENCES variety (variety_id) ON DELETE CASCADE);
CREATE TABLE crate (crate_id int PRIMARY KEY, picking_id int, orchard_id int, state enum('new','used','broken') NOT NULL DEFAULT 'new', doc json, place point, CONSTRAINT crate_picking FOREIGN KEY (picking_id) REFERENCES picking (picking_id) ON DELETE CASCADE, CONSTRAINT crate_orchard FOREIGN KEY (orchard_id) REFERENCES orchard (orchard_id) ON DELETE CASCADE ON UPDATE CASCADE);
CREATE TABLE tally (what varchar(20) PRIMARY KEY, n int NOT NULL);
CREATE TABLE picking_log (line_id int AUTO_INCREMENT PRIMARY KEY, what text, at timestamp DEFAULT CURRENT_TIMESTAMP);
CREATE TABLE price_delivery (name varchar(40), price decimal(8,2));
CREATE TABLE loose_note (what text, at date);
CREATE TABLE mixed (a int, b int, c text, PRIMARY KEY (a, b));
CREATE TABLE stock (stock_id int PRIMARY KEY, variety_id int NOT NULL, kilos int NOT NULL, expected int, changed int);
INSERT INTO Grower VALUES (1, 'Asta', NULL, NULL, 'Ulm'), (2, 'Bo', 1, NULL, 'Ulm'), (3, 'Cleo', 2, 1, 'Bonn'), (4, 'Dov', 3, 2, 'Bonn'), (5, 'Eli', NULL, 3, 'Kiel');
INSERT INTO orchard (orchard_id, grower_id, name, trees) VALUES (10, 1, 'hill', 40), (11, 2, 'brook', 30), (12, 5, 'mill', 20);
INSERT INTO variety (name, tag, price) VALUES ('Gala', 'GA', 2.50), ('Boskoop', 'bo', 3.10), ('Elstar', NULL, 2.80);
INSERT INTO `Order Lines` (`Line No`, `select`, Qty, variety_id) VALUES (1, 5, 10, 1), (2, 6, 20, 2), (3, 7, 30, NULL);
INSERT INTO picking VALUES (100, 10, 1, 50, '2026-09-01'), (101, 11, 2, 60, '2026-09-02'), (102, 12, 3, 70, '2025-09-03'), (103, 12, 1, 5, '2025-08-01');
INSERT INTO crate VALUES (1000, 100, 10, 'new', '{"a": 1}', POINT(1,2)), (1001, 101, 12, 'used', '{"a":  2}', NULL), (1002, 102, 12, 'used', NULL, NULL), (1003, NULL, 10, 'broken', '[1]', POINT(3,4));
INSERT INTO tally VALUES ('picking', 4), ('orchard', 3);
INSERT INTO price_delivery VALUES ('Gala', 2.75), ('Elstar', 2.95), ('Topaz', 3.30);
INSERT INTO loose_note VALUES ('a', '2026-01-01'), ('a', '2026-01-01'), ('b', NULL);
INSERT INTO mixed VALUES (1, 1, 'x'), (1, 2, 'y'), (2, 1, 'z');
INSERT INTO stock VALUES (1, 1, 100, 7, 1), (2, 2, 200, 8, 2);
DELIMITER //
CREATE TRIGGER variety_tidy BEFORE UPDATE ON variety FOR EACH ROW SET NEW.tag = UPPER(NEW.tag)//
CREATE TRIGGER picking_counted AFTER DELETE ON picking FOR EACH ROW UPDATE tally SET n = n - 1 WHERE what = 'picking'//
CREATE TRIGGER picking_added AFTER INSERT ON picking FOR EACH ROW BEGIN UPDATE tally SET n = n + 1 WHERE what = 'picking'; INSERT INTO picking_log (what) VALUES ('came'); END//
CREATE TRIGGER picking_logged AFTER UPDATE ON picking FOR EACH ROW INSERT INTO picking_log (what) VALUES ('changed')//
CREATE PROCEDURE close_orchard(p int) BEGIN UPDATE orchard SET trees = 0 WHERE orchard_id = p; DELETE FROM picking WHERE orchard_id = p; END//
DELIMITER ;
CREATE VIEW big_picking AS SELECT picking_id, kilos, picked_on FROM picking WHERE kilos > 40;
-- script: a joined raise
UPDATE variety v JOIN price_delivery d ON d.name = v.name SET v.price = d.price;
-- script: two targets
UPDATE variety v JOIN stock s ON s.variety_id = v.variety_id SET v.price = v.price + 1, s.kilos = s.kilos - 10;
-- script: rows go from two tables
DELETE s, d FROM stock s JOIN variety v ON v.variety_id = s.variety_id JOIN price_delivery d ON d.name = v.name;
-- script: growers with their heads and mentors go
DELETE FROM Grower WHERE grower_id = 1;
-- script: mentors only
DELETE FROM Grower WHERE grower_id = 3;
-- script: some by a limit
DELETE FROM crate LIMIT 2;
UPDATE stock SET kilos = 0 ORDER BY kilos LIMIT 1;
-- script: by chance
DELETE FROM picking WHERE RAND() < 0.5 OR picking_id = 100;
-- script: by the clock
UPDATE picking SET kilos = kilos + 1 WHERE picked_on < NOW() - INTERVAL 1 DAY;
-- script: names in quotes
UPDATE `Order Lines` SET `select` = 1, Qty = 3 WHERE `Line No` < 3;
DELETE FROM `Order Lines` WHERE `Line No` = 2;
-- script: json and points
UPDATE crate SET doc = '{"a": 9}', place = POINT(9,9) WHERE state = 'used';
DELETE crate FROM crate JOIN orchard o ON o.orchard_id = crate.orchard_id WHERE o.name = 'hill';
-- script: only the case
UPDATE orchard SET name = UPPER(name) WHERE orchard_id = 10;
-- script: a key of two columns
UPDATE mixed m JOIN tally t ON t.what = 'orchard' SET m.c = 'q' WHERE m.a = 1;
DELETE m FROM mixed m JOIN tally t ON t.what = 'orchard' WHERE m.b = 1;
-- script: columns with awkward names
UPDATE stock SET kilos = kilos + 1 WHERE expected = 7 AND changed = 1;
-- script: rows come, with a counter and a log
INSERT INTO picking VALUES (200, 10, 2, 33, '2026-10-01'), (201, 11, 1, 44, '2026-10-02');
-- script: an upsert, a replacement
INSERT INTO tally VALUES ('picking', 1), ('crate', 2) ON DUPLICATE KEY UPDATE n = n + VALUES(n);
REPLACE INTO stock VALUES (1, 2, 5, 5, 5), (3, 3, 6, 6, 6);
-- script: a routine
CALL close_orchard(12);
-- script: truncated
TRUNCATE stock;
-- script: yearly prices from a delivered table
START TRANSACTION;
CREATE TEMPORARY TABLE checked AS SELECT name, price FROM price_delivery WHERE price > 0;
DELETE FROM checked WHERE name = 'Elstar';
UPDATE variety v JOIN checked c ON c.name = v.name SET v.price = c.price;
INSERT INTO variety (name, price) SELECT name, price FROM checked c WHERE c.name NOT IN (SELECT name FROM variety);
UPDATE variety SET tag = 'new' WHERE tag IS NULL;
COMMIT;
-- script: a variable decides
SET @least = (SELECT MIN(kilos) FROM picking);
DELETE FROM picking WHERE kilos = @least;
-- script: duplicates merged
START TRANSACTION;
UPDATE picking SET orchard_id = 10 WHERE orchard_id = 11;
UPDATE crate SET orchard_id = 10 WHERE orchard_id = 11;
UPDATE orchard SET trees = trees + 30 WHERE orchard_id = 10;
DELETE FROM orchard WHERE orchard_id = 11;
COMMIT;
-- script: a column is split
ALTER TABLE Grower ADD COLUMN first_name varchar(20) AFTER name;
UPDATE Grower SET first_name = SUBSTRING_INDEX(name, ' ', 1);
ALTER TABLE Grower DROP COLUMN town;
-- script: a new table, filled and used
CREATE TABLE season (season_id int PRIMARY KEY, label text NOT NULL);
INSERT INTO season VALUES (1, 'spring'), (2, 'autumn');
ALTER TABLE picking ADD COLUMN season_id int;
UPDATE picking SET season_id = 2;
-- script: a narrower type
ALTER TABLE Grower MODIFY name varchar(40) NULL;
UPDATE Grower SET name = LEFT(name, 2);
ALTER TABLE Grower MODIFY name varchar(2) NOT NULL;
-- script: a rename
RENAME TABLE tally TO counter;
ALTER TABLE stock RENAME COLUMN kilos TO weight;
-- script: tables dropped
DROP TABLE price_delivery;
DROP TABLE mixed;
-- script: a block
DELIMITER //
BEGIN NOT ATOMIC
  DECLARE i int DEFAULT 0;
  WHILE i < 3 DO
    UPDATE orchard SET trees = trees + 1 WHERE orchard_id = 10 + i;
    SET i = i + 1;
  END WHILE;
END//
DELIMITER ;
-- script: a trial run | changes nothing
START TRANSACTION;
DELETE FROM crate;
ROLLBACK;
-- script: others work meanwhile
UPDATE picking SET kilos = kilos + 1 WHERE picking_id IN (100, 101);
DELETE FROM crate WHERE state = 'used';
INSERT INTO variety (name, price) VALUES ('Topaz', 3);
DELETE FROM picking WHERE picking_id = 103;
-- meanwhile
UPDATE picking SET picked_on = '2026-12-01' WHERE picking_id = 100;
INSERT INTO crate (crate_id, orchard_id) VALUES (2000, 11);
INSERT INTO variety (variety_id, name, price) VALUES (77, 'Other', 1);
UPDATE tally SET n = 9 WHERE what = 'orchard';
-- script: a swap of tables
CREATE TABLE mixed_new LIKE mixed;
INSERT INTO mixed_new SELECT a, b, 'n' FROM mixed;
RENAME TABLE mixed TO mixed_old, mixed_new TO mixed;
-- script: an added column on a table with a trigger that tidies
ALTER TABLE variety ADD COLUMN short varchar(4);
UPDATE variety SET short = LEFT(name, 2);
-- script: a table is renamed after its change
UPDATE tally SET n = n + 1 WHERE what = 'picking';
RENAME TABLE tally TO counter;
UPDATE mixed SET c = 'z' WHERE a = 1;
