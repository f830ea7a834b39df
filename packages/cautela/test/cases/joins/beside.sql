-- hazards: wrong-target open-join fan-out undone-outer
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, phone varchar(20), status varchar(10) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, class varchar(10) NOT NULL, phone varchar(20), FOREIGN KEY (owner_id) REFERENCES owner (owner_id));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL, from_day date NOT NULL, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL, FOREIGN KEY (vessel_id) REFERENCES vessel (vessel_id));
CREATE TABLE tariff (class varchar(10) NOT NULL, valid_from date NOT NULL, per_night numeric(8,2) NOT NULL, PRIMARY KEY (class, valid_from));
CREATE TABLE tariff_notice (class varchar(10) NOT NULL, new_rate numeric(8,2));
CREATE TABLE bill (mooring_id integer NOT NULL, fee numeric(8,2) NOT NULL);
-- case: the table before FROM is none of those in it [mysql mariadb tsql]
-- finds: 0 wrong-target stop
DELETE mooring FROM vessel v WHERE v.class = 'sail';
-- case: it is one of them, by its alias or by its name [mysql mariadb tsql]
DELETE m FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail';
DELETE mooring FROM mooring JOIN vessel v ON v.vessel_id = mooring.vessel_id WHERE v.class = 'sail';
-- case: in the dialect of the stars [jet]
-- finds: 0 wrong-target stop
DELETE mooring.* FROM vessel WHERE vessel.class = 'sail';
-- case: MERGE ties its source to nothing [postgresql plsql tsql]
-- finds: 0 open-join stop
MERGE INTO tariff t USING tariff_notice n ON (1 = 1) WHEN MATCHED THEN UPDATE SET per_night = 0;
-- case: MERGE compares its target with itself [postgresql plsql tsql]
-- finds: 0 open-join stop
MERGE INTO tariff t USING tariff_notice n ON (t.class = t.class) WHEN MATCHED THEN UPDATE SET per_night = 0;
-- case: MERGE that only brings in [tsql]
MERGE INTO tariff AS t USING tariff_notice AS n ON 1 = 0 WHEN NOT MATCHED THEN INSERT (class, valid_from, per_night) VALUES (n.class, '2025-01-01', n.new_rate);
-- case: MERGE with one row [plsql]
MERGE INTO tariff t USING dual ON (t.class = 'a') WHEN MATCHED THEN UPDATE SET per_night = 3;
-- case: a row comes in once for each rate before it [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 fan-out ask
INSERT INTO bill (mooring_id, fee) SELECT m.mooring_id, m.fee FROM mooring m JOIN tariff t ON t.valid_from <= m.from_day;
-- case: the rate goes into the row [postgresql mysql mariadb sqlite tsql plsql]
INSERT INTO bill (mooring_id, fee) SELECT m.mooring_id, t.per_night FROM mooring m JOIN tariff t ON t.valid_from <= m.from_day;
-- case: a filter with OR undoes the outer join [mysql mariadb tsql]
-- finds: 0 undone-outer note
DELETE m FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail' OR v.class = 'motor';
-- case: one side of the OR asks for rows without a match [mysql mariadb tsql]
DELETE m FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail' OR v.vessel_id IS NULL;
