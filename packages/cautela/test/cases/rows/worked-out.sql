-- hazards: every-row
-- no catalog
-- case: has_booking = IF(EXISTS (SELECT 1 FROM booking s WHERE s.vessel_id = c.id), 1, 0) [mysql]
-- finds: 0 every-row ask
UPDATE vessel c SET has_booking = IF(EXISTS (SELECT 1 FROM booking s WHERE s.vessel_id = c.id), 1, 0);
-- case: has_booking = IF(c.a, 1, 0) [mysql]
-- finds: 0 every-row stop
UPDATE vessel c SET has_booking = IF(c.a, 1, 0);
-- case: a = CASE WHEN b = 1 THEN 2 ELSE 3 END [mysql]
-- finds: 0 every-row stop
UPDATE vessel c SET a = CASE WHEN b = 1 THEN 2 ELSE 3 END;
-- case: a = (SELECT b FROM x WHERE x.id = c.id) [mysql]
-- finds: 0 every-row stop
UPDATE vessel c SET a = (SELECT b FROM x WHERE x.id = c.id);
-- case: a = (SELECT COUNT(*) FROM x WHERE x.id = c.id), b = (SELECT MAX(d) FROM x WHERE x.id = c.id) [mysql]
-- finds: 0 every-row ask
UPDATE vessel c SET a = (SELECT COUNT(*) FROM x WHERE x.id = c.id), b = (SELECT MAX(d) FROM x WHERE x.id = c.id);
-- case: a = (SELECT COUNT(*) FROM x WHERE x.id = c.id), b = 4 [mysql]
-- finds: 0 every-row stop
UPDATE vessel c SET a = (SELECT COUNT(*) FROM x WHERE x.id = c.id), b = 4;
-- case: geom = ST_SetSRID(ST_MakePoint(lon, lat), 4326) [postgresql]
-- finds: 0 every-row ask
UPDATE buoy SET geom = ST_SetSRID(ST_MakePoint(lon, lat), 4326);
-- case: geom = ST_SetSRID(ST_MakePoint(4, 5), 4326) [postgresql]
-- finds: 0 every-row stop
UPDATE buoy SET geom = ST_SetSRID(ST_MakePoint(4, 5), 4326);
-- case: has_booking = CASE WHEN EXISTS (SELECT 1 FROM booking s WHERE s.vessel_id = vessel.id) THEN 1 ELSE 0 END [tsql]
-- finds: 0 every-row ask
UPDATE vessel SET has_booking = CASE WHEN EXISTS (SELECT 1 FROM booking s WHERE s.vessel_id = vessel.id) THEN 1 ELSE 0 END;
-- case: has_booking = (SELECT COUNT(*) FROM booking s WHERE s.vessel_id = c.id) > 0 [mysql]
-- finds: 0 every-row ask
UPDATE vessel c SET has_booking = (SELECT COUNT(*) FROM booking s WHERE s.vessel_id = c.id) > 0;
-- case: index_vector = setweight(to_tsvector('simple', coalesce(title, '')), 'A') || setweight(to_tsvector('simple', body), 'B') [postgresql]
-- finds: 0 every-row ask
UPDATE charter SET index_vector = setweight(to_tsvector('simple', coalesce(title, '')), 'A') || setweight(to_tsvector('simple', body), 'B');
-- case: price = base_price * 1.1 [postgresql]
-- finds: 0 every-row stop
UPDATE charter SET price = base_price * 1.1;
-- case: price = CASE WHEN EXISTS (SELECT 1 FROM sale s WHERE s.charter_id = charter.id) THEN base_price ELSE 0 END [postgresql mysql]
-- finds: 0 every-row stop
UPDATE charter SET price = CASE WHEN EXISTS (SELECT 1 FROM sale s WHERE s.charter_id = charter.id) THEN base_price ELSE 0 END;
-- case: UPDATE berth SET display_order = id * 10 [mysql postgresql sqlite tsql]
-- finds: 0 every-row ask
UPDATE berth SET display_order = id * 10;
-- case: UPDATE berth SET display_order = (@n := @n + 1) ORDER BY title [mysql]
-- finds: 1 every-row ask
SET @n := 0;
UPDATE berth SET display_order = (@n := @n + 1) ORDER BY title;
-- case: WITH x AS (SELECT display_order, ROW_NUMBER() OVER (ORDER BY title) rn FROM berth) UPDATE x SET display_order = rn [tsql]
-- finds: 0 every-row ask
WITH x AS (SELECT display_order, ROW_NUMBER() OVER (ORDER BY title) rn FROM berth) UPDATE x SET display_order = rn;
-- case: UPDATE berth SET sort_no = ROWNUM [plsql]
-- finds: 0 every-row ask
UPDATE berth SET sort_no = ROWNUM;
-- case: UPDATE berth SET @n = Sort_Order = @n + 10 [tsql]
-- finds: 2 every-row ask
DECLARE @n int;
SET @n = 0;
UPDATE berth SET @n = Sort_Order = @n + 10;
-- case: UPDATE berth SET price = id * 10 [mysql tsql]
-- finds: 0 every-row stop
UPDATE berth SET price = id * 10;
-- case: UPDATE berth SET display_order = 10 [mysql tsql]
-- finds: 0 every-row stop
UPDATE berth SET display_order = 10;
-- case: UPDATE berth SET order_id = id [mysql tsql]
-- finds: 0 every-row stop
UPDATE berth SET order_id = id;
