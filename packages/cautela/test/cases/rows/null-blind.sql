-- hazards: null-blind
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20), class varchar(10));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer, fee numeric(8,2) NOT NULL);
-- case: NOT IN over a column that may be NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind ask
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM mooring);
-- case: NOT around IN [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind ask
DELETE FROM owner WHERE NOT (owner_id IN (SELECT m.owner_id FROM mooring m WHERE m.fee > 3));
-- case: IN without NOT [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE owner_id IN (SELECT owner_id FROM mooring);
-- case: NOT IN over a required column [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE owner_id NOT IN (SELECT mooring_id FROM mooring);
-- case: the subquery leaves NULLs out [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM mooring WHERE owner_id IS NOT NULL);
-- case: among other conditions [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM mooring WHERE fee > 3 AND owner_id IS NOT NULL AND mooring_id < 99);
-- case: a comparison leaves NULLs out too [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM mooring WHERE owner_id > 0);
-- case: IS NULL keeps just them [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind ask
DELETE FROM owner WHERE owner_id NOT IN (SELECT owner_id FROM mooring WHERE owner_id IS NULL OR fee > 3);
-- case: unequal, on either side [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind note
-- finds: 1 null-blind note
-- finds: 2 null-blind note
-- finds: 3 null-blind note
UPDATE owner SET phone = '1' WHERE class <> 'crew';
UPDATE owner SET phone = '2' WHERE 'guest' <> class;
UPDATE owner SET phone = '1' WHERE class NOT IN ('crew', 'guest');
UPDATE owner SET phone = '1' WHERE class NOT LIKE 'c%';
-- case: equal, required, or a word about NULL [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET phone = '1' WHERE class = 'crew';
UPDATE owner SET phone = '1' WHERE name <> 'Olsen';
UPDATE owner SET phone = '1' WHERE class <> 'crew' OR class IS NULL;
UPDATE owner SET phone = '1' WHERE class <> 'crew' AND class IS NOT NULL;
UPDATE owner SET phone = '1' WHERE class <> 'crew' AND class > 'a';
UPDATE owner SET phone = '1' WHERE class IN ('crew', 'guest');
UPDATE owner SET phone = '1' WHERE class LIKE 'c%';
-- case: a range over a column that may be NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind note
UPDATE owner SET phone = '1' WHERE class < 'm';
-- case: a range from both sides, and one over a required column [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET phone = '1' WHERE class >= 'a' AND class < 'm';
UPDATE owner SET phone = '1' WHERE owner_id < 100;
-- case: what is not like it is blanked, and NULL is blank [postgresql mysql mariadb sqlite tsql]
UPDATE owner SET class = NULL WHERE class NOT LIKE 'c%';
-- case: another column is blanked [postgresql mysql mariadb sqlite tsql]
-- finds: 0 null-blind note
UPDATE owner SET phone = NULL WHERE class NOT LIKE 'c%';
