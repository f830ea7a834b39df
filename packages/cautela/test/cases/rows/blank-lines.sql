-- hazards: stranded-filter
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10));
-- case: a blank line before WHERE, and the buffer is run [plsql]
-- finds: 1 stranded-filter stop
SET ECHO ON
UPDATE berth SET code = 'N'

WHERE berth_id = 3;
/
-- case: a blank line before WHERE [plsql]
-- finds: 1 stranded-filter ask
WHENEVER SQLERROR EXIT ROLLBACK
DELETE FROM berth

WHERE berth_id = 3;
-- case: blank lines are switched on [plsql]
SET SQLBLANKLINES ON
DELETE FROM berth

WHERE berth_id = 3;
-- case: a text with a blank line [plsql]
SET ECHO ON
UPDATE berth SET code = 'N

S' WHERE berth_id = 3;
-- case: a block may hold blank lines [plsql]
SET ECHO ON
BEGIN

  DELETE FROM berth

  WHERE berth_id = 3;
END;
/
-- case: nothing tells who runs it [plsql postgresql mysql tsql]
DELETE FROM berth

WHERE berth_id = 3;
