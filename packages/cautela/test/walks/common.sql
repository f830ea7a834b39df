-- Scripts that every engine takes, on its own schema.
-- script: a diamond of cascades
DELETE FROM orchard WHERE orchard_id = 12;
-- script: a key is rewritten
UPDATE orchard SET orchard_id = orchard_id + 100 WHERE orchard_id >= 11;
-- script: a trigger tidies
UPDATE variety SET price = 9;
-- script: a table without a key
DELETE FROM loose_note WHERE what = 'a';
-- script: numbered rows come
INSERT INTO variety (name, price) SELECT name, price FROM price_delivery WHERE name = 'Topaz';
-- script: through a view
UPDATE big_picking SET kilos = kilos - 1;
-- script: what an earlier statement fills
UPDATE picking SET kilos = 500 WHERE picking_id < 102;
UPDATE picking SET picked_on = '2027-01-01' WHERE kilos = 500;
DELETE FROM picking WHERE picked_on = '2027-01-01' AND picking_id = 101;
-- script: the change fails | changes nothing, fails in change
-- cautela: expect 7 rows
DELETE FROM crate WHERE state = 'used';
-- script: a change that fails half-way leaves a restore that undoes the first half | changes something, fails in change
UPDATE picking SET kilos = kilos + 1 WHERE picking_id = 100;
DELETE FROM crate WHERE crate_id = 1003;
-- cautela: expect 9 rows
UPDATE picking SET kilos = kilos * 2 WHERE kilos = 51;
DELETE FROM orchard;
-- script: copies of the script's own are used
CREATE TABLE old_mixed AS SELECT * FROM mixed WHERE a > 1;
UPDATE mixed SET c = 'x' WHERE a > 1;
DELETE FROM mixed WHERE a > 1;
CREATE TABLE old_tally AS SELECT * FROM tally;
DELETE FROM tally;
-- script: a copy of the script's own that is too old
CREATE TABLE old_mixed AS SELECT * FROM mixed WHERE a > 1;
INSERT INTO mixed VALUES (7, 7, 'new');
UPDATE mixed SET c = 'y' WHERE a > 1;
DELETE FROM mixed WHERE a > 1;
DROP TABLE old_mixed;
-- script: a copy of the script's own that does not hold what goes by cascade
CREATE TABLE picking_before_20261127_own AS SELECT * FROM picking WHERE kilos > 55;
DELETE FROM picking WHERE kilos > 55;
