-- hazards: missing-required null-into-required
-- tables
CREATE TABLE buoy (id COUNTER CONSTRAINT pk PRIMARY KEY, label TEXT(20) NOT NULL, lit YESNO NOT NULL, seen DATETIME NOT NULL);
-- case: Yes/No is No where nothing is given [jet]
-- finds: 1 missing-required stop
INSERT INTO buoy (label, seen) VALUES ("x", Now());
INSERT INTO buoy (label, lit) VALUES ("x", True);
