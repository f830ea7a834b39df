-- hazards: outer-null
-- tables
CREATE TABLE crew (crew_id integer NOT NULL PRIMARY KEY, hours integer NOT NULL, watches integer NOT NULL);
CREATE TABLE watch (watch_id integer NOT NULL PRIMARY KEY, crew_id integer NOT NULL, hours integer);
-- case: a sum of nothing is NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outer-null ask
UPDATE crew SET hours = (SELECT SUM(watch.hours) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: zero stands in for it [postgresql mysql mariadb sqlite tsql plsql]
UPDATE crew SET hours = (SELECT COALESCE(SUM(watch.hours), 0) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: the same by the dialect's word [mysql mariadb sqlite]
UPDATE crew SET hours = (SELECT IFNULL(SUM(watch.hours), 0) + 1 FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: the same by T-SQL's word [tsql]
UPDATE crew SET hours = (SELECT ISNULL(SUM(watch.hours), 0) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: the same by Oracle's word [plsql]
UPDATE crew SET hours = (SELECT NVL(MAX(watch.hours), 0) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: a count [postgresql mysql mariadb sqlite tsql plsql]
UPDATE crew SET watches = (SELECT COUNT(*) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: NULL stands in for NULL [postgresql mysql mariadb sqlite]
-- finds: 0 outer-null ask
UPDATE crew SET hours = (SELECT COALESCE(SUM(watch.hours), NULL) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: a row that is not there has nothing to stand in for it [postgresql mysql mariadb sqlite]
-- finds: 0 outer-null ask
UPDATE crew SET hours = (SELECT COALESCE(watch.hours, 0) FROM watch WHERE watch.crew_id = crew.crew_id) WHERE crew.crew_id > 3;
-- case: nor has a group that is not there [postgresql mysql mariadb sqlite]
-- finds: 0 outer-null ask
UPDATE crew SET hours = (SELECT COALESCE(SUM(watch.hours), 0) FROM watch WHERE watch.crew_id = crew.crew_id GROUP BY watch.crew_id) WHERE crew.crew_id > 3;
