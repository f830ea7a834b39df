-- hazards: runs-on-after-error
-- tables
CREATE TABLE Mooring (MooringId int NOT NULL PRIMARY KEY, Fee int NOT NULL);
-- case: a transaction over several batches [tsql]
-- finds: 1 runs-on-after-error note
SET XACT_ABORT ON;
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
GO
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
GO
COMMIT;
-- case: without a word about errors [tsql]
-- finds: 0 runs-on-after-error note
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
GO
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
COMMIT;
-- case: in one batch [tsql]
SET XACT_ABORT ON;
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
COMMIT;
GO
-- case: it looks for errors in between [tsql]
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
GO
IF @@ERROR <> 0 SET NOEXEC ON;
GO
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
COMMIT;
-- case: the client stops [tsql]
:on error exit
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
GO
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
COMMIT;
-- case: it is rolled back in the end [tsql]
BEGIN TRANSACTION;
UPDATE Mooring SET Fee = 1 WHERE MooringId = 3;
GO
UPDATE Mooring SET Fee = 2 WHERE MooringId = 4;
ROLLBACK;
