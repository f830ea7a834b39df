-- hazards: runs-on-after-error
-- no catalog
-- case: it rolls back and goes on [tsql]
-- finds: 2 runs-on-after-error ask
BEGIN TRAN
UPDATE Employee SET Salary = 4 WHERE DepartmentId = 7
IF @@ERROR <> 0 ROLLBACK TRANSACTION
UPDATE Department SET Budget = 3 WHERE DepartmentId = 7
COMMIT
-- case: it leaves, one way or another [tsql]
BEGIN TRAN
UPDATE Employee SET Salary = 4 WHERE DepartmentId = 7;
IF @@ERROR <> 0 BEGIN ROLLBACK TRANSACTION; RETURN END
UPDATE Department SET Budget = 3 WHERE DepartmentId = 7;
IF @@ROWCOUNT <> 1 BEGIN ROLLBACK TRANSACTION; RAISERROR('x', 16, 1); GOTO done END
UPDATE Office SET Budget = 3 WHERE DepartmentId = 7;
COMMIT
-- case: either it is committed or not [tsql]
BEGIN TRAN
UPDATE Employee SET Salary = 4 WHERE DepartmentId = 7;
IF @@ERROR <> 0 ROLLBACK ELSE COMMIT
UPDATE Department SET Budget = 3 WHERE DepartmentId = 7;
-- case: it tells, and does not leave [tsql]
-- finds: 2 runs-on-after-error ask
DECLARE @n int;
SELECT @n = COUNT(*) FROM Invoice WHERE PaidOn IS NULL;
IF @n > 1000 RAISERROR('too many', 16, 1);
UPDATE Invoice SET Status = 'dunned' WHERE PaidOn IS NULL;
-- case: it leaves after that, or by THROW [tsql]
IF (SELECT COUNT(*) FROM Invoice) > 1000 BEGIN RAISERROR('too many', 16, 1); RETURN END
IF (SELECT COUNT(*) FROM Letter) > 1000 THROW 50000, 'too many', 1;
UPDATE Invoice SET Status = 'dunned' WHERE PaidOn IS NULL;
-- case: it is caught [tsql]
BEGIN TRY
IF EXISTS (SELECT 1 FROM Invoice WHERE PaidOn IS NULL) RAISERROR('too many', 16, 1);
UPDATE Invoice SET Status = 'dunned' WHERE PaidOn IS NULL;
END TRY
BEGIN CATCH
PRINT ERROR_MESSAGE();
END CATCH
