-- hazards: every-row no-way-back
-- policy: { "weights": { "no-way-back": "off" }, "rules": [{ "tables": "import_*", "weights": { "every-row": "note" } }, { "tables": "import_raw", "weights": { "every-row": "off" } }] }
-- tables
CREATE TABLE import_day (line_id integer PRIMARY KEY, amount numeric(10,2));
CREATE TABLE import_raw (line_id integer PRIMARY KEY, amount numeric(10,2));
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2));
-- case: lighter for some tables, off for one of them, as usual for the rest [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row note
-- finds: 2 every-row stop
UPDATE import_day SET amount = 0;
UPDATE import_raw SET amount = 0;
UPDATE mooring SET fee = 0;
