-- hazards: sealed-view sealed-column count-mismatch may-not-fit
-- tables
CREATE TABLE bun (bun_id integer IDENTITY(1,1) PRIMARY KEY, code varchar(9) NOT NULL, price integer);
-- case: duplicates go by their number [tsql]
WITH d AS (SELECT *, ROW_NUMBER() OVER (PARTITION BY code ORDER BY bun_id) AS n FROM bun) DELETE FROM d WHERE n > 1;
-- case: by a derived table [tsql]
DELETE d FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY code ORDER BY bun_id) AS n FROM bun) d WHERE d.n > 1;
-- case: groups are no rows [tsql]
-- finds: 0 sealed-view stop
WITH d AS (SELECT code, COUNT(*) AS n FROM bun GROUP BY code) DELETE FROM d WHERE n > 1;
-- case: by position the identity is passed over [tsql]
INSERT INTO bun VALUES ('a', 3);
-- case: one value too many [tsql]
-- finds: 0 count-mismatch stop
INSERT INTO bun VALUES (1, 'a', 3);
