-- hazards: every-row thin-backup early-use counter-set-back leftover-assignment repeated-change broken-dependent guard-off
-- no catalog
-- case: the version of the whole [postgresql mysql mariadb sqlite tsql plsql]
UPDATE defaults SET version = '2.4.1';
UPDATE _format SET version = '14.1';
-- case: a version of each row [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
UPDATE document SET version = 1;
-- case: one name for several tables, one after the other [postgresql]
ALTER TABLE invoice RENAME TO was;
CREATE TABLE invoice (invoice_id integer, qty float);
INSERT INTO invoice (invoice_id, qty) SELECT invoice_id, qty FROM was;
DROP TABLE was;
ALTER TABLE parts RENAME TO was;
CREATE TABLE parts (parts_id integer, weight float);
INSERT INTO parts (parts_id, weight) SELECT parts_id, weight FROM was;
DROP TABLE was;
-- case: a table is gone [postgresql]
-- finds: 2 early-use stop
ALTER TABLE invoice RENAME TO was;
DROP TABLE was;
UPDATE was SET qty = 1 WHERE invoice_id = 3;
-- case: rebuilt by way of another table, after a change [postgresql]
UPDATE clerk SET role_id = role.role_id FROM role WHERE clerk.role = role.name;
CREATE TABLE was AS SELECT * FROM clerk;
DROP TABLE clerk;
CREATE TABLE clerk (clerk_id integer, role_id integer);
INSERT INTO clerk (clerk_id, role_id) SELECT clerk_id, role_id FROM was;
DROP TABLE was;
-- case: DISTINCT that keeps the key [postgresql]
ALTER TABLE vendor RENAME TO old_vendor;
CREATE TABLE vendor (id integer, name text);
INSERT INTO vendor (id, name) SELECT DISTINCT id, name FROM old_vendor;
DROP TABLE old_vendor;
-- case: a sequence of the script's own [postgresql]
CREATE SEQUENCE counting;
UPDATE warehouse SET rank = nextval('counting') WHERE rank IS NULL;
SELECT setval('counting', 1, false);
DROP SEQUENCE counting;
-- case: the filter asks another table [postgresql]
UPDATE assembly SET bom = '0' FROM parts WHERE assembly.id = parts.id AND parts.bom = '0';
-- case: a seed that asks first stands there twice [postgresql sqlite]
INSERT INTO unit (name) SELECT 'mg' WHERE NOT EXISTS (SELECT 1 FROM unit WHERE name = 'mg');
INSERT INTO unit (name) SELECT 'mg' WHERE NOT EXISTS (SELECT 1 FROM unit WHERE name = 'mg');
-- case: a seed stands there twice [postgresql sqlite]
-- finds: 1 repeated-change ask
INSERT INTO unit (name) SELECT 'mg';
INSERT INTO unit (name) SELECT 'mg';
-- case: a CHECK is dropped and made again [postgresql]
ALTER TABLE unit DROP CONSTRAINT IF EXISTS unit_name CASCADE;
ALTER TABLE unit ADD CONSTRAINT unit_name CHECK (name <> '');
-- case: a key is dropped and made again [postgresql]
-- finds: 0 broken-dependent note
ALTER TABLE unit DROP CONSTRAINT unit_once CASCADE;
ALTER TABLE unit ADD CONSTRAINT unit_once UNIQUE (name);
-- case: a key is dropped [postgresql]
-- finds: 0 broken-dependent ask
ALTER TABLE unit DROP CONSTRAINT unit_once CASCADE;
-- case: nobody knows what the trigger does [tsql]
-- finds: 0 guard-off ask
DISABLE TRIGGER berth_seen ON berth;
UPDATE berth SET code = 'N1' WHERE berth_id = 3;
ENABLE TRIGGER berth_seen ON berth;
