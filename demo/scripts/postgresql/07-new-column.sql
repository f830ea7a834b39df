-- Moorings get a currency. Filling the new column is no danger.
BEGIN;
ALTER TABLE mooring ADD COLUMN currency char(3);
UPDATE mooring SET currency = 'EUR';
ALTER TABLE mooring ALTER COLUMN currency SET NOT NULL;
COMMIT;
