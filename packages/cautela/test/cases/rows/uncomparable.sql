-- hazards: silent-cast
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10), survey xml);
CREATE TABLE pier (pier_id integer NOT NULL PRIMARY KEY, code varchar(10), facts json);
-- case: XML is compared [tsql postgresql]
-- finds: 0 silent-cast stop
UPDATE berth SET code = 'N' WHERE survey = '<a/>';
-- case: JSON without an order is compared [postgresql]
-- finds: 0 silent-cast stop
UPDATE pier SET code = 'N' WHERE facts = '{}';
-- case: a part of it is compared, and it is asked for [postgresql]
UPDATE pier SET code = 'N' WHERE facts ->> 'depth' = '3' AND pier_id = 3;
UPDATE berth SET code = 'N' WHERE survey IS NULL AND berth_id = 3;
