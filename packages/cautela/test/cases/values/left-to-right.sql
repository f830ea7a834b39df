-- hazards: swapped-columns
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, status varchar(20), price integer, old_price integer);
-- case: it reads what has just been written [mysql mariadb]
-- finds: 0 swapped-columns ask
UPDATE bun SET price = 3, old_price = price WHERE bun_id = 3;
-- case: within an expression [mysql mariadb]
-- finds: 0 swapped-columns ask
UPDATE bun SET status = 'sold', price = CASE WHEN status = 'baked' THEN 2 ELSE price END WHERE bun_id = 3;
-- case: the other way round, or where all are old [mysql mariadb]
UPDATE bun SET old_price = price, price = 3 WHERE bun_id = 3;
-- case: every value is the old one [postgresql tsql plsql sqlite]
UPDATE bun SET price = 3, old_price = price WHERE bun_id = 3;
-- case: an upsert that reads what it has just written [mysql mariadb]
-- finds: 0 swapped-columns ask
INSERT INTO bun (bun_id, price) VALUES (1, 4) ON DUPLICATE KEY UPDATE price = 4, old_price = price;
-- case: an upsert that reads the new row [mysql mariadb]
INSERT INTO bun (bun_id, price) VALUES (1, 4) ON DUPLICATE KEY UPDATE price = 4, old_price = VALUES(price);
