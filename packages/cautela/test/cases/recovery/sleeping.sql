-- hazards: sleeping-statement
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer);
-- case: statements without terminators [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sleeping-statement note
-- DELETE FROM loaf
-- UPDATE loaf SET kind = 1
SELECT * FROM loaf;
-- case: a lone word above a SELECT [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sleeping-statement note
-- DELETE
SELECT * FROM loaf WHERE loaf_id = 3;
-- case: a heading [postgresql mysql mariadb sqlite tsql plsql]
-- delete what is stale
SELECT * FROM loaf WHERE loaf_id = 3;
-- case: a filtered statement [postgresql mysql mariadb sqlite tsql plsql]
-- DELETE FROM loaf
-- WHERE loaf_id = 3
SELECT * FROM loaf WHERE loaf_id = 3;
