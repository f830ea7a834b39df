-- The batch separator cuts the WHERE off.
DELETE pilotage
GO
WHERE pilot_id = 6
GO
