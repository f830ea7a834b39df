-- Written in a hurry; somebody else should read it.
DELETE FROM pilotage WHERE pilot_id IN (SELECT pilot_id FROM pilot WHERE active = 0);

DELETE FROM owner
WHERE EXISTS (SELECT 1 FROM vessel WHERE class = 'barge');

UPDATE owner SET left_on = current_date WHERE owner_id IS NOT NULL AND owner_id = owner_id;

TRUNCATE mooring_log;

DELETE FORM pilot WHERE pilot_id = 6;
