-- script: 3.4 to 3.5, columns where they are missing, seeds, the version
SET NOCOUNT ON;
SET XACT_ABORT ON;
GO
IF NOT EXISTS (SELECT * FROM sys.columns WHERE object_id = OBJECT_ID('dbo.Berth') AND name = 'Quay')
  ALTER TABLE dbo.Berth ADD Quay nvarchar(20) NULL;
GO
UPDATE dbo.Berth SET Quay = LEFT(Code, 1);
GO
IF OBJECT_ID('dbo.Flag') IS NULL
BEGIN
  CREATE TABLE dbo.Flag (Code char(2) NOT NULL PRIMARY KEY, Name nvarchar(60) NOT NULL);
  INSERT INTO dbo.Flag (Code, Name) VALUES ('DK', N'Denmark'), ('NO', N'Norway');
END
GO
IF NOT EXISTS (SELECT 1 FROM dbo.Flag WHERE Code = 'SE')
  INSERT INTO dbo.Flag (Code, Name) VALUES ('SE', N'Sweden');
GO
UPDATE dbo.SchemaVersion SET Version = '3.5', AppliedOn = GETDATE();
GO
-- script: procedures and views are made again
IF OBJECT_ID('dbo.CloseMooring', 'P') IS NOT NULL DROP PROCEDURE dbo.CloseMooring;
GO
CREATE PROCEDURE dbo.CloseMooring @MooringId int, @Day date AS
BEGIN
  SET NOCOUNT ON;
  UPDATE dbo.Mooring SET ToDay = @Day, Status = 'left' WHERE MooringId = @MooringId AND ToDay IS NULL;
END
GO
CREATE OR ALTER VIEW dbo.MooredNow AS
SELECT m.MooringId, v.Name, b.Code FROM dbo.Mooring m JOIN dbo.Vessel v ON v.VesselId = m.VesselId JOIN dbo.Berth b ON b.BerthId = m.BerthId WHERE m.ToDay IS NULL;
GO
GRANT EXECUTE ON dbo.CloseMooring TO HarbourClerk;
GRANT SELECT ON dbo.MooredNow TO HarbourClerk;
GO
-- script: a column moves to another table in one transaction
BEGIN TRY
  BEGIN TRANSACTION;
  ALTER TABLE dbo.Vessel ADD Insurer nvarchar(60) NULL;
  EXEC('UPDATE v SET v.Insurer = o.Insurer FROM dbo.Vessel v JOIN dbo.Owner o ON o.OwnerId = v.OwnerId');
  ALTER TABLE dbo.Owner DROP COLUMN Insurer;
  UPDATE dbo.DbInfo SET Version = 41;
  COMMIT TRANSACTION;
END TRY
BEGIN CATCH
  IF @@TRANCOUNT > 0 ROLLBACK TRANSACTION;
  THROW;
END CATCH
GO
-- script: duplicates go, a unique key comes, a temporary table helps
SELECT MailId, ROW_NUMBER() OVER (PARTITION BY Mail ORDER BY MailId) AS N INTO #double FROM dbo.MailList;
DELETE m FROM dbo.MailList m JOIN #double d ON d.MailId = m.MailId WHERE d.N > 1;
DROP TABLE #double;
ALTER TABLE dbo.MailList ADD CONSTRAINT UQ_MailList UNIQUE (Mail);
GO
UPDATE dbo.SchemaVersion SET Version = '3.6' WHERE Version = '3.5';
GO
-- script: a named default and a wider column
DECLARE @name sysname, @sql nvarchar(400);
SELECT @name = dc.name FROM sys.default_constraints dc WHERE dc.parent_object_id = OBJECT_ID('dbo.Mooring') AND dc.name LIKE 'DF__Mooring__Status%';
IF @name IS NOT NULL
BEGIN
  SET @sql = N'ALTER TABLE dbo.Mooring DROP CONSTRAINT ' + QUOTENAME(@name);
  EXEC sp_executesql @sql;
END
ALTER TABLE dbo.Mooring ALTER COLUMN Status nvarchar(40) NOT NULL;
ALTER TABLE dbo.Mooring ADD CONSTRAINT DF_Mooring_Status DEFAULT ('planned') FOR Status;
GO
