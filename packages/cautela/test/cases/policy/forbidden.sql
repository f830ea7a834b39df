-- hazards: forbidden
-- policy: { "forbidden": [{ "statement": ["truncate", "drop column"], "because": "Rows are deleted, so that the audit sees them." }, { "statement": "delete", "tables": "ledger*", "because": "The ledger is only added to." }, { "statement": "grant", "because": "Rights are given by the office." }] }
-- tables
CREATE TABLE ledger_2026 (entry_id integer PRIMARY KEY, amount numeric(10,2), note varchar(60));
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, note varchar(60));
-- case: a column in an ALTER, a table, a right [postgresql]
-- finds: 0 forbidden stop
-- finds: 1 forbidden stop
-- finds: 2 forbidden stop
ALTER TABLE mooring ADD COLUMN paid boolean, DROP COLUMN note;
TRUNCATE mooring;
GRANT SELECT ON mooring TO PUBLIC;
-- case: a table by its pattern [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 forbidden stop
DELETE FROM ledger_2026 WHERE entry_id = 3;
-- case: inside a block [postgresql]
-- finds: 2 forbidden stop
DO $$ BEGIN DELETE FROM ledger_2026 WHERE entry_id = 3; END $$;
-- case: other statements and other tables [postgresql mysql mariadb sqlite]
ALTER TABLE mooring ADD COLUMN paid integer;
DELETE FROM mooring WHERE mooring_id = 3;
UPDATE ledger_2026 SET amount = 0 WHERE entry_id = 3;
