-- hazards: null-into-required may-not-fit
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(4) NOT NULL, note varchar(20));
-- case: NULL for a required column, row by row [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 null-into-required stop
INSERT INTO berth (berth_id, code, note) SELECT berth_id + 100, NULL, note FROM berth;
-- case: NULL for another [postgresql mysql mariadb sqlite tsql plsql jet]
INSERT INTO berth (berth_id, code, note) SELECT berth_id + 100, code, NULL FROM berth;
-- case: in a SELECT without a table [postgresql mysql mariadb sqlite tsql]
-- finds: 0 null-into-required stop
INSERT INTO berth (berth_id, code) SELECT 7, NULL;
-- case: a text that is too long in it [postgresql mysql mariadb tsql]
-- finds: 0 may-not-fit stop
INSERT INTO berth (berth_id, code) SELECT 7, 'too long';
-- case: of dual [plsql]
-- finds: 0 null-into-required stop
INSERT INTO berth (berth_id, code) SELECT 7, NULL FROM dual;
