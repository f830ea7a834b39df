-- hazards: routine-writes opaque-code
-- no catalog
-- case: what a procedure of the script writes [mysql mariadb]
-- finds: 3 routine-writes ask
DELIMITER //
CREATE PROCEDURE close_year(IN y INT) BEGIN INSERT INTO loaf_archive SELECT * FROM loaf WHERE baked = y; DELETE FROM loaf WHERE baked = y; END//
DELIMITER ;
CALL close_year(2024);
-- case: a function that deletes all of them [postgresql]
-- finds: 1 routine-writes ask
CREATE FUNCTION purge() RETURNS void LANGUAGE sql AS $$ DELETE FROM loaf; $$;
SELECT purge();
-- case: it reads [postgresql]
CREATE FUNCTION count_them() RETURNS bigint LANGUAGE sql AS $$ SELECT count(*) FROM loaf; $$;
SELECT count_them();
