-- hazards: backup-clash no-way-back thin-backup dead-filter unknown-name null-into-required count-mismatch
-- tables
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);
-- case: a copy that was rolled back is not there [postgresql sqlite]
BEGIN;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
ROLLBACK;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
-- case: and it keeps nothing [postgresql sqlite]
-- finds: 3 no-way-back note
BEGIN;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
ROLLBACK;
DELETE FROM mooring WHERE status = 'left';
-- case: a copy that stays [postgresql sqlite]
-- finds: 3 backup-clash stop
BEGIN;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
COMMIT;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
-- case: back to a savepoint [postgresql sqlite]
-- finds: 5 backup-clash stop
BEGIN;
CREATE TABLE one_before AS SELECT * FROM mooring;
SAVEPOINT a;
CREATE TABLE two_before AS SELECT * FROM mooring;
ROLLBACK TO SAVEPOINT a;
CREATE TABLE one_before AS SELECT * FROM mooring;
CREATE TABLE two_before AS SELECT * FROM mooring;
COMMIT;
-- case: DDL has committed what it made [mysql mariadb]
-- finds: 3 backup-clash stop
START TRANSACTION;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
ROLLBACK;
CREATE TABLE mooring_before AS SELECT * FROM mooring;
-- case: a statement that is refused keeps and destroys nothing [postgresql mysql mariadb sqlite]
-- finds: 0 count-mismatch stop
-- finds: 1 no-way-back note
INSERT INTO mooring (mooring_id, status) VALUES (1);
DELETE FROM mooring WHERE status = 'left';
