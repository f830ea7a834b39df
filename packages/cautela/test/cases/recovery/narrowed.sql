-- hazards: guard-left-off
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20) NOT NULL, price integer NOT NULL, CONSTRAINT bun_key UNIQUE (kind, price), CONSTRAINT bun_kind CHECK (kind IN ('a', 'b', 'c')), CONSTRAINT bun_price CHECK (price > 0));
CREATE TABLE oven (oven_id integer NOT NULL, bun_id integer NOT NULL, CONSTRAINT oven_key PRIMARY KEY (oven_id, bun_id));
-- case: a unique key of fewer columns [postgresql tsql plsql]
-- finds: 1 guard-left-off ask
ALTER TABLE bun DROP CONSTRAINT bun_key;
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (kind);
-- case: as an index [postgresql tsql plsql]
-- finds: 1 guard-left-off ask
ALTER TABLE bun DROP CONSTRAINT bun_key;
CREATE UNIQUE INDEX bun_kind_once ON bun (kind);
-- case: in one statement [mysql mariadb]
-- finds: 0 guard-left-off note
ALTER TABLE bun DROP INDEX bun_key, ADD UNIQUE bun_key (kind);
-- case: a primary key of fewer columns [mysql mariadb plsql]
-- finds: 1 guard-left-off ask
ALTER TABLE oven DROP PRIMARY KEY;
ALTER TABLE oven ADD PRIMARY KEY (oven_id);
-- case: of more columns, or of others [postgresql tsql plsql]
ALTER TABLE bun DROP CONSTRAINT bun_key;
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (kind, price, bun_id);
-- case: the same ones in another order [postgresql tsql plsql]
ALTER TABLE bun DROP CONSTRAINT bun_key;
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (price, kind);
-- case: the rows were made to fit [postgresql tsql plsql]
ALTER TABLE bun DROP CONSTRAINT bun_key;
DELETE FROM bun WHERE price > 3 AND bun_id IN (4, 5);
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (kind);
-- case: fewer values in a CHECK [postgresql tsql plsql]
-- finds: 1 guard-left-off ask
ALTER TABLE bun DROP CONSTRAINT bun_kind;
ALTER TABLE bun ADD CONSTRAINT bun_kind CHECK (kind IN ('b', 'a'));
-- case: a higher bound [postgresql tsql plsql]
-- finds: 1 guard-left-off ask
ALTER TABLE bun DROP CONSTRAINT bun_price;
ALTER TABLE bun ADD CONSTRAINT bun_price CHECK (10 <= price);
-- case: a lower bound, and more values [postgresql tsql plsql]
ALTER TABLE bun DROP CONSTRAINT bun_price;
ALTER TABLE bun ADD CONSTRAINT bun_price CHECK (price >= 0);
ALTER TABLE bun DROP CONSTRAINT bun_kind;
ALTER TABLE bun ADD CONSTRAINT bun_kind CHECK (kind IN ('d', 'c', 'b', 'a'));
-- case: in a transaction that takes both back [postgresql]
-- finds: 2 guard-left-off note
BEGIN;
ALTER TABLE bun DROP CONSTRAINT bun_key;
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (kind);
COMMIT;
-- case: the table is another one by then [postgresql]
ALTER TABLE bun DROP CONSTRAINT bun_key;
DROP TABLE bun;
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20), price integer);
ALTER TABLE bun ADD CONSTRAINT bun_key UNIQUE (kind);
