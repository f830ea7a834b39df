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
