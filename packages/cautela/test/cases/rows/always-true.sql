-- hazards: hollow-filter dead-filter bare-condition every-row
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, phone varchar(20), note varchar(20), status varchar(10) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, class varchar(10) NOT NULL, phone varchar(20), FOREIGN KEY (owner_id) REFERENCES owner (owner_id));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL, from_day date NOT NULL, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id));
CREATE TABLE tariff (class varchar(10) NOT NULL, valid_from date NOT NULL, per_night numeric(8,2) NOT NULL, PRIMARY KEY (class, valid_from));
CREATE TABLE tariff_notice (class varchar(10) NOT NULL, new_rate numeric(8,2));
CREATE TABLE bill (mooring_id integer NOT NULL, fee numeric(8,2) NOT NULL);
-- case: COALESCE is never NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 hollow-filter stop
UPDATE owner SET phone = '1' WHERE COALESCE(phone, 'none') IS NOT NULL;
-- case: nor is it ever NULL [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 dead-filter ask
UPDATE owner SET phone = '1' WHERE COALESCE(phone, status) IS NULL;
-- case: COALESCE of two columns that may be NULL [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET phone = '1' WHERE COALESCE(phone, note) IS NOT NULL;
-- case: EXISTS that compares the outer column with itself [postgresql sqlite]
-- finds: 0 hollow-filter stop
UPDATE mooring AS m SET fee = 0 WHERE EXISTS (SELECT 1 FROM vessel v WHERE m.vessel_id = m.vessel_id AND v.class = 'sail');
-- case: EXISTS that asks of the outer row alone [postgresql sqlite]
UPDATE mooring AS m SET fee = 0 WHERE EXISTS (SELECT 1 FROM vessel v WHERE m.status = 'left' AND v.class = 'sail');
-- case: EXISTS that is tied in its join [postgresql sqlite]
UPDATE mooring AS m SET fee = 0 WHERE EXISTS (SELECT 1 FROM vessel v JOIN owner o ON o.owner_id = v.owner_id AND v.vessel_id = m.vessel_id WHERE m.status = 'left');
-- case: a text as a condition [mysql mariadb sqlite]
-- finds: 0 bare-condition ask
DELETE FROM mooring WHERE status;
-- case: all of a hundred [tsql]
-- finds: 0 every-row stop
UPDATE TOP (100) PERCENT mooring SET fee = 0;
-- case: a function of a column compared with itself [postgresql mysql mariadb sqlite plsql]
-- finds: 0 hollow-filter stop
UPDATE owner SET phone = '1' WHERE LOWER(status) = LOWER(status);
-- case: and found to differ [postgresql mysql mariadb sqlite plsql]
-- finds: 0 dead-filter ask
UPDATE owner SET phone = '1' WHERE LOWER(status) <> LOWER(status);
-- case: compared with that of another column [postgresql mysql mariadb sqlite plsql]
UPDATE owner SET phone = '1' WHERE LOWER(status) = LOWER(note);
-- case: of every text, by the wildcard of the desktop [jet]
-- finds: 0 hollow-filter stop
DELETE FROM mooring WHERE status Like '*';
-- case: a text that just fits, and the wildcard [jet]
DELETE FROM mooring WHERE status Like 'ABCDEFGHIJ*';
-- case: a longer one [jet]
-- finds: 0 dead-filter ask
DELETE FROM mooring WHERE status Like 'ABCDEFGHIJK*';
-- case: the keys of the parent, all of them [postgresql mysql mariadb tsql plsql jet]
-- finds: 0 hollow-filter stop
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM vessel);
-- case: some of them [postgresql mysql mariadb tsql plsql jet]
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM vessel WHERE class = 'sail');
-- case: all of them, where nothing keeps the key [sqlite]
DELETE FROM mooring WHERE vessel_id IN (SELECT vessel_id FROM vessel);
-- case: they are asked for what is read of them [postgresql mysql mariadb plsql]
UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE owner_id IN (SELECT owner_id FROM owner);
-- case: all rows of its own table, by an outer join [postgresql plsql tsql sqlite]
-- finds: 0 hollow-filter stop
DELETE FROM mooring WHERE mooring_id IN (SELECT m.mooring_id FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail');
-- case: those without a match [postgresql plsql tsql sqlite]
DELETE FROM mooring WHERE mooring_id IN (SELECT m.mooring_id FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.vessel_id IS NULL);
-- case: COPY writes out what it deletes [postgresql]
-- finds: 0 every-row stop
COPY (DELETE FROM bill RETURNING *) TO STDOUT;
-- case: COPY of a query [postgresql]
COPY (SELECT mooring_id FROM bill) TO STDOUT;
