-- hazards: rewrite-all every-row
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: REPLACE without a filter [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 rewrite-all ask
UPDATE berth SET note = REPLACE(note, 'kay', 'quay');
-- case: with a filter that looks for it [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = REPLACE(note, 'kay', 'quay') WHERE note LIKE '%kay%';
-- case: beside something that every row gets [postgresql mysql sqlite tsql]
-- finds: 0 every-row stop
UPDATE berth SET note = REPLACE(note, 'kay', 'quay'), status = 'open';
-- case: with a stamp beside it [postgresql mysql sqlite tsql]
-- finds: 0 rewrite-all ask
UPDATE owner SET name = TRIM(name), left_on = CURRENT_TIMESTAMP;
-- case: what is empty is filled in, and every row is written [postgresql mysql mariadb sqlite plsql]
-- finds: 0 rewrite-all note
UPDATE owner SET phone = COALESCE(phone, 'none');
-- case: by CASE [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 rewrite-all note
UPDATE owner SET phone = CASE WHEN phone IS NULL THEN 'none' ELSE phone END;
-- case: by the desktop's function [jet]
-- finds: 0 rewrite-all note
UPDATE owner SET phone = Nz(phone, 'none');
-- case: another column goes first [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 every-row stop
UPDATE owner SET phone = COALESCE(mobile, phone);
-- case: only what is empty is written [postgresql mysql mariadb sqlite tsql plsql]
UPDATE owner SET phone = COALESCE(phone, 'none') WHERE phone IS NULL;
