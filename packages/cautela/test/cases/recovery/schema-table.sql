-- hazards: guard-off guard-left-off
-- no catalog
-- case: the schema is written over [sqlite]
-- finds: 0 guard-off ask
PRAGMA writable_schema = ON;
UPDATE sqlite_master SET sql = REPLACE(sql, 'TEXT', 'TEXT NOT NULL') WHERE name = 'buoys';
PRAGMA writable_schema = OFF;
-- case: it stays protected [sqlite]
PRAGMA writable_schema = OFF;
