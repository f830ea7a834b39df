-- hazards: drifts-on-rerun missing-else
-- tables
CREATE TABLE loaf (loaf_id integer PRIMARY KEY, price integer NOT NULL, flags integer NOT NULL, stock integer NOT NULL, kind varchar(20), weight integer);
CREATE TABLE loaf_was (loaf_id integer PRIMARY KEY, price integer NOT NULL);
CREATE TABLE basket (basket_id integer PRIMARY KEY, loaf_id integer NOT NULL, booked integer NOT NULL, note varchar(20));
-- case: a mask gives the same again [postgresql mysql mariadb sqlite tsql]
UPDATE loaf SET flags = flags & 3 WHERE loaf_id > 3;
UPDATE loaf SET flags = flags | 4 WHERE loaf_id > 3;
-- case: the like of the column in another table [postgresql sqlite tsql]
UPDATE loaf SET price = w.price * 2 FROM loaf_was w WHERE w.loaf_id = loaf.loaf_id;
-- case: the column itself beside another table [postgresql sqlite tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET price = loaf.price + w.price FROM loaf_was w WHERE w.loaf_id = loaf.loaf_id;
-- case: an upsert that adds to what is there [postgresql sqlite]
-- finds: 0 drifts-on-rerun ask
INSERT INTO loaf (loaf_id, price, flags, stock) VALUES (1, 2, 0, 3) ON CONFLICT (loaf_id) DO UPDATE SET stock = loaf.stock + EXCLUDED.stock;
-- case: an upsert that writes the new value [postgresql sqlite]
INSERT INTO loaf (loaf_id, price, flags, stock) VALUES (1, 2, 0, 3) ON CONFLICT (loaf_id) DO UPDATE SET stock = EXCLUDED.stock + 1;
-- case: an upsert in mysql [mysql mariadb]
-- finds: 0 drifts-on-rerun ask
INSERT INTO loaf (loaf_id, price, flags, stock) VALUES (1, 2, 0, 3) ON DUPLICATE KEY UPDATE stock = stock + VALUES(stock);
-- case: the filter still meets what was raised [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET price = price + 1 WHERE price >= 2;
-- case: the filter meets it no longer [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 drifts-on-rerun note
UPDATE loaf SET price = price + 100 WHERE price < 2;
-- case: a factor of one [postgresql mysql mariadb sqlite tsql plsql]
UPDATE loaf SET price = price * 1 WHERE loaf_id > 3;
-- case: ranges that leave nothing out of a required column [postgresql mysql mariadb sqlite tsql]
UPDATE loaf SET kind = CASE WHEN price < 10 THEN 'small' WHEN price >= 10 THEN 'large' END WHERE loaf_id > 3;
UPDATE loaf SET kind = CASE WHEN price <= 9 THEN 'small' WHEN price BETWEEN 10 AND 20 THEN 'large' WHEN price > 20 THEN 'huge' END WHERE loaf_id > 3;
-- case: ranges with a gap [postgresql mysql mariadb sqlite tsql]
-- finds: 0 missing-else ask
UPDATE loaf SET kind = CASE WHEN price < 10 THEN 'small' WHEN price > 10 THEN 'large' END WHERE loaf_id > 3;
-- case: the column may be NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-else ask
UPDATE loaf SET kind = CASE WHEN weight < 10 THEN 'small' WHEN weight >= 10 THEN 'large' END WHERE loaf_id > 3;
-- case: and NULL has its own branch [postgresql mysql mariadb sqlite tsql plsql]
UPDATE loaf SET kind = CASE WHEN weight IS NULL THEN 'none' WHEN weight < 10 THEN 'small' WHEN weight >= 10 THEN 'large' END WHERE loaf_id > 3;
-- case: a switch that is turned over [mysql mariadb sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET flags = NOT flags WHERE loaf_id > 3;
-- case: the bits of it [tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET flags = ~flags WHERE loaf_id > 3;
-- case: a switch that is set [mysql mariadb sqlite]
UPDATE loaf SET flags = NOT stock WHERE loaf_id > 3;
-- case: what it was made from is cleared or marked afterwards: a second run finds nothing [postgresql sqlite]
-- finds: 0 drifts-on-rerun note
-- finds: 2 drifts-on-rerun note
UPDATE loaf SET price = loaf.price + w.price FROM loaf_was w WHERE w.loaf_id = loaf.loaf_id;
DELETE FROM loaf_was;
UPDATE loaf SET stock = stock - 1 WHERE loaf_id IN (SELECT b.loaf_id FROM basket b WHERE b.booked = 0);
UPDATE basket SET booked = 1 WHERE booked = 0;
-- case: another one is cleared, or another column is written [postgresql sqlite]
-- finds: 0 drifts-on-rerun ask
-- finds: 2 drifts-on-rerun ask
UPDATE loaf SET price = loaf.price + w.price FROM loaf_was w WHERE w.loaf_id = loaf.loaf_id;
DELETE FROM basket WHERE booked = 0;
UPDATE loaf SET stock = stock - 1 WHERE loaf_id IN (SELECT b.loaf_id FROM basket b WHERE b.booked = 0);
UPDATE basket SET note = 'done' WHERE booked = 0;
