-- hazards: no-way-back lossy-structure
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, phone varchar(20), status varchar(10) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, class varchar(10) NOT NULL, phone varchar(20), FOREIGN KEY (owner_id) REFERENCES owner (owner_id));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL, from_day date NOT NULL, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id));
CREATE TABLE tariff (class varchar(10) NOT NULL, valid_from date NOT NULL, per_night numeric(8,2) NOT NULL, PRIMARY KEY (class, valid_from));
CREATE TABLE tariff_notice (class varchar(10) NOT NULL, new_rate numeric(8,2));
CREATE TABLE bill (mooring_id integer NOT NULL, fee numeric(8,2) NOT NULL);
-- case: rows that are there are overwritten by those of a table [postgresql sqlite]
-- finds: 0 no-way-back note
INSERT INTO tariff (class, valid_from, per_night) SELECT class, '2025-01-01', new_rate FROM tariff_notice WHERE true ON CONFLICT (class, valid_from) DO UPDATE SET per_night = EXCLUDED.per_night;
-- case: by those of the script itself [postgresql sqlite]
INSERT INTO tariff (class, valid_from, per_night) VALUES ('a', '2025-01-01', 3) ON CONFLICT (class, valid_from) DO UPDATE SET per_night = EXCLUDED.per_night;
-- case: and by the other form [mysql mariadb]
-- finds: 0 no-way-back note
INSERT INTO tariff (class, valid_from, per_night) SELECT class, '2025-01-01', new_rate FROM tariff_notice ON DUPLICATE KEY UPDATE per_night = VALUES(per_night);
-- case: of a date only whether it is there is left [postgresql]
-- finds: 0 lossy-structure ask
ALTER TABLE owner ALTER COLUMN left_on TYPE boolean USING left_on IS NOT NULL;
