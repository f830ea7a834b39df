UPDATE mooring INNER JOIN berth ON mooring.berth_id = berth.berth_id
SET mooring.status = "cancelled"
WHERE berth.status = "repair" AND mooring.from_day > #2025-06-30#;

DELETE * FROM tide_reading;
