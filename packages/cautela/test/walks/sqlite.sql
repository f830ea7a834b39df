-- schema
CREATE TABLE Grower (grower_id integer PRIMARY KEY, name text NOT NULL, head_id integer REFERENCES Grower ON DELETE CASCADE, mentor_id integer REFERENCES Grower ON DELETE SET NULL, town text COLLATE NOCASE);
CREATE TABLE orchard (orchard_id integer PRIMARY KEY, grower_id integer REFERENCES Grower ON DELETE CASCADE ON UPDATE CASCADE, name text NOT NULL UNIQUE, trees integer NOT NULL DEFAULT 0);
CREATE TABLE variety (variety_id integer PRIMARY KEY AUTOINCREMENT, name text NOT NULL, tag text, price numeric NOT NULL);
CREATE TABLE "Order Lines" ("Line No" integer PRIMARY KEY, "select" integer, Qty integer NOT NULL, variety_id integer REFERENCES variety, total AS (Qty * 2) STORED);
CREATE TABLE picking (picking_id integer PRIMARY KEY, orchard_id integer REFERENCES orchard ON DELETE CASCADE ON UPDATE CASCADE, variety_id integer REFERENCES variety ON DELETE CASCADE, kilos integer NOT NULL, picked_on text NOT NULL);
CREATE TABLE crate (crate_id integer PRIMARY KEY, picking_id integer REFERENCES picking ON DELETE CASCADE, orchard_id integer REFERENCES orchard ON DELETE CASCADE ON UPDATE CASCADE, state text NOT NULL DEFAULT 'new', doc text);
CREATE TABLE tally (what text PRIMARY KEY NOT NULL, n integer NOT NULL);
CREATE TABLE picking_log (line_id integer PRIMARY KEY, what text, at text DEFAULT CURRENT_TIMESTAMP);
CREATE TABLE price_delivery (name text, price numeric);
CREATE TABLE loose_note (what text, at text);
CREATE TABLE mixed (a integer NOT NULL, b integer NOT NULL, c text, PRIMARY KEY (a, b)) WITHOUT ROWID;
CREATE TABLE press (press_id integer PRIMARY KEY, lead_id integer REFERENCES worker (worker_id) ON DELETE CASCADE);
CREATE TABLE worker (worker_id integer PRIMARY KEY, press_id integer REFERENCES press ON DELETE CASCADE, name text);
INSERT INTO Grower VALUES (1, 'Asta', NULL, NULL, 'Ulm'), (2, 'Bo', 1, NULL, 'Ulm'), (3, 'Cleo', 2, 1, 'Bonn'), (4, 'Dov', 3, 2, 'Bonn'), (5, 'Eli', NULL, 3, 'Kiel');
INSERT INTO orchard VALUES (10, 1, 'hill', 40), (11, 2, 'brook', 30), (12, 5, 'mill', 20);
INSERT INTO variety (name, tag, price) VALUES ('Gala', 'GA', 2.50), ('Boskoop', 'bo', 3.10), ('Elstar', NULL, 2.80);
INSERT INTO "Order Lines" ("Line No", "select", Qty, variety_id) VALUES (1, 5, 10, 1), (2, 6, 20, 2), (3, 7, 30, NULL);
INSERT INTO picking VALUES (100, 10, 1, 50, '2026-09-01'), (101, 11, 2, 60, '2026-09-02'), (102, 12, 3, 70, '2025-09-03'), (103, 12, 1, 5, '2025-08-01');
INSERT INTO crate VALUES (1000, 100, 10, 'new', '{"a": 1}'), (1001, 101, 12, 'used', NULL), (1002, 102, 12, 'used', NULL), (1003, NULL, 10, 'broken', '[1]');
INSERT INTO tally VALUES ('picking', 4), ('orchard', 3);
INSERT INTO price_delivery VALUES ('Gala', 2.75), ('Elstar', 2.95), ('Topaz', 3.30);
INSERT INTO loose_note VALUES ('a', '2026-01-01'), ('a', '2026-01-01'), ('b', NULL);
INSERT INTO mixed VALUES (1, 1, 'x'), (1, 2, 'y'), (2, 1, 'z');
INSERT INTO press VALUES (1, NULL), (2, NULL);
INSERT INTO worker VALUES (1, 1, 'w1'), (2, 1, 'w2'), (3, 2, 'w3');
UPDATE press SET lead_id = 1 WHERE press_id = 1;
UPDATE press SET lead_id = 3 WHERE press_id = 2;
CREATE TRIGGER variety_tidy AFTER UPDATE OF price ON variety BEGIN UPDATE variety SET tag = upper(tag) WHERE variety_id = NEW.variety_id; END;
CREATE TRIGGER picking_counted AFTER DELETE ON picking BEGIN UPDATE tally SET n = n - 1 WHERE what = 'picking'; END;
CREATE TRIGGER picking_added AFTER INSERT ON picking BEGIN UPDATE tally SET n = n + 1 WHERE what = 'picking'; INSERT INTO picking_log (what) VALUES ('came'); END;
CREATE TRIGGER picking_logged AFTER UPDATE ON picking BEGIN INSERT INTO picking_log (what) VALUES ('changed'); END;
CREATE VIEW big_picking AS SELECT picking_id, kilos FROM picking WHERE kilos > 40;
CREATE TRIGGER big_picking_written INSTEAD OF UPDATE ON big_picking BEGIN UPDATE picking SET kilos = NEW.kilos WHERE picking_id = OLD.picking_id; END;
-- script: a joined raise
UPDATE variety SET price = d.price FROM price_delivery d WHERE d.name = variety.name;
-- script: growers with their heads and mentors go
DELETE FROM Grower WHERE grower_id = 1;
-- script: mentors only
DELETE FROM Grower WHERE grower_id = 3;
-- script: a circle of keys
DELETE FROM press WHERE press_id = 1;
-- script: some by a limit
DELETE FROM crate WHERE crate_id IN (SELECT crate_id FROM crate LIMIT 2);
-- script: by chance
DELETE FROM picking WHERE abs(random()) % 2 = 0 OR picking_id = 100;
-- script: by the clock
UPDATE picking SET kilos = kilos + 1 WHERE picked_on < date('now', '-1 day');
-- script: names in quotes
UPDATE "Order Lines" SET "select" = 1, Qty = 3 WHERE "Line No" < 3;
DELETE FROM "Order Lines" WHERE "Line No" = 2;
-- script: only the case
UPDATE Grower SET town = upper(town) WHERE grower_id < 3;
-- script: a key of two columns
UPDATE mixed SET c = 'q' FROM tally t WHERE t.what = 'orchard' AND mixed.a = 1;
DELETE FROM mixed WHERE b = 1;
-- script: rows come, with a counter and a log
INSERT INTO picking VALUES (200, 10, 2, 33, '2026-10-01'), (201, 11, 1, 44, '2026-10-02');
-- script: an upsert, a replacement
INSERT INTO tally VALUES ('picking', 1), ('crate', 2) ON CONFLICT (what) DO UPDATE SET n = tally.n + excluded.n;
INSERT OR REPLACE INTO orchard VALUES (10, 2, 'hilltop', 1), (13, 2, 'marsh', 6);
-- script: yearly prices from a delivered table
BEGIN;
CREATE TEMP TABLE checked AS SELECT name, price FROM price_delivery WHERE price > 0;
DELETE FROM checked WHERE name = 'Elstar';
UPDATE variety SET price = c.price FROM checked c WHERE c.name = variety.name;
INSERT INTO variety (name, price) SELECT name, price FROM checked c WHERE c.name NOT IN (SELECT name FROM variety);
UPDATE variety SET tag = 'new' WHERE tag IS NULL;
COMMIT;
-- script: duplicates merged
BEGIN;
UPDATE picking SET orchard_id = 10 WHERE orchard_id = 11;
UPDATE crate SET orchard_id = 10 WHERE orchard_id = 11;
UPDATE orchard SET trees = trees + (SELECT trees FROM orchard WHERE orchard_id = 11) WHERE orchard_id = 10;
DELETE FROM orchard WHERE orchard_id = 11;
COMMIT;
-- script: a new column
ALTER TABLE Grower ADD COLUMN first_name text;
UPDATE Grower SET first_name = substr(name, 1, 2);
-- script: a column is dropped
ALTER TABLE crate DROP COLUMN doc;
-- script: a new table, filled and used
CREATE TABLE season (season_id integer PRIMARY KEY, label text NOT NULL);
INSERT INTO season VALUES (1, 'spring'), (2, 'autumn');
UPDATE picking SET kilos = (SELECT season_id FROM season WHERE label = 'autumn');
-- script: an index, a view, a rename
CREATE INDEX picking_by_day ON picking (picked_on);
CREATE VIEW small_picking AS SELECT * FROM picking WHERE kilos < 10;
ALTER TABLE mixed RENAME COLUMN c TO remark;
-- script: a trial run | changes nothing
BEGIN;
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
-- script: a table is made again, with keys that refer to it | the structure in other words
PRAGMA foreign_keys = OFF;
BEGIN;
CREATE TABLE orchard_new (orchard_id integer PRIMARY KEY, grower_id integer, name varchar(40) NOT NULL, trees integer NOT NULL);
INSERT INTO orchard_new SELECT orchard_id, grower_id, name, trees + 1 FROM orchard;
DROP TABLE orchard;
ALTER TABLE orchard_new RENAME TO orchard;
COMMIT;
PRAGMA foreign_keys = ON;
-- script: a table is not made again after all | changes nothing, fails in change
PRAGMA foreign_keys = OFF;
BEGIN;
CREATE TABLE orchard_new (orchard_id integer PRIMARY KEY, grower_id integer, name text, trees integer CHECK (trees > 9999));
INSERT INTO orchard_new SELECT orchard_id, grower_id, name, trees FROM orchard;
DROP TABLE orchard;
ALTER TABLE orchard_new RENAME TO orchard;
COMMIT;
-- script: a table is renamed after its change | the structure in other words
UPDATE tally SET n = n + 1 WHERE what = 'picking';
ALTER TABLE tally RENAME TO counter;
UPDATE mixed SET c = 'z' WHERE a = 1;
