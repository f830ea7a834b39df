-- Queries of views, one a line; over each of them further views are made. Written through, or refused, as the engine says.

-- both
SELECT * FROM keeper NATURAL JOIN boat
SELECT keeper_id, name, sign FROM keeper JOIN boat USING (keeper_id)
SELECT keeper_id, name FROM keeper NATURAL JOIN boat
SELECT boat_id, keeper_id FROM boat NATURAL JOIN keeper
SELECT boat_id, sign FROM boat HAVING count(*) > 1
SELECT boat_id, sign FROM boat WHERE keeper_id = (SELECT max(keeper_id) FROM keeper)
SELECT boat_id, (SELECT max(boat_id) FROM boat) AS m FROM boat
SELECT boat_id, (SELECT max(name) FROM keeper) AS m, sign FROM boat
SELECT a.boat_id, a.sign, z.sign AS other FROM boat a JOIN boat z ON z.boat_id = a.keeper_id
SELECT boat_id, sign AS s1, sign AS s2 FROM boat
SELECT boat_id, sign FROM boat WHERE boat_id IN (SELECT boat_id FROM boat)
SELECT b.boat_id, b.sign FROM boat b JOIN keeper k ON k.keeper_id = b.keeper_id WHERE b.boat_id > (SELECT min(boat_id) FROM boat)
SELECT b.boat_id, b.sign FROM boat b CROSS JOIN keeper k
SELECT b.boat_id, b.sign FROM boat b RIGHT JOIN keeper k ON k.keeper_id = b.keeper_id
SELECT b.boat_id, b.sign FROM boat b INNER JOIN (SELECT keeper_id FROM keeper) k ON k.keeper_id = b.keeper_id
SELECT b.boat_id, b.sign FROM boat b, (SELECT 1 AS x) d
SELECT boat_id, sign FROM boat WHERE 1 = 0
SELECT boat_id, sign FROM (SELECT * FROM boat) AS x
SELECT boat_id, sign FROM (boat)
SELECT x.* FROM boat x
SELECT x.*, 1 AS one FROM boat x
SELECT sign, count(*) AS c FROM boat GROUP BY sign
SELECT sum(length_m) OVER () AS s, boat_id FROM boat
SELECT boat_id, lower(sign) AS l FROM boat
SELECT boat_id, -length_m AS l FROM boat
SELECT boat_id, +length_m AS l FROM boat
SELECT boat_id, (length_m) AS l FROM boat
SELECT boat_id, NULL AS n, sign FROM boat
SELECT NULL AS n
SELECT boat_id, cast(length_m AS char(10)) AS c, sign FROM boat
SELECT keeper_id FROM keeper UNION SELECT keeper_id FROM boat
SELECT keeper_id FROM keeper EXCEPT SELECT keeper_id FROM boat
(SELECT keeper_id, name FROM keeper)
SELECT keeper_id, name FROM keeper FOR UPDATE
SELECT avg(length_m) AS a FROM boat
SELECT stddev(length_m) AS a FROM boat
SELECT bit_and(length_m) AS a FROM boat
SELECT variance(length_m) AS a FROM boat
SELECT ALL boat_id, sign FROM boat
SELECT boat_id, sign FROM boat LIMIT 0
SELECT boat_id, sign FROM boat b WHERE NOT EXISTS (SELECT 1 FROM boat c WHERE c.boat_id > b.boat_id)
SELECT b.sign, k.name FROM boat b LEFT JOIN keeper k USING (keeper_id)
SELECT 1 AS a, b.* FROM boat b WHERE b.sign = 'x'
SELECT k.name, g.n FROM keeper k, (SELECT count(*) AS n FROM boat) g
SELECT k.name, k.mail FROM keeper k WHERE k.grade = (SELECT max(grade) FROM keeper)

