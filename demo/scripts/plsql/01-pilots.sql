SET ECHO ON
PROMPT Pilots who are no longer active

UPDATE pilot SET active = 0 WHERE licence = 'PL-203';

DELETE pilotage p
WHERE NOT EXISTS (SELECT 1 FROM pilot q WHERE q.pilot_id = p.pilot_id);

-- The TRUNCATE commits by itself.
TRUNCATE TABLE mooring_log;

COMMIT;
