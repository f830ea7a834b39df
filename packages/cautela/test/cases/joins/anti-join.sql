-- hazards: no-way-back wrong-target every-row hollow-filter dead-filter
-- no catalog
-- case: rows without a partner [mysql mariadb tsql]
-- finds: 0 no-way-back note
DELETE a FROM crew a LEFT JOIN watch b ON b.crew_id = a.crew_id WHERE b.crew_id IS NULL;
-- case: and with another condition on the partner [mysql mariadb tsql]
-- finds: 0 no-way-back note
DELETE a FROM crew a LEFT JOIN watch b ON b.crew_id = a.crew_id AND b.kind = 'night' WHERE b.crew_id IS NULL;
-- case: an UPDATE [mysql mariadb jet]
-- finds: 0 no-way-back note
UPDATE crew LEFT JOIN watch ON watch.crew_id = crew.crew_id SET crew.note = 'ashore' WHERE watch.crew_id IS NULL;
-- case: an outer join that ties nothing [mysql mariadb tsql]
-- finds: 0 wrong-target stop
DELETE a FROM crew a LEFT JOIN watch b ON b.kind = 'night' WHERE b.watch_id = 4;
-- case: joined by a column of the same name [mysql mariadb]
-- finds: 0 no-way-back note
UPDATE crew LEFT JOIN watch USING (crew_id) SET crew.note = 'ashore' WHERE watch.kind IS NULL;
-- case: joined by all of them [mysql mariadb]
-- finds: 0 no-way-back note
UPDATE crew NATURAL LEFT JOIN watch SET crew.note = 'ashore' WHERE watch.kind IS NULL;
-- case: a query for each row [tsql]
-- finds: 0 no-way-back note
UPDATE c SET c.hours = x.hours FROM crew c OUTER APPLY (SELECT SUM(w.hours) AS hours FROM watch w WHERE w.crew_id = c.crew_id) x WHERE x.hours > 0;
-- case: beside the target [postgresql]
-- finds: 0 no-way-back note
DELETE FROM crew USING LATERAL (SELECT 1 FROM watch w WHERE w.crew_id = crew.crew_id) x;
-- case: one that asks nothing of the row [postgresql]
-- finds: 0 every-row stop
DELETE FROM crew USING LATERAL (SELECT 1 FROM watch w WHERE w.kind = 'night') x;
