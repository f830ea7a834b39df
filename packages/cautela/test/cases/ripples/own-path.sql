-- hazards: routine-writes opaque-code unknown-name
-- tables
CREATE SCHEMA dock;
CREATE SCHEMA quay;
CREATE TABLE dock.slip (slip_id integer NOT NULL PRIMARY KEY, code varchar(10));
CREATE TABLE quay.slip (slip_id integer NOT NULL PRIMARY KEY, name varchar(10));
CREATE FUNCTION clear_slip(p integer) RETURNS void LANGUAGE plpgsql SET search_path = dock, public AS $$ BEGIN DELETE FROM slip WHERE slip_id = p; END $$;
CREATE FUNCTION clear_any(p integer) RETURNS void LANGUAGE plpgsql AS $$ BEGIN DELETE FROM slip WHERE slip_id = p; END $$;
-- case: a function looks where it says [postgresql]
-- finds: 0 routine-writes ask
SELECT clear_slip(3);
-- case: a function looks where its caller does [postgresql]
-- finds: 1 routine-writes ask
SET search_path = quay;
SELECT dock.clear_any(3), public.clear_any(3);
-- case: nobody says where [postgresql]
-- finds: 0 opaque-code ask
SELECT clear_any(3);
-- case: the path decides which columns there are [postgresql]
-- finds: 3 unknown-name stop
SET search_path = dock;
UPDATE slip SET code = 'A' WHERE slip_id = 3;
SET search_path = quay;
UPDATE slip SET code = 'A' WHERE slip_id = 3;
