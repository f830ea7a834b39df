-- schema
CREATE TABLE dept (id integer PRIMARY KEY, code text UNIQUE NOT NULL COLLATE NOCASE, budget numeric DEFAULT 0);
CREATE TABLE Person (Id integer PRIMARY KEY AUTOINCREMENT, dept_id integer REFERENCES dept(id) ON DELETE SET NULL ON UPDATE CASCADE, "Full Name" text NOT NULL, mail text, salary real, body blob, boss_id integer REFERENCES Person(Id) ON DELETE SET NULL);
CREATE TABLE pay (person_id integer REFERENCES Person(Id) ON DELETE CASCADE, month text, amount numeric, net AS (amount * 0.6), PRIMARY KEY (person_id, month)) WITHOUT ROWID;
CREATE TABLE audit (n integer PRIMARY KEY, tab text, op text, at text DEFAULT CURRENT_TIMESTAMP);
CREATE TABLE archive (person_id integer, month text, amount numeric, PRIMARY KEY (person_id, month));
CREATE TABLE totals (dept_id integer PRIMARY KEY, heads integer);
CREATE TRIGGER person_norm AFTER UPDATE OF mail ON Person WHEN NEW.mail <> lower(NEW.mail) BEGIN UPDATE Person SET mail = lower(NEW.mail) WHERE Id = NEW.Id; END;
CREATE TRIGGER pay_log AFTER DELETE ON pay BEGIN INSERT INTO audit (tab, op) VALUES ('pay', 'DELETE'); END;
CREATE TRIGGER person_heads AFTER DELETE ON Person BEGIN UPDATE totals SET heads = heads - 1 WHERE dept_id = OLD.dept_id; END;
CREATE VIEW staff AS SELECT Id, "Full Name" AS name, salary FROM Person;
CREATE TRIGGER staff_u INSTEAD OF UPDATE ON staff BEGIN UPDATE Person SET salary = NEW.salary, "Full Name" = NEW.name WHERE Id = OLD.Id; END;
INSERT INTO dept VALUES (1, 'A', 100), (2, 'B', 200), (3, 'C', NULL);
INSERT INTO totals VALUES (1, 2), (2, 1), (3, 1);
INSERT INTO Person (dept_id, "Full Name", mail, salary, body, boss_id) VALUES (1, 'Ann', 'Ann@x', 10, x'00ff', NULL), (1, 'Bob', 'bob@x', 20.5, NULL, 1), (2, 'Cid', NULL, NULL, 'text', 1), (3, 'Dee', 'DEE@x', 40, NULL, 3), (NULL, 'Eve', 'eve@y', '50', NULL, 4);
INSERT INTO pay (person_id, month, amount) VALUES (1, '2026-01-01', 100), (1, '2026-02-01', 100), (2, '2026-01-01', 200), (3, '2026-01-01', 300), (3, '2026-03-01', 300);
INSERT INTO archive VALUES (9, '2020-01-01', 1);
-- script: people anonymised
UPDATE Person SET "Full Name" = 'P' || Id, mail = 'P' || Id || '@X', body = NULL WHERE Id < 4;
-- script: departments go
DELETE FROM dept WHERE code IN ('a', 'C');
-- script: renumbering
UPDATE dept SET id = id + 100;
-- script: archive and purge
BEGIN;
INSERT INTO archive SELECT person_id, month, amount FROM pay WHERE month < '2026-03-01';
DELETE FROM pay WHERE EXISTS (SELECT 1 FROM archive a WHERE a.person_id = pay.person_id AND a.month = pay.month);
COMMIT;
-- script: a column split
ALTER TABLE Person ADD COLUMN first text;
ALTER TABLE Person ADD COLUMN last text DEFAULT '';
UPDATE Person SET first = substr("Full Name", 1, 1), last = substr("Full Name", 2);
-- script: persons go
DELETE FROM Person WHERE Id IN (1, 3);
-- script: through the view
UPDATE staff SET salary = salary * 1.1 WHERE Id < 3;
-- script: upserts
INSERT INTO dept (id, code, budget) VALUES (1, 'A', 7), (9, 'Z', 8) ON CONFLICT (id) DO UPDATE SET budget = excluded.budget + 1;
INSERT OR REPLACE INTO totals VALUES (1, 99), (7, 7);
INSERT OR IGNORE INTO totals VALUES (2, 5), (8, 8);
-- script: the table rebuilt | the structure in other words
PRAGMA foreign_keys = OFF;
BEGIN;
CREATE TABLE dept_new (id integer PRIMARY KEY, code varchar(20) NOT NULL UNIQUE, budget numeric NOT NULL DEFAULT 0);
INSERT INTO dept_new SELECT id, code, coalesce(budget, 0) FROM dept;
DROP TABLE dept;
ALTER TABLE dept_new RENAME TO dept;
COMMIT;
PRAGMA foreign_keys = ON;
-- script: update from
UPDATE Person SET salary = p.amount FROM pay p WHERE p.person_id = Person.Id AND p.month = '2026-01-01';
-- script: all pay goes
DELETE FROM pay;
-- script: with a limit in a subquery
DELETE FROM pay WHERE (person_id, month) IN (SELECT person_id, month FROM pay ORDER BY month DESC, person_id LIMIT 2);
