-- hazards: null-blind
-- tables
CREATE TABLE drug (drug_id integer NOT NULL PRIMARY KEY, atc varchar(10), price numeric(8,2), ends_on date, made_on date, created_at date);
-- case: only what the function changes [postgresql mysql mariadb sqlite plsql]
UPDATE drug SET atc = UPPER(atc) WHERE atc <> UPPER(atc);
-- case: the other way round [postgresql mysql mariadb sqlite plsql]
UPDATE drug SET atc = TRIM(atc) WHERE TRIM(atc) <> atc;
-- case: another value [postgresql mysql mariadb sqlite plsql]
-- finds: 0 null-blind note
UPDATE drug SET atc = LOWER(atc) WHERE atc <> UPPER(atc);
-- case: a function that replaces NULL, and never meets one [postgresql mysql mariadb sqlite plsql]
-- finds: 0 null-blind note
UPDATE drug SET atc = COALESCE(atc, 'none') WHERE atc <> COALESCE(atc, 'none');
-- case: a price [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind note
UPDATE drug SET price = 4 WHERE price <> 4;
-- case: what has not ended has no end [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM drug WHERE ends_on < '2020-01-01';
-- case: what was made has a day [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 null-blind note
DELETE FROM drug WHERE created_at < '2020-01-01';
