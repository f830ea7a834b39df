-- hazards: every-row opaque-code
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer NOT NULL, note varchar(20));
-- case: one text of two is run [mysql mariadb]
-- finds: 3 every-row stop
SET @q = IF((SELECT COUNT(*) FROM loaf) > 10, 'DELETE FROM loaf', 'SELECT 1');
PREPARE s FROM @q;
EXECUTE s;
-- case: both texts are harmless [mysql mariadb]
SET @q = (SELECT IF(COUNT(*) = 0, 'ALTER TABLE loaf ADD note text', 'SELECT 1') FROM information_schema.columns WHERE table_name = 'loaf');
PREPARE s FROM @q;
EXECUTE s;
-- case: a text that is not known [mysql mariadb]
-- finds: 1 opaque-code note
SET @q = (SELECT note FROM information_schema.tables);
PREPARE s FROM @q;
-- case: text by CASE [tsql]
-- finds: 3 every-row stop
DECLARE @q nvarchar(200) = CASE WHEN 1 = 1 THEN 'DELETE FROM loaf' ELSE 'SELECT 1' END
EXEC (@q)
-- case: the text stands there sign by sign [tsql]
-- finds: 1 every-row stop
EXEC('DELETE FROM loaf')
-- case: doubled quotes, put together, in a variable [tsql]
-- finds: 3 every-row stop
-- finds: 6 every-row stop
EXEC('UPDATE loaf SET kind = 2 WHERE note = ''a''')
EXEC('DELETE ' + 'FROM loaf')
DECLARE @q nvarchar(200) = 'DELETE FROM loaf';
EXEC (@q)
