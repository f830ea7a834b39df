-- hazards: last-copy hollow-filter
-- no catalog
-- case: each row finds itself among those that are equal [postgresql mariadb sqlite tsql plsql]
-- finds: 0 hollow-filter stop
-- finds: 1 hollow-filter stop
DELETE FROM pilotage WHERE pilotage_id IN (SELECT a.pilotage_id FROM pilotage a JOIN pilotage b ON a.mooring_id = b.mooring_id AND a.done_on = b.done_on);
DELETE FROM pilotage WHERE EXISTS (SELECT 1 FROM pilotage b WHERE b.mooring_id = pilotage.mooring_id AND b.done_on = pilotage.done_on);
-- case: another row, another table, or something more [postgresql mariadb sqlite tsql plsql]
DELETE FROM pilotage WHERE EXISTS (SELECT 1 FROM pilotage b WHERE b.mooring_id = pilotage.mooring_id AND b.pilotage_id < pilotage.pilotage_id);
DELETE FROM pilotage WHERE EXISTS (SELECT 1 FROM pilotage_old b WHERE b.mooring_id = pilotage.mooring_id AND b.done_on = pilotage.done_on);
DELETE FROM pilotage WHERE EXISTS (SELECT 1 FROM pilotage b WHERE b.mooring_id = pilotage.mooring_id AND b.charge > 100);
DELETE FROM pilotage WHERE pilotage_id IN (SELECT a.pilotage_id FROM pilotage a JOIN mooring b ON a.mooring_id = b.mooring_id WHERE b.status = 'x');
-- case: counted with itself [postgresql sqlite tsql]
-- finds: 0 last-copy ask
-- finds: 1 last-copy ask
DELETE FROM pilotage WHERE pilotage_id IN (SELECT x.pilotage_id FROM (SELECT pilotage_id, count(*) OVER (PARTITION BY mooring_id) AS n FROM pilotage) x WHERE x.n > 1);
WITH x AS (SELECT pilotage_id, count(*) OVER (PARTITION BY mooring_id) AS n FROM pilotage) DELETE FROM pilotage WHERE pilotage_id IN (SELECT pilotage_id FROM x WHERE n >= 2);
-- case: through the common table itself [tsql]
-- finds: 0 last-copy ask
WITH x AS (SELECT PilotageId, COUNT(*) OVER (PARTITION BY MooringId) AS n FROM Pilotage) DELETE FROM x WHERE n > 1;
-- case: numbered, the first one stays [postgresql sqlite tsql]
DELETE FROM pilotage WHERE pilotage_id IN (SELECT x.pilotage_id FROM (SELECT pilotage_id, row_number() OVER (PARTITION BY mooring_id ORDER BY pilotage_id) AS n FROM pilotage) x WHERE x.n > 1);
