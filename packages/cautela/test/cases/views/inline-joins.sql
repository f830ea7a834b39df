-- hazards: sealed-view
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, phone varchar(20), status varchar(10) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, class varchar(10) NOT NULL, phone varchar(20), FOREIGN KEY (owner_id) REFERENCES owner (owner_id));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL, from_day date NOT NULL, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id));
CREATE TABLE tariff (class varchar(10) NOT NULL, valid_from date NOT NULL, per_night numeric(8,2) NOT NULL, PRIMARY KEY (class, valid_from));
CREATE TABLE tariff_notice (class varchar(10) NOT NULL, new_rate numeric(8,2));
CREATE TABLE bill (mooring_id integer NOT NULL, fee numeric(8,2) NOT NULL);
-- case: the other side of an inline join [plsql]
-- finds: 0 sealed-view stop
UPDATE (SELECT v.phone AS p, m.status AS s FROM vessel v JOIN mooring m ON m.vessel_id = v.vessel_id) SET p = '1';
-- case: the side whose rows stand once [plsql]
UPDATE (SELECT v.phone AS p, m.status AS s FROM vessel v JOIN mooring m ON m.vessel_id = v.vessel_id) SET s = 'x';