-- postgresql
SELECT boat_id, generate_series(1, 3) AS g FROM boat
SELECT boat_id, sign FROM boat TABLESAMPLE bernoulli (50)
SELECT boat_id, sign FROM ONLY boat
SELECT boat_id, sign COLLATE "C" AS s FROM boat
SELECT boat_id, sign::varchar(20) AS s FROM boat
SELECT boat_id, length_m::integer AS s FROM boat
SELECT boat_id, length_m::bigint AS s FROM boat
SELECT boat_id, cast(sign AS text) AS s FROM boat
SELECT boat_id, string_agg(sign, ',') AS s FROM boat GROUP BY boat_id
SELECT array_agg(sign) AS s FROM boat
SELECT mode() WITHIN GROUP (ORDER BY sign) AS s FROM boat
SELECT json_agg(sign) AS s FROM boat
SELECT bool_or(sign IS NULL) AS s FROM boat
SELECT every(sign IS NULL) AS s FROM boat
SELECT xmlagg(NULL) AS s FROM boat
SELECT percentile_cont(0.5) WITHIN GROUP (ORDER BY length_m) AS s FROM boat
SELECT any_value(sign) AS s FROM boat
SELECT DISTINCT ON (sign) boat_id, sign FROM boat
SELECT boat_id, sign FROM boat FETCH FIRST 2 ROWS ONLY
SELECT boat_id, sign FROM boat OFFSET 0
SELECT table_name FROM information_schema.tables
SELECT relname FROM pg_class
SELECT relname FROM pg_catalog.pg_class
SELECT tablename FROM pg_tables
SELECT g FROM generate_series(1, 3) AS g
SELECT boat_id FROM boat, LATERAL (SELECT 1) x
SELECT boat.boat_id, x.n FROM boat, LATERAL generate_series(1, 2) AS x(n)
SELECT * FROM (VALUES (1, 2)) AS v(a, b)
WITH w AS (SELECT 1) SELECT boat_id, sign FROM boat
SELECT ctid, boat_id FROM boat
SELECT tableoid, boat_id FROM boat
SELECT xmin, boat_id, sign FROM boat
SELECT b AS whole, b.boat_id FROM boat b
SELECT boat_id, sign FROM boat GROUP BY ()
SELECT boat_id FROM boat GROUP BY ROLLUP (boat_id)
TABLE boat
SELECT boat_id, unnest(ARRAY[1,2]) AS u FROM boat
SELECT boat_id, (ARRAY[1,2])[1] AS u FROM boat
SELECT boat_id, sign FROM boat WINDOW w AS (ORDER BY boat_id)
SELECT boat_id, first_value(sign) OVER w AS f FROM boat WINDOW w AS (ORDER BY boat_id)
SELECT boat_id, sign FROM ROWS FROM (generate_series(1,2)) AS x(n), boat
SELECT last_value FROM sq
VALUES (1), (2)

-- mariadb
SELECT boat_id, rownum() AS n FROM boat
SELECT boat_id, sign FROM boat WHERE rownum() < 3
SELECT boat_id, sign FROM boat WHERE rand() < 0.5
SELECT boat_id, sign FROM boat PROCEDURE ANALYSE()
SELECT boat_id, sign COLLATE utf8mb4_bin AS s FROM boat
SELECT boat_id, cast(length_m AS signed) AS s FROM boat
SELECT group_concat(sign) AS s FROM boat
SELECT boat_id, group_concat(sign) AS s FROM boat GROUP BY boat_id
SELECT bit_or(length_m) AS s FROM boat
SELECT bit_xor(length_m) AS s FROM boat
SELECT std(length_m) AS s FROM boat
SELECT json_arrayagg(sign) AS s FROM boat
SELECT json_objectagg(boat_id, sign) AS s FROM boat
SELECT var_pop(length_m) AS s FROM boat
SELECT stddev_samp(length_m) AS s FROM boat
SELECT count(DISTINCT sign) AS s FROM boat
SELECT STRAIGHT_JOIN boat_id, sign FROM boat
SELECT SQL_NO_CACHE boat_id, sign FROM boat
SELECT boat_id, sign FROM boat b STRAIGHT_JOIN keeper k ON k.keeper_id = b.keeper_id
SELECT table_name FROM information_schema.tables
SELECT boat_id, sign FROM boat FORCE INDEX (PRIMARY)
SELECT DISTINCTROW boat_id, sign FROM boat
SELECT boat_id, default(length_m) AS d FROM boat
SELECT boat_id, boat_id + 0 AS d, sign FROM boat
SELECT k.name, v.sign FROM keeper k JOIN (SELECT keeper_id, sign FROM boat) v ON v.keeper_id = k.keeper_id
SELECT k.name, b.sign FROM keeper k LEFT JOIN boat b ON b.keeper_id = k.keeper_id
SELECT b.sign, b.keeper_id, k.keeper_id AS kk FROM keeper k RIGHT JOIN boat b ON b.keeper_id = k.keeper_id
SELECT boat_id, sign FROM boat WHERE boat_id > ALL (SELECT boat_id FROM boat)
SELECT uuid() AS u, boat_id FROM boat
SELECT median(length_m) OVER (PARTITION BY boat_id) AS m, boat_id FROM boat
SELECT boat_id, rand() AS r FROM boat
