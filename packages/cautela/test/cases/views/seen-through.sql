-- hazards: sealed-view sealed-column own-table-read
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, depth integer, code varchar(10));
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, berth_id integer, sign varchar(10));
CREATE VIEW deep (number, metres, label) AS SELECT * FROM berth;
CREATE VIEW paired AS SELECT b.berth_id, b.code, v.vessel_id, v.sign FROM berth b JOIN vessel v ON v.berth_id = b.berth_id;
CREATE VIEW peers AS SELECT berth_id, code FROM berth b WHERE EXISTS (SELECT 1 FROM berth z WHERE z.depth = b.depth AND z.berth_id <> b.berth_id);
CREATE VIEW named AS SELECT * FROM berth;
CREATE VIEW through_named AS SELECT berth_id, code FROM named n WHERE EXISTS (SELECT 1 FROM berth z WHERE z.depth = n.depth);
CREATE VIEW counted AS SELECT berth_id, count(*) AS vessels FROM vessel GROUP BY berth_id;
CREATE VIEW busy AS SELECT b.berth_id, b.code, c.vessels FROM berth b JOIN counted c ON c.berth_id = b.berth_id;
CREATE VIEW twins AS SELECT a.berth_id, a.code, z.berth_id AS other_id, z.code AS other FROM berth a JOIN berth z ON z.depth = a.depth;
-- case: new names for every column of a star [postgresql mariadb mysql tsql plsql]
UPDATE deep SET metres = 4 WHERE number = 3;
-- case: a view that reads its table again [mysql mariadb]
-- finds: 0 sealed-view stop
UPDATE peers SET code = 'N' WHERE berth_id = 3;
-- case: the same view, joined, is written [mariadb]
UPDATE peers p JOIN vessel v ON v.berth_id = p.berth_id SET p.code = v.sign WHERE v.vessel_id = 3;
-- case: the table under another name [mariadb]
UPDATE through_named SET code = 'N' WHERE berth_id = 3;
-- case: a row into a join beside groups [mysql mariadb]
-- finds: 0 sealed-view stop
INSERT INTO busy (berth_id, code) VALUES (7, 'S');
-- case: a row into a plain join [mysql mariadb]
INSERT INTO paired (berth_id, code) VALUES (7, 'S');
-- case: a row replaced through a join [mysql mariadb]
REPLACE INTO paired (berth_id, code) VALUES (7, 'S');
-- case: one table twice, a column of each [mysql mariadb]
-- finds: 0 sealed-view stop
INSERT INTO twins (berth_id, other) VALUES (7, 'S');
-- case: one table twice, one of them [mysql mariadb]
INSERT INTO twins (berth_id, code) VALUES (7, 'S');
-- case: deleted beside a view that reads the table [mysql mariadb]
-- finds: 0 own-table-read stop
DELETE b FROM berth b JOIN peers p ON p.berth_id = b.berth_id WHERE p.code = 'N';
-- case: deleted by a subquery on a view of the table [mysql mariadb]
-- finds: 0 own-table-read stop
DELETE berth FROM berth WHERE berth_id IN (SELECT berth_id FROM named WHERE depth < 2);
-- case: deleted beside a view of another table [mysql mariadb]
DELETE b FROM berth b JOIN counted c ON c.berth_id = b.berth_id WHERE c.vessels = 0;
-- case: deleted beside a plain view of the table [mariadb]
DELETE b FROM berth b JOIN named n ON n.berth_id = b.berth_id WHERE n.depth < 2;
