-- hazards: wrong-target trigger-blocks
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, next_id integer, code varchar(10));
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(20));
CREATE TRIGGER quay_seen ON quay AFTER UPDATE AS SET NOCOUNT ON;
-- case: the table is named twice under other names [tsql]
-- finds: 0 wrong-target stop
UPDATE berth SET code = 'A' FROM berth AS a JOIN berth AS b ON a.berth_id = b.next_id WHERE b.berth_id = 3;
-- case: the alias is named [tsql]
UPDATE a SET code = 'A' FROM berth AS a JOIN berth AS b ON a.berth_id = b.next_id WHERE b.berth_id = 3;
-- case: one of the two has no alias [tsql]
UPDATE berth SET code = 'A' FROM berth JOIN berth AS b ON berth.berth_id = b.next_id WHERE b.berth_id = 3;
-- case: rows shown where a trigger fires [tsql]
-- finds: 0 trigger-blocks stop
UPDATE quay SET name = 'x' OUTPUT inserted.quay_id WHERE quay_id = 3;
-- case: rows shown where none fires [tsql]
DELETE FROM quay OUTPUT deleted.quay_id WHERE quay_id = 3;
