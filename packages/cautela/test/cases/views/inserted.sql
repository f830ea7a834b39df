-- hazards: escapes-view unknown-name count-mismatch
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer, name varchar(20), state integer DEFAULT 1);
CREATE VIEW rye AS SELECT loaf_id, kind, name FROM loaf WHERE kind = 2;
CREATE VIEW fresh AS SELECT loaf_id, name FROM loaf WHERE state = 1;
CREATE VIEW bare AS SELECT loaf_id, name FROM rye;
-- case: the column of the filter is left out [postgresql mysql mariadb plsql tsql]
-- finds: 0 escapes-view ask
INSERT INTO rye (loaf_id, name) VALUES (1, 'crown');
-- case: the column of the filter is not even in the view [postgresql mysql mariadb plsql tsql]
-- finds: 0 escapes-view ask
INSERT INTO bare (loaf_id, name) VALUES (1, 'crown');
-- case: its default meets the filter [postgresql mysql mariadb plsql tsql]
INSERT INTO fresh (loaf_id, name) VALUES (1, 'crown');
-- case: rows with another value [postgresql mysql mariadb tsql]
-- finds: 0 escapes-view ask
INSERT INTO rye (loaf_id, kind, name) VALUES (1, 3, 'crown'), (2, 3, 'plait');
-- case: rows with the value [postgresql mysql mariadb tsql]
INSERT INTO rye (loaf_id, kind, name) VALUES (1, 2, 'crown'), (2, 2, 'plait');
-- case: a SELECT with another value [postgresql mysql mariadb plsql tsql]
-- finds: 0 escapes-view ask
INSERT INTO rye (loaf_id, kind) SELECT loaf_id + 100, 5 FROM loaf;
-- case: a SELECT with any value [postgresql mysql mariadb plsql tsql]
INSERT INTO rye (loaf_id, kind) SELECT loaf_id + 100, kind FROM loaf;
-- case: reckoned from what the filter pins [postgresql mysql mariadb plsql tsql]
-- finds: 0 escapes-view ask
UPDATE rye SET kind = kind + 1 WHERE loaf_id = 3;
-- case: reckoned, and the same [postgresql mysql mariadb plsql tsql]
UPDATE rye SET kind = kind * 1 WHERE loaf_id = 3;
-- case: a column that the view lacks [postgresql mysql mariadb plsql tsql]
-- finds: 0 unknown-name stop
INSERT INTO rye (loaf_id, kinds) VALUES (1, 2);
-- case: a column that the table lacks [postgresql mysql mariadb sqlite plsql tsql]
-- finds: 0 unknown-name stop
INSERT INTO loaf (loaf_id, kinds) VALUES (1, 2);
-- case: in other letters [postgresql mysql mariadb sqlite plsql tsql]
INSERT INTO loaf (LOAF_ID, Kind) VALUES (1, 2);
-- case: a value too many for the view [postgresql mysql mariadb plsql tsql]
-- finds: 0 count-mismatch stop
INSERT INTO fresh VALUES (1, 'crown', 3);
