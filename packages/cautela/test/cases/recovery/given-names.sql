-- hazards: guard-left-off reference-blocks unmet-constraint
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, price integer CHECK (price > 0));
CREATE TABLE oven (oven_id integer PRIMARY KEY, bun_id integer, FOREIGN KEY (bun_id) REFERENCES bun (bun_id));
-- case: a key goes by the name that the engine has made from its column [postgresql]
-- finds: 0 guard-left-off ask
ALTER TABLE oven DROP CONSTRAINT oven_bun_id_fkey;
DELETE FROM bun WHERE bun_id = 3;
-- case: a key goes by its number [mysql mariadb]
-- finds: 0 guard-left-off ask
ALTER TABLE oven DROP FOREIGN KEY oven_ibfk_1;
DELETE FROM bun WHERE bun_id = 3;
-- case: and comes back [postgresql]
ALTER TABLE oven DROP CONSTRAINT oven_bun_id_fkey;
ALTER TABLE oven ADD FOREIGN KEY (bun_id) REFERENCES bun (bun_id);
-- case: and comes back, numbered again [mysql mariadb]
ALTER TABLE oven DROP FOREIGN KEY oven_ibfk_1;
ALTER TABLE oven ADD FOREIGN KEY (bun_id) REFERENCES bun (bun_id);
-- case: the name stays when the table gets another [postgresql]
-- finds: 1 guard-left-off ask
ALTER TABLE oven RENAME TO stove;
ALTER TABLE stove DROP CONSTRAINT oven_bun_id_fkey;
-- case: the key is still there [postgresql]
-- finds: 0 reference-blocks note
DELETE FROM bun WHERE bun_id = 3;
