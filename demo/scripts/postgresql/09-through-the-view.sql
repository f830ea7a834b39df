-- The outer berths of the north quay get the numbers of the new plan.
UPDATE open_berth
SET berth_id = berth_id + 200
WHERE quay = 'north' AND length_m > 30;

-- Berth 12 is no longer on the list.
UPDATE open_berth
SET code = 'N12 (old)'
WHERE berth_id = 12;
