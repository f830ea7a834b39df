-- hazards: broken-transaction open-transaction
-- no catalog
-- case: nobody has begun what is to be taken back [postgresql mysql mariadb sqlite tsql]
-- finds: 1 broken-transaction stop
UPDATE loaf SET price = 3 WHERE price < 4;
ROLLBACK;
-- case: begun, or switched off before [mysql mariadb]
SET autocommit = 0;
UPDATE loaf SET price = 3 WHERE price < 4;
ROLLBACK;
-- case: a trial [postgresql mysql mariadb sqlite tsql]
BEGIN TRANSACTION;
UPDATE loaf SET price = 3 WHERE price < 4;
ROLLBACK;
-- case: always in a transaction [plsql]
UPDATE loaf SET price = 3 WHERE price < 4;
ROLLBACK;
-- case: too many, and nothing to roll back [tsql]
-- finds: 4 broken-transaction ask
DELETE FROM Loaf WHERE Baked < '2024-01-01';
IF @@ROWCOUNT > 500 BEGIN RAISERROR('too many', 16, 1); ROLLBACK; END
-- case: it asks whether one is open [tsql]
BEGIN TRY
  DELETE FROM Loaf WHERE Baked < '2024-01-01';
END TRY
BEGIN CATCH
  IF @@TRANCOUNT > 0 ROLLBACK;
END CATCH
-- case: the client commits nothing by itself [postgresql]
-- finds: 1 open-transaction ask
\set AUTOCOMMIT off
UPDATE loaf SET price = 3 WHERE price < 4;
