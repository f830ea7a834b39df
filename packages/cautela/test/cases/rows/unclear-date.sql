-- hazards: unclear-date
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: day or month first [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 unclear-date ask
UPDATE mooring SET status = 'left' WHERE to_day < '03/04/2025';
-- case: only one way to read it [postgresql mysql mariadb sqlite tsql]
UPDATE mooring SET status = 'left' WHERE to_day < '2025-04-03';
-- case: a date without quotes [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 unclear-date stop
-- finds: 1 unclear-date stop
DELETE FROM mooring WHERE to_day < 2024-06-09;
UPDATE mooring SET to_day = 6/9/2024 WHERE mooring_id = 3;
-- case: a subtraction [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET fee = 2024 - 6 - 9 WHERE mooring_id = 3;
UPDATE mooring SET fee = 12/6/2 WHERE mooring_id = 3;
-- case: no date of MySQL, before all dates [mysql mariadb]
-- finds: 0 unclear-date ask
DELETE FROM mooring WHERE to_day < '31.12.2024';
-- case: and so every date comes after it [mysql mariadb]
-- finds: 0 unclear-date stop
-- finds: 1 unclear-date stop
-- finds: 2 unclear-date stop
DELETE FROM mooring WHERE to_day > '31.12.2024';
DELETE FROM mooring WHERE '01.01.2024' <= to_day;
DELETE FROM mooring WHERE to_day NOT BETWEEN '01.01.2024' AND '31.12.2024';
-- case: written, it is refused [mysql mariadb]
-- finds: 0 unclear-date stop
-- finds: 1 unclear-date stop
UPDATE mooring SET to_day = '31.12.2024' WHERE mooring_id = 3;
INSERT INTO mooring_old (mooring_id, owner_id, berth_id, from_day, fee, status) VALUES (1, 2, 3, '12/31/2024', 4, 'left');
-- case: a text of SQLite [sqlite]
-- finds: 0 unclear-date ask
-- finds: 1 unclear-date ask
DELETE FROM mooring WHERE to_day > '31.12.2024';
UPDATE mooring SET to_day = '31.12.2024' WHERE mooring_id = 3;
-- case: the day first, where the session says so, or none [tsql plsql]
DELETE FROM mooring WHERE to_day > '31.12.2024';
-- case: the same in a text [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = '31.12.2024' WHERE berth_id = 3;
-- case: two digits of a year, with dots, in a date [tsql plsql]
-- finds: 0 unclear-date ask
UPDATE mooring SET to_day = '01.12.26' WHERE mooring_id = 3;
-- case: the same in a text column is a number [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET note = '01.12.26' WHERE berth_id = 3;
-- case: the same mistake in several rows is one [mysql mariadb]
-- finds: 0 unclear-date stop
INSERT INTO mooring_old (mooring_id, owner_id, berth_id, from_day, fee, status) VALUES (1, 2, 3, '31.12.2024', 4, 'left'), (2, 2, 3, '03/04/2024', 4, 'left');
-- case: a text for a date, read by the session [plsql]
-- finds: 0 unclear-date note
UPDATE mooring SET status = 'left' WHERE to_day < '01-FEB-26';
-- case: a date of its own [plsql]
UPDATE mooring SET status = 'left' WHERE to_day < DATE '2025-04-03';
UPDATE mooring SET status = 'left' WHERE to_day < TO_DATE('03.04.2025', 'DD.MM.YYYY');
-- case: the session has said how [plsql]
ALTER SESSION SET NLS_DATE_FORMAT = 'YYYY-MM-DD';
UPDATE mooring SET status = 'left' WHERE to_day < '2025-04-03';
