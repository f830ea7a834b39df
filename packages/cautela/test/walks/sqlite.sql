-- schema
CREATE TABLE a (a integer PRIMARY KEY);
-- script: x | changes nothing
DELETE FROM a;
