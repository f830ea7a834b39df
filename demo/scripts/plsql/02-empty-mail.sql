-- Owners without a mail address are to be written to on paper.
UPDATE owner SET private_note = 'on paper' WHERE mail IS NULL OR mail IS NOT NULL;
