-- A table rebuilt under its old name: the new one is filled before the swap.
BEGIN;
CREATE TABLE tariff_new (class TEXT NOT NULL PRIMARY KEY, per_night NUMERIC NOT NULL, valid_from TEXT NOT NULL);
INSERT INTO tariff_new SELECT class, per_night, valid_from FROM tariff;
UPDATE tariff_new SET per_night = round(per_night, 1);
DROP TABLE tariff;
ALTER TABLE tariff_new RENAME TO tariff;
COMMIT;
