-- hazards: rewrite-all every-row self-assign key-rewrite no-way-back
-- no catalog
-- case: a CASE that keeps the others [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 rewrite-all ask
UPDATE buoys SET light = CASE WHEN harbour = 'N' THEN 'red' ELSE light END;
-- case: a CASE by value [postgresql tsql]
-- finds: 0 rewrite-all ask
UPDATE buoys SET light = CASE harbour WHEN 'N' THEN 'red' WHEN 'S' THEN 'green' ELSE light END;
-- case: the desktop's way [jet]
-- finds: 0 rewrite-all ask
UPDATE buoys SET light = IIf(harbour="N", "red", light);
-- case: IF [mysql mariadb]
-- finds: 0 rewrite-all ask
UPDATE buoys SET light = IF(harbour = 'N', 'red', light);
-- case: DECODE, NULL among its values or not [plsql]
-- finds: 0 rewrite-all ask
-- finds: 1 rewrite-all ask
UPDATE buoys SET light = DECODE(harbour, 'N', 'red', light);
UPDATE marks SET light = DECODE(harbour, NULL, 'red', light);
-- case: capitals and blanks put right [mysql mariadb tsql postgresql jet]
-- finds: 0 rewrite-all ask
UPDATE keepers SET mail = LTRIM(RTRIM(LCASE(mail)));
-- case: a CASE that ends in something else [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
-- finds: 1 every-row stop
UPDATE buoys SET light = CASE WHEN harbour = 'N' THEN 'red' ELSE 'green' END;
UPDATE marks SET light = CASE WHEN harbour = 'N' THEN 'red' ELSE colour END;
-- case: another column in small letters [mysql]
-- finds: 0 every-row stop
UPDATE keepers SET mail = LOWER(name);
-- case: each row written as it is, to fire the triggers [postgresql]
-- finds: 0 self-assign ask
-- finds: 1 self-assign ask
UPDATE buoys SET light = light;
UPDATE buoys SET id = id WHERE NOT sunk;
-- case: one value of two kept [postgresql]
-- finds: 0 every-row stop
-- finds: 0 self-assign ask
UPDATE buoys SET light = light, depth = 3;
