-- hazards: bare-condition loose-or
-- tables
CREATE TABLE boat (boat_id integer PRIMARY KEY, length numeric(5,2) NOT NULL, sold integer NOT NULL);
CREATE TABLE stay (stay_id integer PRIMARY KEY, boat_id integer NOT NULL REFERENCES boat (boat_id), day date NOT NULL, fee numeric(8,2));
-- case: the key [mysql mariadb sqlite]
-- finds: 0 bare-condition stop
-- finds: 1 bare-condition ask
DELETE FROM stay WHERE stay_id;
DELETE FROM stay WHERE stay_id AND day < '2020-01-01';
-- case: a switch, and whether there is a reference [mysql mariadb sqlite]
DELETE FROM boat WHERE sold;
UPDATE stay SET fee = 0 WHERE boat_id AND fee < 3;
-- case: a reference or all of another kind [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 loose-or ask
UPDATE stay SET fee = 0 WHERE boat_id = 4 OR fee > 100;
