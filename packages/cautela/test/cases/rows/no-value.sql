-- hazards: weak-filter
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20));
-- case: blanks are cleared [postgresql mysql mariadb sqlite tsql jet]
UPDATE owner SET phone = NULL WHERE phone = '';
-- case: and words that stand for nothing [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE owner SET phone = NULL WHERE phone = 'n/a';
UPDATE owner SET phone = NULL WHERE phone = '-';
DELETE FROM owner WHERE name = 'TEST';
-- case: somebody's [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 weak-filter ask
UPDATE owner SET phone = NULL WHERE phone = '0431 77';
