-- hazards: hollow-filter
-- no catalog
-- case: a key looked for in the table of that name of another schema [postgresql mysql mariadb tsql plsql]
DELETE FROM depot.tram WHERE id IN (SELECT id FROM old.tram);
-- case: and in its own [postgresql mysql mariadb tsql plsql]
-- finds: 0 hollow-filter stop
DELETE FROM depot.tram WHERE id IN (SELECT id FROM depot.tram);
