-- The Petrel goes from Alma Ankerhold to a new owner.
BEGIN;

INSERT INTO owner (name, mail) VALUES ('Yrsa Greyhaven', 'yrsa@harbour.example');

UPDATE vessel
SET owner_id = (SELECT owner_id FROM owner WHERE mail = 'yrsa@harbour.example')
WHERE vessel_id = 16;

COMMIT;
