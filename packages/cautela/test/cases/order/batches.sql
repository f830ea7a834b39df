-- hazards: half-guarded unknown-name stale-count unordered-limit
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, kind integer NOT NULL, baked date);
CREATE TABLE crumb (crumb_id integer NOT NULL PRIMARY KEY, loaf_id integer NOT NULL);
-- case: IF guards one of two [tsql]
-- finds: 1 half-guarded ask
DECLARE @sold int = 1
IF @sold = 1
    DELETE FROM crumb WHERE loaf_id = 3
    DELETE FROM loaf WHERE loaf_id = 3
-- case: IF guards both [tsql]
DECLARE @sold int = 1
IF @sold = 1
BEGIN
    DELETE FROM crumb WHERE loaf_id = 3
    DELETE FROM loaf WHERE loaf_id = 3
END
-- case: IF guards one, and says so [tsql]
DECLARE @sold int = 1
IF @sold = 1
    DELETE FROM crumb WHERE loaf_id = 3
DELETE FROM loaf WHERE loaf_id = 3
-- case: a variable after its batch [tsql]
-- finds: 2 unknown-name stop
DECLARE @kind int = 3, @id int = 4
DELETE FROM crumb WHERE loaf_id = @id
GO
DELETE FROM loaf WHERE loaf_id = @id
GO
-- case: a variable that is declared again [tsql]
DECLARE @id int = 4
DELETE FROM crumb WHERE loaf_id = @id
GO
DECLARE @id int = 4
DELETE FROM loaf WHERE loaf_id = @id
-- case: a variable in the loop that ends its batch [tsql]
DECLARE @left int = 1
WHILE @left > 0
BEGIN
    DELETE TOP (500) FROM crumb WHERE loaf_id = 3
    SET @left = @@ROWCOUNT
END
GO
DELETE FROM loaf WHERE loaf_id = 3
-- case: a variable in the IF that ends its batch [tsql]
DECLARE @id int = 4
IF EXISTS (SELECT 1 FROM loaf WHERE loaf_id = @id)
    DELETE FROM crumb WHERE loaf_id = @id
GO
-- case: a variable that a block declares again [tsql]
DECLARE @id int = 4
DELETE FROM crumb WHERE loaf_id = @id
GO
BEGIN
    DECLARE @id int = 5
    DELETE FROM crumb WHERE loaf_id = @id
END
GO
-- case: a variable of a block after its batch [tsql]
-- finds: 3 unknown-name stop
BEGIN
    DECLARE @id int = 5
    DELETE FROM crumb WHERE loaf_id = @id
END
GO
DELETE FROM loaf WHERE loaf_id = @id
-- case: PRINT before the count [tsql]
-- finds: 3 stale-count ask
BEGIN TRANSACTION
DELETE FROM loaf WHERE kind = 3
PRINT 'deleted'
IF @@ROWCOUNT > 10 ROLLBACK ELSE COMMIT
-- case: an IF before the count [tsql]
-- finds: 3 stale-count ask
DELETE FROM loaf WHERE kind = 3
IF @@ERROR <> 0 PRINT 'failed'
IF @@ROWCOUNT = 0 PRINT 'none'
-- case: the count right after [tsql]
BEGIN TRANSACTION
DELETE FROM loaf WHERE kind = 3
IF @@ROWCOUNT > 10 ROLLBACK ELSE COMMIT
-- case: the count is kept [tsql]
DECLARE @n int
DELETE FROM loaf WHERE kind = 3
SET @n = @@ROWCOUNT
PRINT 'deleted'
IF @n = 0 PRINT 'none'
-- case: a loop without an end [tsql]
-- finds: 2 stale-count stop
DECLARE @n int = 0
SELECT 1
WHILE @@ROWCOUNT > 0
BEGIN
    DELETE TOP (100) FROM loaf WHERE kind = 3
    SET @n = @n + 1
END
-- case: a loop that runs once [tsql]
-- finds: 1 stale-count ask
SELECT 1
WHILE @@ROWCOUNT > 0
BEGIN
    DELETE TOP (100) FROM loaf WHERE kind = 3
    PRINT 'portion'
END
-- case: a loop of portions [tsql]
SELECT 1
WHILE @@ROWCOUNT > 0
    DELETE TOP (100) FROM loaf WHERE kind = 3
-- case: in a procedure [tsql]
-- finds: 0 stale-count ask
CREATE PROCEDURE bake AS
BEGIN
    UPDATE loaf SET kind = 3 WHERE loaf_id = 4
    COMMIT
    IF @@ROWCOUNT = 0 INSERT INTO loaf (loaf_id, kind) VALUES (4, 3)
END
-- case: COMMIT before the count [mysql mariadb]
-- finds: 3 stale-count ask
START TRANSACTION;
DELETE FROM loaf WHERE kind = 3;
COMMIT;
SELECT ROW_COUNT();
-- case: the count before COMMIT [mysql mariadb]
START TRANSACTION;
DELETE FROM loaf WHERE kind = 3;
SELECT ROW_COUNT();
COMMIT;
-- case: a limit of the session is left on [tsql]
-- finds: 1 unordered-limit ask
-- finds: 2 unordered-limit ask
SET ROWCOUNT 100
DELETE FROM crumb WHERE crumb_id > 40
UPDATE loaf SET kind = 3 WHERE kind = 2
-- case: a limit of the session is off again [tsql]
SET ROWCOUNT 100
SELECT loaf_id FROM loaf
SET ROWCOUNT 0
UPDATE loaf SET kind = 3 WHERE kind = 2
-- case: one row is within any limit [tsql]
SET ROWCOUNT 100
UPDATE loaf SET kind = 3 WHERE loaf_id = 2
