-- hazards: every-row dead-filter blanks-value read-only-column lossy-structure trigger-loop
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL, fee integer);
-- case: as many rows as SET ROWCOUNT lets through [tsql]
SET ROWCOUNT 10
DELETE FROM berth
-- case: SET ROWCOUNT is off again [tsql]
-- finds: 2 every-row stop
SET ROWCOUNT 10
SET ROWCOUNT 0
DELETE FROM berth
-- case: one partition [tsql]
TRUNCATE TABLE berth WITH (PARTITIONS (2));
-- case: the whole table [tsql]
-- finds: 0 every-row stop
TRUNCATE TABLE berth;
-- case: NULL is equal to NULL [tsql]
SET ANSI_NULLS OFF
UPDATE berth SET fee = 1 WHERE fee = NULL;
-- case: NULL is equal to nothing [tsql]
-- finds: 1 dead-filter ask
SET ANSI_NULLS ON
UPDATE berth SET fee = 1 WHERE fee = NULL;
-- case: an empty text for a required column [plsql]
-- finds: 0 blanks-value stop
INSERT INTO berth (berth_id, code) VALUES (7, '');
-- case: a text for a required column [plsql]
INSERT INTO berth (berth_id, code) VALUES (7, 'x');
-- case: a MERGE changes what it matches by [plsql]
-- finds: 0 read-only-column stop
MERGE INTO berth b USING (SELECT 1 AS berth_id FROM dual) q ON (b.berth_id = q.berth_id) WHEN MATCHED THEN UPDATE SET b.berth_id = 5;
-- case: a MERGE changes something else [plsql]
MERGE INTO berth b USING (SELECT 1 AS berth_id FROM dual) q ON (b.berth_id = q.berth_id) WHEN MATCHED THEN UPDATE SET b.fee = 5;
-- case: a column is set unused [plsql]
-- finds: 0 lossy-structure ask
ALTER TABLE berth SET UNUSED (fee);
-- case: a table is brought back [plsql]
FLASHBACK TABLE berth TO BEFORE DROP;
-- case: no text is empty [plsql]
-- finds: 0 dead-filter ask
UPDATE berth SET fee = 1 WHERE LENGTH(code) = 0;
-- case: a text of one letter [plsql]
UPDATE berth SET fee = 1 WHERE LENGTH(code) = 1;
-- case: no text [postgresql mysql mariadb sqlite]
UPDATE berth SET fee = 1 WHERE LENGTH(code) = 0;
