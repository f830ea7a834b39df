-- hazards: missing-required null-into-required
-- tables
CREATE TABLE buoy (id NUMBER PRIMARY KEY, label VARCHAR2(9) NOT NULL, depth NUMBER DEFAULT ON NULL 3 NOT NULL, light NUMBER DEFAULT 3 NOT NULL);
-- case: a NULL that becomes the default [plsql]
INSERT INTO buoy (id, label, depth) VALUES (1, 'x', NULL);
-- case: a NULL that is refused [plsql]
-- finds: 0 null-into-required stop
INSERT INTO buoy (id, label, light) VALUES (1, 'x', NULL);
