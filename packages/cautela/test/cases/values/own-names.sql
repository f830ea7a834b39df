-- hazards: self-assign key-rewrite
-- no catalog
-- case: the target's own column, with its name in front [postgresql sqlite tsql plsql]
-- finds: 0 self-assign ask
UPDATE loaf SET price = loaf.price WHERE kind = 3;
-- case: another table's [postgresql sqlite tsql]
UPDATE loaf SET price = sort.price FROM sort WHERE sort.id = loaf.sort_id;
-- case: a key by its name [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 key-rewrite ask
-- finds: 1 key-rewrite ask
UPDATE loaf SET id = id + 1000 WHERE id < 100;
UPDATE loaf SET loaf_id = 7 WHERE loaf_id = 8;
-- case: a reference, or the key of the row that is meant [postgresql mysql mariadb sqlite tsql plsql]
UPDATE loaf SET oven_id = 7 WHERE loaf_id = 8;
UPDATE loaf SET loaf_id = 8, price = 3 WHERE loaf_id = 8;
