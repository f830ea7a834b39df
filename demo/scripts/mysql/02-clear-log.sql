-- Old entries of the audit trail; "0" is a string here, and a string that is a number.
CREATE TABLE mooring_log_2025 AS SELECT * FROM mooring_log;
DELETE FROM mooring_log;

DELETE FROM tide_reading WHERE 1;
