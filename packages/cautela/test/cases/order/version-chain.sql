-- hazards: stale-filter every-row
-- no catalog
-- case: a version is moved on step by step [postgresql mysql mariadb sqlite tsql plsql]
UPDATE schema_version SET version_num = '1a' WHERE version_num = '0f';
UPDATE schema_version SET version_num = '2b' WHERE version_num = '1a';
-- case: something else is [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 1 stale-filter ask
UPDATE loaf SET kind = 2 WHERE kind = 1;
UPDATE loaf SET kind = 3 WHERE kind = 2;
-- case: the version among the settings [jet tsql mysql]
UPDATE Settings SET DbVersion = 31;
-- case: another setting [jet tsql mysql]
-- finds: 0 every-row ask
UPDATE Settings SET Currency = 'EUR';
