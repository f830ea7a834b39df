-- Owners who left long ago.
DELETE FROM owner WHERE owner_id IN (38, 39, 40) AND left_on IS NOT NULL;

-- The pattern matches every name.
UPDATE owner SET private_note = NULL WHERE name LIKE '%';
