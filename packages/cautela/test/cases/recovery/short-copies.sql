-- hazards: unproven-move thin-backup backup-clash
-- no catalog
-- case: what a join leaves out, only the data can tell [postgresql mysql mariadb sqlite]
-- finds: 1 unproven-move ask
INSERT INTO order_archive SELECT o.* FROM orders o INNER JOIN order_line l ON l.order_id = o.order_id WHERE o.closed = 1;
DELETE FROM orders WHERE closed = 1;
-- case: a copy of the same rows without the column [postgresql mysql mariadb sqlite]
-- finds: 0 thin-backup ask
CREATE TABLE loaf_backup AS SELECT id, name FROM loaf WHERE id > 3;
UPDATE loaf SET price = 3 WHERE id > 3;
-- case: a name that may be taken [postgresql mysql mariadb sqlite]
-- finds: 0 backup-clash note
CREATE TABLE IF NOT EXISTS loaf_backup AS SELECT * FROM loaf;
CREATE TABLE IF NOT EXISTS loaf_backup_20261202 AS SELECT * FROM loaf;
-- case: a value that goes into a variable is no copy [plsql]
UPDATE mooring m SET m.fee = 4, m.status = 'x' WHERE m.mooring_id > 3 RETURNING m.mooring_id INTO :out;
