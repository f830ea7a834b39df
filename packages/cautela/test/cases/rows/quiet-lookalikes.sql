-- hazards: hollow-filter dead-filter outer-slip unordered-limit every-row toothless-join
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(20) NOT NULL, town varchar(20) NOT NULL, phone varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, skipper integer NOT NULL, fee integer NOT NULL);
CREATE TABLE flag (code varchar(2) NOT NULL UNIQUE, name varchar(20));
-- case: a side of an OR that is never true makes the filter no wider [postgresql mysql mariadb sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM owner WHERE name = 'X' OR phone = NULL;
-- case: and the right form [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM owner WHERE name = 'X' OR phone IS NULL;
-- case: the slip is the whole filter [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-slip stop
DELETE FROM owner WHERE owner_id IN (SELECT owner_id FROM vessel WHERE fee > 3);
-- case: the slip is a part of the filter [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-slip stop
DELETE FROM owner WHERE town = 'Ulm' AND owner_id IN (SELECT owner_id FROM vessel);
-- case: a limit that a key makes needless [mysql mariadb]
DELETE FROM owner WHERE owner_id = 3 LIMIT 1;
DELETE FROM flag WHERE code = 'DK' LIMIT 1;
-- case: a limit that no key makes needless [mysql mariadb]
-- finds: 0 unordered-limit ask
DELETE FROM owner WHERE town = 'Ulm' LIMIT 1;
-- case: more keys than the limit takes [mysql mariadb]
-- finds: 0 unordered-limit ask
DELETE FROM owner WHERE owner_id IN (3, 4) LIMIT 1;
