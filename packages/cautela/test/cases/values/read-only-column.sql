-- hazards: read-only-column
-- tables
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, length_m numeric(6,2) NOT NULL, width_m numeric(6,2) NOT NULL, area_m numeric(9,2) GENERATED ALWAYS AS (length_m * width_m) STORED);
-- case: a computed column is assigned [postgresql mysql mariadb sqlite]
-- finds: 0 read-only-column stop
UPDATE vessel SET area_m = 30 WHERE vessel_id = 3;
-- case: a computed column gets a value with its row [postgresql mysql mariadb sqlite]
-- finds: 0 read-only-column stop
INSERT INTO vessel (vessel_id, length_m, width_m, area_m) VALUES (3, 10, 3, 30);
-- case: DEFAULT is taken [postgresql mysql mariadb]
INSERT INTO vessel (vessel_id, length_m, width_m, area_m) VALUES (3, 10, 3, DEFAULT);
-- case: what it is computed from [postgresql mysql mariadb sqlite]
UPDATE vessel SET length_m = 10 WHERE vessel_id = 3;
-- case: an identity that is always the engine's [postgresql]
-- finds: 1 read-only-column stop
CREATE TABLE notice (notice_id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, text varchar(90));
INSERT INTO notice (notice_id, text) VALUES (3, 'x');
INSERT INTO notice (text) VALUES ('x');
INSERT INTO notice (notice_id, text) OVERRIDING SYSTEM VALUE VALUES (3, 'x');
