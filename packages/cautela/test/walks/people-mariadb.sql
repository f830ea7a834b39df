-- schema
CREATE TABLE dept (id int AUTO_INCREMENT PRIMARY KEY, code varchar(6) UNIQUE NOT NULL, budget decimal(12,2) DEFAULT 0, stamp timestamp NULL ON UPDATE CURRENT_TIMESTAMP);
CREATE TABLE Person (Id bigint AUTO_INCREMENT PRIMARY KEY, dept_id int, `Full Name` varchar(60) NOT NULL, mail varchar(80), salary decimal(10,2), state enum('on','off') DEFAULT 'on', flags set('a','b','c'), bits bit(4) DEFAULT b'0', since date DEFAULT '2020-01-01', boss_id bigint, body longblob, CONSTRAINT pd FOREIGN KEY (dept_id) REFERENCES dept(id) ON DELETE SET NULL ON UPDATE CASCADE, CONSTRAINT pb FOREIGN KEY (boss_id) REFERENCES Person(Id) ON DELETE SET NULL);
CREATE TABLE pay (person_id bigint, month date, amount decimal(10,2), net decimal(10,2) AS (amount * 0.6) VIRTUAL, PRIMARY KEY (person_id, month), CONSTRAINT pp FOREIGN KEY (person_id) REFERENCES Person(Id) ON DELETE CASCADE);
CREATE TABLE audit (n int AUTO_INCREMENT PRIMARY KEY, tab text, op text, at timestamp DEFAULT CURRENT_TIMESTAMP);
CREATE TABLE archive (person_id bigint, month date, amount decimal(10,2), PRIMARY KEY (person_id, month));
CREATE TABLE totals (dept_id int PRIMARY KEY, heads int unsigned);
DELIMITER //
CREATE TRIGGER person_norm BEFORE UPDATE ON Person FOR EACH ROW BEGIN SET NEW.mail = LOWER(NEW.mail); END//
CREATE TRIGGER pay_log AFTER DELETE ON pay FOR EACH ROW INSERT INTO audit (tab, op) VALUES ('pay', 'DELETE')//
CREATE TRIGGER person_heads AFTER DELETE ON Person FOR EACH ROW UPDATE totals SET heads = heads - 1 WHERE dept_id = OLD.dept_id//
CREATE PROCEDURE raise_all(f decimal(4,2)) BEGIN UPDATE Person SET salary = salary * f; END//
DELIMITER ;
CREATE VIEW on_staff AS SELECT Id, `Full Name`, salary, dept_id FROM Person WHERE state = 'on' WITH CHECK OPTION;
INSERT INTO dept (code, budget) VALUES ('A', 100), ('B', 200), ('C', NULL);
INSERT INTO totals VALUES (1, 2), (2, 1), (3, 1);
INSERT INTO Person (dept_id, `Full Name`, mail, salary, state, flags, bits, boss_id, body) VALUES (1, 'Ann', 'Ann@x', 10, 'on', 'a,b', b'1', NULL, x'00ff'), (1, 'Bob', 'bob@x', 20, 'off', NULL, NULL, 1, NULL), (2, 'Cid', NULL, NULL, 'on', '', b'11', 1, ''), (3, 'Dee', 'DEE@x', 40, 'on', 'c', b'0', 3, NULL), (NULL, 'Eve', 'eve@y', 50, 'off', 'a', b'0', 4, NULL);
INSERT INTO pay (person_id, month, amount) VALUES (1, '2026-01-01', 100), (1, '2026-02-01', 100), (2, '2026-01-01', 200), (3, '2026-01-01', 300), (3, '2026-03-01', 300);
-- script: people anonymised
UPDATE Person SET `Full Name` = CONCAT('P', Id), mail = CONCAT('P', Id, '@X'), body = NULL, flags = '' WHERE since < '2021-01-01';
-- script: departments go
DELETE FROM dept WHERE code IN ('A', 'C');
-- script: renumbering
UPDATE dept SET id = id + 100 ORDER BY id DESC;
-- script: archive and purge
START TRANSACTION;
INSERT INTO archive SELECT person_id, month, amount FROM pay WHERE month < '2026-03-01';
DELETE p FROM pay p JOIN archive a ON a.person_id = p.person_id AND a.month = p.month;
COMMIT;
-- script: a column split
ALTER TABLE Person ADD COLUMN first varchar(30), ADD COLUMN last varchar(30);
UPDATE Person SET first = SUBSTRING_INDEX(`Full Name`, ' ', 1), last = SUBSTRING_INDEX(`Full Name`, ' ', -1);
ALTER TABLE Person DROP COLUMN body;
-- script: a key widened
ALTER TABLE dept MODIFY code varchar(12) NOT NULL;
UPDATE dept SET code = CONCAT(code, '-000001') WHERE id = 2;
-- script: persons go
DELETE FROM Person WHERE Id IN (1, 3);
-- script: two tables at once
UPDATE Person p JOIN dept d ON d.id = p.dept_id SET p.salary = p.salary + 1, d.budget = d.budget - 1 WHERE d.code = 'A';
-- script: through the view
UPDATE on_staff SET salary = salary * 1.1 WHERE dept_id = 1;
-- script: upserts
INSERT INTO dept (id, code, budget) VALUES (1, 'A', 7), (9, 'Z', 8) ON DUPLICATE KEY UPDATE budget = VALUES(budget) + 1;
REPLACE INTO archive VALUES (1, '2026-01-01', 9);
INSERT IGNORE INTO totals VALUES (1, 99), (7, 7);
-- script: a routine
CALL raise_all(1.1);
-- script: checks off and on
SET FOREIGN_KEY_CHECKS = 0;
TRUNCATE TABLE pay;
SET FOREIGN_KEY_CHECKS = 1;
-- script: a variable
SET @cut := (SELECT MAX(salary) / 2 FROM Person);
UPDATE Person SET state = 'off' WHERE salary < @cut;
DELETE FROM pay WHERE person_id IN (SELECT Id FROM Person WHERE state = 'off');
-- script: sets and bits
UPDATE Person SET flags = 'b,c', bits = b'101' WHERE Id <= 2;
-- script: with a limit
DELETE FROM pay ORDER BY amount DESC LIMIT 2;
-- script: a swap of tables | the structure in other words
CREATE TABLE pay_new LIKE pay;
INSERT INTO pay_new (person_id, month, amount) SELECT person_id, month, amount * 2 FROM pay;
RENAME TABLE pay TO pay_old, pay_new TO pay;
-- script: indexes come, and counters go on
ALTER TABLE Person ADD FULLTEXT INDEX by_name (`Full Name`), ADD INDEX by_mail (mail);
UPDATE totals SET heads = heads + 1 WHERE heads < 2;
