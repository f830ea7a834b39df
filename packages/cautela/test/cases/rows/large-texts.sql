-- hazards: silent-cast
-- tables
CREATE TABLE berth (berth_id number NOT NULL PRIMARY KEY, code varchar2(10), plan clob);
-- case: a large text is compared [plsql]
-- finds: 0 silent-cast stop
DELETE FROM berth WHERE plan = 'none';
-- case: a large text in a list [plsql]
-- finds: 0 silent-cast stop
DELETE FROM berth WHERE plan IN ('none', 'lost');
-- case: a large text matched, and asked for [plsql]
DELETE FROM berth WHERE plan LIKE 'none%' AND berth_id = 3;
DELETE FROM berth WHERE plan IS NULL AND berth_id = 3;
