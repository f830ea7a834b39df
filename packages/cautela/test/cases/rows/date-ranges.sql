-- hazards: dead-filter hollow-filter
-- tables
CREATE TABLE watch (watch_id integer NOT NULL PRIMARY KEY, begins date NOT NULL, kind varchar(9));
-- case: a range of dates that ends before it begins [postgresql mysql mariadb sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM watch WHERE begins BETWEEN '2026-12-31' AND '2026-01-01';
-- case: in standard literals [postgresql mysql mariadb plsql]
-- finds: 0 dead-filter ask
DELETE FROM watch WHERE begins BETWEEN DATE '2026-12-31' AND DATE '2026-01-01';
-- case: by two comparisons [postgresql mysql mariadb sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM watch WHERE begins >= '2026-12-31' AND begins < '2026-01-01' AND kind = 'night';
-- case: a day that does not lie in the range [postgresql mysql mariadb sqlite tsql]
-- finds: 0 dead-filter ask
DELETE FROM watch WHERE begins = '2026-03-01' AND begins < '2026-01-01';
-- case: without separators [tsql]
-- finds: 0 dead-filter ask
DELETE FROM watch WHERE begins BETWEEN '20261231' AND '20260101';
-- case: two ranges that meet [postgresql mysql mariadb sqlite tsql]
-- finds: 0 hollow-filter stop
DELETE FROM watch WHERE begins > '2026-01-01' OR begins < '2026-02-01';
-- case: in order [postgresql mysql mariadb sqlite tsql]
DELETE FROM watch WHERE begins BETWEEN '2026-01-01' AND '2026-12-31' AND begins <> '2026-05-01';
-- case: two ranges that do not meet [postgresql mysql mariadb sqlite tsql]
DELETE FROM watch WHERE begins < '2026-01-01' OR begins >= '2026-02-01';
-- case: the same moment written in two ways [postgresql mysql mariadb sqlite tsql]
DELETE FROM watch WHERE begins >= '2026-01-01' AND begins <= '2026-01-01 00:00:00';
-- case: a day and another [postgresql mysql mariadb plsql]
DELETE FROM watch WHERE begins = DATE '2026-12-31' OR begins = DATE '2026-12-30';
