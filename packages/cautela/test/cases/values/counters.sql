-- hazards: counter-set-back
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, name varchar(20));
-- case: a sequence begins again by START [plsql]
-- finds: 0 counter-set-back ask
ALTER SEQUENCE loaf_seq RESTART START WITH 1;
-- case: a counter of a table [tsql]
-- finds: 0 counter-set-back ask
DBCC CHECKIDENT ('dbo.loaf', RESEED, 0);
-- case: by a variable [tsql]
DECLARE @n int = (SELECT MAX(loaf_id) FROM loaf);
DBCC CHECKIDENT ('loaf', RESEED, @n);
-- case: only looked at [tsql]
DBCC CHECKIDENT ('loaf');
-- case: after the table was emptied [tsql]
DELETE FROM loaf;
DBCC CHECKIDENT ('loaf', RESEED, 0);
-- case: the engine never goes back [mysql mariadb]
ALTER TABLE loaf AUTO_INCREMENT = 1;
