-- hazards: and-in-set self-assign double-assign swapped-columns lookalike-column missing-else case-gap blanks-value overwrites-filled drifts-on-rerun key-rewrite null-into-required constant-into-unique outside-list read-only-column may-not-fit loose-insert count-mismatch crossed-columns missing-required dangling-reference
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(20) UNIQUE, phone varchar(20), old_phone varchar(20), left_on date);
CREATE TABLE request (owner_id integer NOT NULL PRIMARY KEY, name varchar(60), phone varchar(20), mobile varchar(20), from_day date, to_day date);
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), status varchar(20) NOT NULL CHECK (status IN ('planned', 'lying', 'left')), fee numeric(6,2) NOT NULL, from_day date, to_day date, raised integer);
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(60));
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, quay_id integer NOT NULL REFERENCES quay (quay_id), next_id integer REFERENCES berth (berth_id));
CREATE TABLE booking (booking_id integer NOT NULL PRIMARY KEY, berth_id integer NOT NULL REFERENCES berth (berth_id));
CREATE TABLE berth_copy (berth integer NOT NULL PRIMARY KEY, quay integer);
-- case: a word where a number stands [postgresql mysql mariadb tsql plsql jet]
-- finds: 0 may-not-fit stop
-- finds: 1 may-not-fit stop
-- finds: 2 may-not-fit stop
UPDATE mooring SET fee = 'free' WHERE mooring_id = 3;
UPDATE owner SET left_on = 'never' WHERE owner_id = 3;
INSERT INTO quay (quay_id, name) VALUES ('north', 'North quay');
-- case: a number written as a text, a number for a text, a date [postgresql mysql mariadb tsql plsql jet sqlite]
UPDATE mooring SET fee = '12.50', raised = '3' WHERE mooring_id = 3;
UPDATE owner SET phone = 441, left_on = '2025-04-03' WHERE owner_id = 3;
-- case: nothing where a number stands [postgresql mysql mariadb]
-- finds: 0 may-not-fit stop
UPDATE mooring SET fee = '' WHERE mooring_id = 3;
-- case: nothing is zero here, and a word stays a word [tsql sqlite]
UPDATE mooring SET fee = '' WHERE mooring_id = 3;
-- case: what has a spelling of its own [postgresql]
CREATE TABLE toll (toll_id integer PRIMARY KEY, price money, flags bit(3), more bit varying(9), ratio double precision, open boolean, taken time);
UPDATE toll SET price = '$1,250.50', flags = '101', more = '1' WHERE toll_id = 3;
UPDATE toll SET ratio = 'NaN', open = 'off', taken = 'now' WHERE toll_id = 4;
-- case: a word in a column of numbers is kept [sqlite]
UPDATE mooring SET fee = 'free' WHERE mooring_id = 3;
-- case: a number for a date, true for a number [postgresql]
-- finds: 0 may-not-fit stop
UPDATE owner SET left_on = 20250403 WHERE owner_id = 3;
-- case: a number that the list does not hold [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 outside-list stop
UPDATE mooring SET status = 5 WHERE mooring_id = 3;
-- case: DEFAULT without a default [postgresql mysql mariadb tsql plsql]
-- finds: 0 null-into-required stop
-- finds: 1 null-into-required stop
UPDATE owner SET name = DEFAULT WHERE owner_id = 3;
INSERT INTO owner (owner_id, name, phone) VALUES (7, DEFAULT, DEFAULT);
-- case: AND for a comma [mysql mariadb sqlite postgresql]
-- finds: 0 and-in-set stop
UPDATE owner SET phone = '1' AND old_phone = '2' WHERE owner_id = 3;
-- case: a condition in parentheses as a value [mysql sqlite]
UPDATE mooring SET raised = (fee > 1 AND fee < 2) WHERE mooring_id = 3;
-- case: a column set to itself [postgresql mysql sqlite tsql]
-- finds: 0 self-assign ask
UPDATE owner SET name = name WHERE owner_id = 3;
-- case: a column set twice [mysql sqlite]
-- finds: 0 double-assign stop
UPDATE owner SET phone = '1', phone = '2' WHERE owner_id = 3;
-- case: copied crosswise [postgresql]
-- finds: 0 swapped-columns ask
UPDATE mooring AS m SET from_day = r.to_day, to_day = r.from_day FROM request r WHERE r.owner_id = m.mooring_id;
-- case: exchanged in one table [mysql mariadb]
-- finds: 0 swapped-columns stop
UPDATE mooring SET from_day = to_day, to_day = from_day WHERE mooring_id = 3;
-- case: exchanged in one table, all at once [postgresql sqlite tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE mooring SET from_day = to_day, to_day = from_day WHERE mooring_id = 3;
-- case: the neighbour of the column [postgresql]
-- finds: 0 lookalike-column ask
UPDATE owner AS o SET phone = r.mobile FROM request r WHERE r.owner_id = o.owner_id;
-- case: the column of the same name [postgresql]
UPDATE owner AS o SET phone = r.phone FROM request r WHERE r.owner_id = o.owner_id;
-- case: no ELSE [postgresql mysql sqlite tsql plsql]
-- finds: 0 missing-else stop
UPDATE mooring SET fee = CASE status WHEN 'planned' THEN 1 WHEN 'lying' THEN 2 END WHERE mooring_id > 3;
-- case: no ELSE, but the filter admits what the WHEN branches cover [postgresql mysql sqlite tsql]
UPDATE mooring SET fee = CASE status WHEN 'planned' THEN 1 WHEN 'lying' THEN 2 END WHERE status IN ('planned', 'lying');
-- case: with ELSE, or caught [postgresql mysql sqlite]
UPDATE mooring SET fee = CASE WHEN status = 'planned' THEN 1 ELSE fee END WHERE mooring_id > 3;
UPDATE mooring SET fee = COALESCE(CASE WHEN status = 'planned' THEN 1 END, 5) WHERE mooring_id > 3;
-- case: DECODE without a default [plsql]
-- finds: 0 missing-else stop
UPDATE mooring SET fee = DECODE(status, 'planned', 1, 'lying', 2) WHERE mooring_id > 3;
-- case: WHEN branches and filter differ [postgresql mysql sqlite]
-- finds: 0 missing-else stop
UPDATE mooring SET fee = CASE status WHEN 'planned' THEN 1 END WHERE status IN ('planned', 'lying');
-- case: REPLACE by NULL [postgresql mysql sqlite tsql]
-- finds: 0 blanks-value stop
UPDATE owner SET phone = REPLACE(phone, '0', NULL) WHERE owner_id = 3;
-- case: concatenated with NULL [postgresql sqlite]
-- finds: 0 blanks-value stop
UPDATE owner SET phone = phone || NULL WHERE owner_id = 3;
-- case: concatenated with NULL, which Oracle leaves out [plsql]
UPDATE owner SET phone = phone || NULL WHERE owner_id = 3;
-- case: a stand-in for what is missing [postgresql mysql tsql]
-- finds: 0 overwrites-filled ask
UPDATE owner SET phone = 'unknown' WHERE left_on IS NULL;
-- case: only where it is missing [postgresql mysql tsql]
UPDATE owner SET phone = 'unknown' WHERE phone IS NULL;
-- case: a raise [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned';
-- case: a raise in another spelling [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE mooring SET fee = round(fee + fee * 0.05, 2) WHERE status = 'planned';
-- case: a raise that marks its rows [postgresql mysql sqlite tsql]
-- finds: 0 drifts-on-rerun note
UPDATE mooring SET fee = fee * 1.05, raised = 1 WHERE raised IS NULL;
-- case: a value from another table [postgresql]
UPDATE mooring AS m SET fee = 10 + r.owner_id FROM request r WHERE r.owner_id = m.owner_id;
-- case: a batch that runs five times [tsql]
-- finds: 0 drifts-on-rerun stop
UPDATE mooring SET fee = fee * 1.05 WHERE status = 'planned'
GO 5
-- case: a key [postgresql mysql sqlite tsql]
-- finds: 0 key-rewrite ask
UPDATE owner SET owner_id = 107 WHERE owner_id = 7;
-- case: NULL for a required column [postgresql mysql sqlite tsql plsql]
-- finds: 0 null-into-required stop
-- finds: 1 null-into-required stop
UPDATE owner SET name = NULL WHERE owner_id = 3;
INSERT INTO owner (owner_id, name) VALUES (3, NULL);
-- case: one value for a unique column [postgresql mysql sqlite tsql]
-- finds: 0 constant-into-unique stop
UPDATE owner SET mail = 'a@quay.example' WHERE left_on IS NOT NULL;
-- case: one value for one row [postgresql mysql sqlite tsql]
UPDATE owner SET mail = 'a@quay.example' WHERE owner_id = 3;
-- case: a value that a CHECK refuses [postgresql mysql sqlite tsql plsql]
-- finds: 0 outside-list stop
-- finds: 1 outside-list stop
UPDATE mooring SET status = 'gone' WHERE mooring_id = 3;
INSERT INTO mooring (mooring_id, owner_id, status, fee) VALUES (1, 2, 'gone', 3);
-- case: a value that it allows [postgresql mysql sqlite tsql plsql]
UPDATE mooring SET status = 'left' WHERE mooring_id = 3;
-- case: too long, too large [postgresql tsql plsql mysql]
-- finds: 0 may-not-fit stop
-- finds: 1 may-not-fit stop
UPDATE owner SET phone = '0123456789012345678901' WHERE owner_id = 3;
UPDATE mooring SET fee = 12345.5 WHERE mooring_id = 3;
-- case: any length goes [sqlite]
UPDATE owner SET phone = '0123456789012345678901' WHERE owner_id = 3;
-- case: a division of whole numbers [postgresql sqlite tsql]
-- finds: 0 may-not-fit stop
UPDATE mooring SET fee = 100 * (105 / 100) WHERE mooring_id = 3;
-- case: a division with a point, or of another kind [postgresql mysql]
UPDATE mooring SET fee = 100 * (105.0 / 100) WHERE mooring_id = 3;
-- case: by position [postgresql mysql sqlite tsql]
-- finds: 0 loose-insert note
INSERT INTO request SELECT owner_id, name, phone, old_phone, left_on, left_on FROM owner WHERE owner_id = 3;
-- case: miscounted [postgresql mysql sqlite tsql plsql]
-- finds: 0 count-mismatch stop
INSERT INTO owner (owner_id, name, phone) VALUES (3, 'x');
-- case: in another order [postgresql mysql sqlite tsql]
-- finds: 0 crossed-columns stop
INSERT INTO mooring (mooring_id, owner_id, status, fee, from_day, to_day) SELECT owner_id + 100, owner_id, 'left', 2, to_day, from_day FROM request;
-- case: a required column without a value [postgresql mysql sqlite tsql plsql]
-- finds: 0 missing-required stop
INSERT INTO owner (owner_id, phone) VALUES (3, '1');
-- case: the row that is referred to comes later [postgresql mysql mariadb tsql plsql jet]
-- finds: 0 dangling-reference stop
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
INSERT INTO berth (berth_id, quay_id) VALUES (77, 3);
-- case: an assignment refers to a row that comes later [postgresql mysql tsql]
-- finds: 0 dangling-reference stop
UPDATE booking SET berth_id = 77 WHERE booking_id = 1;
INSERT INTO berth (quay_id, berth_id) VALUES (3, 77);
-- case: the order is right, or the row may be there already [postgresql]
INSERT INTO berth (berth_id, quay_id) VALUES (77, 3);
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
INSERT INTO booking (booking_id, berth_id) VALUES (2, 78);
INSERT INTO berth (berth_id, quay_id) VALUES (78, 3) ON CONFLICT DO NOTHING;
-- case: rows of one statement that refer to each other [postgresql]
INSERT INTO berth (berth_id, quay_id, next_id) VALUES (77, 3, 78), (78, 3, NULL);
-- case: sqlite only checks when it is asked to [sqlite]
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
INSERT INTO berth (berth_id, quay_id) VALUES (77, 3);
-- case: sqlite is asked to check [sqlite]
-- finds: 1 dangling-reference stop
PRAGMA foreign_keys = ON;
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
INSERT INTO berth (berth_id, quay_id) VALUES (77, 3);
-- case: checks are off for the load [mysql mariadb]
SET foreign_key_checks = 0;
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
INSERT INTO berth (berth_id, quay_id) VALUES (77, 3);
SET foreign_key_checks = 1;
-- case: the row has been deleted [postgresql mysql mariadb tsql plsql]
-- finds: 1 dangling-reference stop
DELETE FROM berth WHERE berth_id IN (76, 77);
UPDATE booking SET berth_id = 77 WHERE booking_id = 1;
-- case: the row has been deleted, and nobody checks [sqlite]
-- finds: 1 dangling-reference ask
DELETE FROM berth WHERE berth_id = 77;
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
-- case: the row is brought back, or another one is meant, or the deletion is taken back [postgresql mysql sqlite]
DELETE FROM berth WHERE berth_id = 77;
INSERT INTO berth (berth_id, quay_id) VALUES (77, 4);
INSERT INTO booking (booking_id, berth_id) VALUES (1, 77);
DELETE FROM berth WHERE berth_id = 80;
INSERT INTO booking (booking_id, berth_id) VALUES (2, 81);
BEGIN;
DELETE FROM berth WHERE berth_id = 90;
ROLLBACK;
INSERT INTO booking (booking_id, berth_id) VALUES (3, 90);
-- case: the key of another table [postgresql sqlite]
-- finds: 0 dangling-reference ask
UPDATE booking AS b SET berth_id = q.quay_id FROM quay q WHERE q.quay_id = b.booking_id;
-- case: the key of another table, next to the column that is meant [postgresql sqlite]
-- finds: 0 lookalike-column ask
UPDATE booking AS b SET berth_id = h.quay_id FROM berth h WHERE h.berth_id = b.booking_id;
-- case: the key of another table, inserted by a query [postgresql mysql sqlite tsql plsql]
-- finds: 0 dangling-reference ask
INSERT INTO booking (booking_id, berth_id) SELECT 5, q.quay_id FROM quay q WHERE q.name = 'North';
-- case: the right key under other names, and the key of a copy [postgresql mysql sqlite tsql plsql]
INSERT INTO booking (booking_id, berth_id) SELECT 5, h.next_id FROM berth h WHERE h.quay_id = 4 AND h.next_id IS NOT NULL;
INSERT INTO booking (booking_id, berth_id) SELECT 6, c.berth FROM berth_copy c WHERE c.quay = 4;
