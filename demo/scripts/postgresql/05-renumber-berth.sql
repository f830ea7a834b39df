-- Berth 7 becomes berth 107 when the new quay opens.
UPDATE berth SET berth_id = 107, code = 'N107' WHERE berth_id = 7;

-- No vessel without a call sign may be left over.
UPDATE vessel
SET call_sign = 'unknown'
WHERE call_sign = NULL;
