-- Old entries of the audit trail go; a copy is kept.
CREATE TABLE mooring_log_2025 AS SELECT * FROM mooring_log;
DELETE FROM mooring_log;

-- And the tide gauge.
DELETE FROM tide_reading WHERE 1;
