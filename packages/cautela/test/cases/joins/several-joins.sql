-- hazards: fan-out off-key-join reference-blocks
-- tables
CREATE TABLE harbour (harbour_id integer NOT NULL PRIMARY KEY, name varchar(20) NOT NULL);
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, harbour_id integer NOT NULL REFERENCES harbour (harbour_id), light varchar(9));
CREATE TABLE colour (colour_id integer NOT NULL PRIMARY KEY, harbour_id integer, note varchar(40));
CREATE TABLE painted (quay_id integer NOT NULL REFERENCES quay (quay_id), colour_id integer NOT NULL REFERENCES colour (colour_id), PRIMARY KEY (quay_id, colour_id));
CREATE TABLE buoy (buoy_id integer NOT NULL PRIMARY KEY, quay_id integer REFERENCES quay (quay_id), harbour_name varchar(20), keeper varchar(20));
-- case: by way of a table of pairs [postgresql sqlite]
-- finds: 0 fan-out ask
UPDATE colour SET harbour_id = h.harbour_id FROM painted p JOIN quay q ON q.quay_id = p.quay_id JOIN harbour h ON h.harbour_id = q.harbour_id WHERE p.colour_id = colour.colour_id;
-- case: the same before SET [mysql mariadb]
-- finds: 0 fan-out ask
UPDATE colour c JOIN painted p ON p.colour_id = c.colour_id JOIN quay q ON q.quay_id = p.quay_id SET c.harbour_id = q.harbour_id;
-- case: one of each [postgresql sqlite]
UPDATE buoy SET harbour_name = h.name FROM quay q JOIN harbour h ON h.harbour_id = q.harbour_id WHERE q.quay_id = buoy.quay_id;
-- case: one of each before SET [mysql mariadb]
UPDATE buoy b JOIN quay q ON q.quay_id = b.quay_id JOIN harbour h ON h.harbour_id = q.harbour_id SET b.harbour_name = h.name;
-- case: the pair is pinned [postgresql sqlite]
UPDATE colour SET note = q.light FROM painted p JOIN quay q ON q.quay_id = p.quay_id WHERE p.colour_id = colour.colour_id AND p.quay_id = 3;
-- case: other columns of the rows that refer have been written [postgresql mysql tsql plsql]
-- finds: 2 reference-blocks note
UPDATE buoy SET keeper = 'A';
UPDATE buoy SET keeper = 'B' WHERE keeper = 'A';
DELETE FROM quay WHERE quay_id = 3;
-- case: the reference has been taken away [postgresql mysql tsql plsql]
UPDATE buoy SET quay_id = NULL WHERE quay_id = 3;
DELETE FROM painted WHERE quay_id = 3;
DELETE FROM quay WHERE quay_id = 3;
