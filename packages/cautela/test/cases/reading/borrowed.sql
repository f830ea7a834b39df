-- hazards: other-dialect
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10), quay_id integer);
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(20));
-- case: of other dialects [tsql]
-- finds: 0 other-dialect stop
-- finds: 1 other-dialect stop
-- finds: 2 other-dialect stop
-- finds: 3 other-dialect stop
-- finds: 4 other-dialect stop
UPDATE berth b SET code = 'A' WHERE b.berth_id = 3;
DELETE FROM berth WHERE berth_id = 3 ORDER BY code;
INSERT INTO berth (berth_id) VALUES (7) ON CONFLICT DO NOTHING;
ALTER TABLE berth MODIFY COLUMN code varchar(20);
CREATE TABLE IF NOT EXISTS spare (spare_id int);
-- case: as T-SQL has it [tsql]
UPDATE b SET code = 'A' FROM berth AS b WHERE b.berth_id = 3;
DELETE TOP (1) FROM berth WHERE berth_id = 3;
ALTER TABLE berth ALTER COLUMN code varchar(20);
SELECT DISTINCT TOP (5) code FROM berth ORDER BY code;
SELECT geography::Point(1, 2, 4326) AS place FROM berth;
-- case: a merge that does not end, and one whose branch cannot do that [tsql]
-- finds: 0 other-dialect stop
-- finds: 1 other-dialect stop
MERGE berth USING quay ON berth.quay_id = quay.quay_id WHEN NOT MATCHED THEN DELETE;
MERGE berth USING quay ON berth.quay_id = quay.quay_id WHEN MATCHED THEN UPDATE SET code = 'A'
-- case: of other dialects [plsql]
-- finds: 0 other-dialect stop
-- finds: 1 other-dialect stop
-- finds: 2 other-dialect stop
-- finds: 3 other-dialect stop
UPDATE berth AS b SET code = 'A' WHERE b.berth_id = 3;
DELETE FROM berth USING quay WHERE berth.quay_id = quay.quay_id AND quay.name = 'x';
ALTER TABLE berth ADD CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id) ON UPDATE CASCADE;
CREATE TABLE spare (code VARCHAR2);
-- case: as Oracle has it [plsql]
UPDATE berth b SET code = 'A' WHERE b.berth_id = 3;
MERGE INTO berth b USING quay q ON (b.quay_id = q.quay_id) WHEN MATCHED THEN UPDATE SET code = 'A';
CREATE TABLE spare (code VARCHAR2(10));
ALTER TABLE berth MODIFY (code VARCHAR2(20));
-- case: of other dialects [jet]
-- finds: 0 other-dialect stop
-- finds: 1 other-dialect stop
-- finds: 2 other-dialect stop
UPDATE berth SET code = CASE WHEN berth_id = 1 THEN 'A' ELSE code END WHERE berth_id < 3;
INSERT INTO quay (quay_id, name) VALUES (7, 'a'), (8, 'b');
SELECT code FROM berth LIMIT 3;
-- case: as Jet has it [jet]
UPDATE berth SET code = IIf(berth_id = 1, 'A', code) WHERE berth_id < 3;
SELECT TOP 3 code FROM berth ORDER BY berth_id;
-- case: of other dialects [postgresql]
-- finds: 0 other-dialect stop
-- finds: 1 other-dialect stop
ALTER TABLE berth MODIFY code varchar(20);
INSERT INTO berth (berth_id) VALUES (7) ON DUPLICATE KEY UPDATE code = 'A';
