-- hazards: outside-list lossy-structure broken-dependent
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, state ENUM('open', 'closed', 'lost'), tags SET('rye', 'oat', 'malt'));
CREATE VIEW shelf AS SELECT loaf_id, state FROM loaf;
-- case: a member that the list lacks [mysql mariadb]
-- finds: 0 outside-list stop
UPDATE loaf SET tags = 'rye,corn' WHERE loaf_id = 4;
-- case: members of the list [mysql mariadb]
UPDATE loaf SET tags = 'rye,malt' WHERE loaf_id = 4;
-- case: no member [mysql mariadb]
UPDATE loaf SET tags = '' WHERE loaf_id = 4;
-- case: no row has that member [mysql mariadb]
-- finds: 0 outside-list ask
DELETE FROM loaf WHERE tags = 'corn';
-- case: the list loses a value [mysql mariadb]
-- finds: 0 lossy-structure ask
ALTER TABLE loaf MODIFY state ENUM('open', 'closed');
-- case: the value is written over before [mysql mariadb]
UPDATE loaf SET state = 'closed' WHERE state = 'lost';
ALTER TABLE loaf MODIFY state ENUM('open', 'closed');
-- case: the list gets a value [mysql mariadb]
ALTER TABLE loaf MODIFY state ENUM('open', 'closed', 'lost', 'sold');
-- case: CHANGE gives another name [mysql mariadb]
-- finds: 0 broken-dependent ask
ALTER TABLE loaf CHANGE state phase ENUM('open', 'closed', 'lost');
-- case: CHANGE keeps the name [mysql mariadb]
ALTER TABLE loaf CHANGE state state ENUM('open', 'closed', 'lost', 'sold');
