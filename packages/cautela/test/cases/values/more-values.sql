-- hazards: constant-into-unique outside-list null-into-required fan-out lossy-structure
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(5) DEFAULT 'x' NOT NULL, price integer NOT NULL UNIQUE, status varchar(10) CHECK (status IN ('open', 'closed')), remark varchar(20));
CREATE TABLE part (a integer NOT NULL, b integer NOT NULL, n integer, PRIMARY KEY (a, b));
CREATE TABLE tariff (subject_id integer NOT NULL, fee_year integer NOT NULL, fee integer, PRIMARY KEY (subject_id, fee_year));
CREATE TABLE visit (visit_id integer PRIMARY KEY, subject_id integer, fee integer NOT NULL);
-- case: a part of a key is the same for many rows [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 constant-into-unique ask
UPDATE part SET a = 3 WHERE n > 4;
-- case: its old value is one [postgresql mysql mariadb sqlite tsql plsql]
UPDATE part SET a = 3 WHERE a = 2;
-- case: numbers are moved one by one [postgresql mysql mariadb sqlite]
-- finds: 0 constant-into-unique ask
UPDATE bun SET price = price + 1 WHERE bun_id > 3;
-- case: in an order [mysql mariadb]
UPDATE bun SET price = price + 1 WHERE bun_id > 3 ORDER BY price DESC;
-- case: where the key is looked at when all is done [tsql plsql]
UPDATE bun SET price = price + 1 WHERE bun_id > 3;
-- case: the same key twice [postgresql mysql mariadb sqlite tsql]
-- finds: 0 constant-into-unique stop
INSERT INTO bun (bun_id, price) VALUES (1, 2), (1, 3);
-- case: different keys [postgresql mysql mariadb sqlite tsql]
INSERT INTO bun (bun_id, price) VALUES (1, 2), (2, 3);
-- case: a filter for what no row can have [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outside-list ask
UPDATE bun SET remark = 'x' WHERE status = 'opened';
-- case: a filter for an allowed word [postgresql mysql mariadb sqlite tsql plsql]
UPDATE bun SET remark = 'x' WHERE status = 'open';
-- case: one of several fees [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 fan-out ask
UPDATE bun SET remark = (SELECT t.fee FROM tariff t WHERE t.subject_id = bun.bun_id) WHERE status = 'open';
-- case: the fee of one year [postgresql mysql mariadb sqlite tsql plsql]
UPDATE bun SET remark = (SELECT t.fee FROM tariff t WHERE t.subject_id = bun.bun_id AND t.fee_year = 2026) WHERE status = 'open';
-- case: the fee may not be there [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-into-required note
INSERT INTO visit (visit_id, fee) VALUES (1, (SELECT fee FROM tariff WHERE subject_id = 9 AND fee_year = 2026));
-- case: a sum is always there [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO visit (visit_id, fee) VALUES (1, (SELECT COUNT(*) FROM tariff));
-- case: a required column without a value for the rows that are there [postgresql sqlite]
-- finds: 0 null-into-required ask
ALTER TABLE bun ADD COLUMN weight integer NOT NULL;
-- case: with a default [postgresql mysql mariadb sqlite]
ALTER TABLE bun ADD COLUMN weight integer NOT NULL DEFAULT 0;
-- case: gaps are not filled before [postgresql]
-- finds: 0 null-into-required ask
ALTER TABLE bun ALTER COLUMN remark SET NOT NULL;
-- case: gaps are filled before [postgresql]
UPDATE bun SET remark = '' WHERE remark IS NULL;
ALTER TABLE bun ALTER COLUMN remark SET NOT NULL;
-- case: what a new definition leaves out is gone [mysql mariadb]
-- finds: 0 lossy-structure ask
ALTER TABLE bun MODIFY kind varchar(9);
-- case: a whole definition [mysql mariadb]
ALTER TABLE bun MODIFY kind varchar(9) NOT NULL DEFAULT 'x';
