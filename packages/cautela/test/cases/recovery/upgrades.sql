-- hazards: no-way-back every-row repeated-change dropped-rows broken-transaction open-placeholder guard-off outer-null early-use loose-insert other-dialect unread
-- no catalog
-- case: an installation drops what it makes [postgresql mysql mariadb sqlite tsql plsql]
-- cautela: install first setup of the harbour
DROP TABLE IF EXISTS berth;
CREATE TABLE berth (berth_id integer);
-- case: it is not said at the head [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 no-way-back ask
CREATE TABLE pier (pier_id integer);
-- cautela: install first setup of the harbour
DROP TABLE IF EXISTS berth;
CREATE TABLE berth (berth_id integer);
-- case: what an installation does not make again is no part of it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back stop
-- cautela: install first setup of the harbour
DROP TABLE berth;
CREATE TABLE pier (pier_id integer);
-- case: the new column is filled under the table's later name [postgresql mysql mariadb sqlite]
ALTER TABLE berth ADD COLUMN depth integer;
ALTER TABLE berth RENAME TO pier;
UPDATE pier SET depth = 3;
-- case: another column of the renamed table [postgresql mysql mariadb sqlite]
-- finds: 2 every-row stop
ALTER TABLE berth ADD COLUMN depth integer;
ALTER TABLE berth RENAME TO pier;
UPDATE pier SET places = 3;
-- case: the new column has got another name [mysql mariadb]
ALTER TABLE berth ADD depth int;
ALTER TABLE berth CHANGE depth deep int;
UPDATE berth SET deep = 3;
-- case: the column is added by SQL in a text [mysql mariadb]
SET @s = IF((SELECT COUNT(*) FROM information_schema.columns WHERE column_name = 'depth') = 0, 'ALTER TABLE berth ADD depth int', 'SELECT 1');
PREPARE st FROM @s;
EXECUTE st;
UPDATE berth SET depth = 3;
-- case: a text that adds another column [mysql mariadb]
-- finds: 6 every-row stop
SET @s = IF(@old = 1, 'ALTER TABLE berth ADD width int', 'SELECT 1');
PREPARE st FROM @s;
EXECUTE st;
UPDATE berth SET depth = 3;
-- case: the column is added by a routine in sight [postgresql]
CREATE FUNCTION add_column(t text, c text, d text) RETURNS void LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'ALTER TABLE ' || t || ' ADD COLUMN ' || c || ' ' || d; END $$;
SELECT add_column('berth', 'depth', 'integer');
UPDATE berth SET depth = 3;
-- case: a routine that alters nothing [postgresql]
-- finds: 2 every-row stop
CREATE FUNCTION tell(t text, c text) RETURNS void LANGUAGE plpgsql AS $$ BEGIN RAISE NOTICE '%', t || c; END $$;
SELECT tell('berth', 'depth');
UPDATE berth SET depth = 3;
-- case: seeds that leave alone what is there [mysql mariadb]
-- finds: 0 dropped-rows note
-- finds: 1 dropped-rows note
INSERT IGNORE INTO flag (code) VALUES ('DK'), ('NO');
INSERT IGNORE INTO flag (code) SELECT 'SE' FROM dual;
-- case: rows of another table are left out [mysql mariadb]
-- finds: 0 dropped-rows ask
INSERT IGNORE INTO flag (code) SELECT flag FROM vessel;
-- case: seeds elsewhere [postgresql sqlite]
INSERT INTO flag (code) VALUES ('DK') ON CONFLICT (code) DO NOTHING;
-- case: DDL that commits where nothing has been changed yet [mysql mariadb]
-- finds: 1 broken-transaction note
START TRANSACTION;
ALTER TABLE berth ADD depth int;
ALTER TABLE berth ADD width int;
COMMIT;
-- case: and where something has [mysql mariadb]
-- finds: 1 no-way-back note
-- finds: 2 broken-transaction stop
START TRANSACTION;
DELETE FROM berth WHERE berth_id = 3 AND depth IS NULL;
ALTER TABLE berth ADD width int;
COMMIT;
-- case: a hole for the schema or before the name [postgresql]
UPDATE @extschema@.berth SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
UPDATE :schema.berth SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
UPDATE {{prefix}}berth SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
UPDATE @{schema}.berth SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
-- case: a hole for the table [postgresql mysql mariadb sqlite]
-- finds: 0 open-placeholder ask
-- finds: 1 open-placeholder ask
UPDATE {{table}} SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
UPDATE {table} SET depth = 3 WHERE berth_id = 3 AND depth IS NULL;
-- case: foreign keys are added while nobody looks [mysql mariadb]
-- finds: 0 guard-off ask
SET FOREIGN_KEY_CHECKS = 0;
ALTER TABLE vessel ADD CONSTRAINT fk_owner FOREIGN KEY (owner_id) REFERENCES owner (owner_id);
SET FOREIGN_KEY_CHECKS = 1;
-- case: sums are worked out again [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row ask
UPDATE owner SET total = COALESCE((SELECT SUM(m.fee) FROM mooring m WHERE m.owner_id = owner.owner_id), 0);
-- case: without a zero for those that have none [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row ask
-- finds: 0 outer-null note
UPDATE owner SET total = (SELECT SUM(m.fee) FROM mooring m WHERE m.owner_id = owner.owner_id);
-- case: an empty column is looked up, and two columns are one finding [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-null note
-- finds: 1 outer-null ask
-- finds: 1 no-way-back note
UPDATE owner SET phone = (SELECT p.phone FROM person p WHERE p.person_id = owner.owner_id) WHERE phone IS NULL;
UPDATE owner SET phone = (SELECT p.phone FROM person p WHERE p.person_id = owner.owner_id), mail = (SELECT p.mail FROM person p WHERE p.person_id = owner.owner_id) WHERE town = 'Ulm';
-- case: the same rows again, after the table was made again [postgresql mysql mariadb sqlite tsql plsql]
CREATE TABLE part (berth_id integer);
INSERT INTO part (berth_id) SELECT berth_id FROM berth;
DROP TABLE part;
CREATE TABLE part (berth_id integer);
INSERT INTO part (berth_id) SELECT berth_id FROM berth;
-- case: the same rows again [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 repeated-change ask
INSERT INTO flag (code) VALUES ('DK');
INSERT INTO flag (code) VALUES ('DK');
-- case: a variable has another value now [mysql mariadb tsql]
-- finds: 1 no-way-back note
-- finds: 3 no-way-back note
SET @b = 3;
DELETE FROM berth WHERE berth_no = @b;
SET @b = 4;
DELETE FROM berth WHERE berth_no = @b;
-- case: the filter's table has changed in between [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 2 no-way-back note
DELETE FROM berth WHERE pier_id IN (SELECT pier_id FROM pier WHERE state = 'gone');
UPDATE pier SET state = 'gone' WHERE state = 'going';
DELETE FROM berth WHERE pier_id IN (SELECT pier_id FROM pier WHERE state = 'gone');
-- case: the same raise in other words [postgresql mysql mariadb sqlite]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
-- finds: 1 repeated-change stop
UPDATE berth SET fee = fee + 1 WHERE pier_id = 3 AND fee > 7;
UPDATE berth AS b SET fee = 1 + b.fee WHERE 7 < b.fee AND 3 = b.pier_id;
-- case: another raise [postgresql mysql mariadb sqlite]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
UPDATE berth SET fee = fee + 1 WHERE pier_id = 3 AND fee > 7;
UPDATE berth SET fee = fee + 1 WHERE pier_id = 4 AND fee > 7;
-- case: the source goes after it was copied by position [postgresql mysql mariadb sqlite]
-- finds: 1 loose-insert ask
CREATE TABLE berth_new (berth_id integer, depth integer);
INSERT INTO berth_new SELECT * FROM berth;
DROP TABLE berth;
ALTER TABLE berth_new RENAME TO berth;
-- case: a list of keys that helps is no copy [tsql]
-- finds: 1 no-way-back note
SELECT mail_id, ROW_NUMBER() OVER (PARTITION BY mail ORDER BY mail_id) AS n INTO #double FROM mail_list;
DELETE m FROM mail_list m JOIN #double d ON d.mail_id = m.mail_id WHERE d.n > 1;
DROP TABLE #double;
-- case: a table that an unread statement makes is the script's own [postgresql mysql mariadb sqlite]
-- finds: 0 unread stop
-- finds: 2 every-row stop
CREATE TABLE IF NOT EXISTS tide_copy (berth_id integer,, depth integer);
DELETE FROM tide_copy;
DELETE FROM other_copy;
-- case: a sequence gives the number [plsql]
INSERT INTO crew (crew_id, name) VALUES (crew_seq.NEXTVAL, 'Ada');
UPDATE crew SET crew_id = crew_seq.NEXTVAL WHERE crew_id IS NULL;
