-- hazards: unread
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL);
-- case: a slip of the pen [postgresql sqlite]
-- finds: 0 unread stop
DELETE FORM berth WHERE berth_id = 3;
-- case: typographic quotes [postgresql mysql mariadb sqlite plsql]
-- finds: 0 unread stop
UPDATE berth SET code = “N 1” WHERE berth_id = 3;
-- case: what follows is read [postgresql mysql mariadb sqlite plsql]
-- finds: 0 unread stop
UPDATE berth SET WHERE berth_id = 3;
UPDATE berth SET code = 'N1' WHERE berth_id = 3;
-- case: accepted [postgresql sqlite]
-- cautela: accept unread, checked by hand
DELETE FORM berth WHERE berth_id = 3;
-- case: typographic quotes around one word [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 unread stop
UPDATE berth SET code = ‘N1’ WHERE berth_id = 3;
-- case: a column is added by a word too many [tsql plsql]
-- finds: 0 unread stop
ALTER TABLE berth ADD COLUMN quay integer;
-- case: a column is added by the word [postgresql mysql mariadb sqlite]
ALTER TABLE berth ADD COLUMN quay integer;
-- case: a default that is none [postgresql]
-- finds: 0 unread stop
ALTER TABLE berth ALTER COLUMN code SET DEFAULT NOT NULL;
-- case: a line of dashes [mysql mariadb]
--------------------------
--- a heading
UPDATE berth SET code = 'N1' WHERE berth_id = 3;
-- case: a column called values [postgresql]
SELECT array_agg(values) FROM (SELECT code AS values FROM berth) AS b;
