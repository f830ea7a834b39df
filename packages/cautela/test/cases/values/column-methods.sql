-- hazards: unknown-name ambiguous-name thin-backup
-- tables
CREATE TABLE dbo.Buoy (Id int NOT NULL PRIMARY KEY, Chart xml NULL, Log nvarchar(max) NULL, Price int);
GO
CREATE TABLE dbo.Noted (Id int NOT NULL, Price int NULL, Seen datetime2 NOT NULL DEFAULT sysutcdatetime());
GO
-- case: a method of a column [tsql]
UPDATE dbo.Buoy SET Chart.modify('replace value of (/a/text())[1] with "b"') WHERE Id = 3;
UPDATE dbo.Buoy SET Log.WRITE(N'more', NULL, 0) WHERE Id = 3;
-- case: a column that is not there [tsql]
-- finds: 0 unknown-name stop
UPDATE dbo.Buoy SET Map.modify('delete /a') WHERE Id = 3;
-- case: keys that are noted beside the change are no copy [tsql]
UPDATE dbo.Buoy SET Price = 4 OUTPUT deleted.Id, sysutcdatetime() INTO dbo.Noted (Id, Seen) WHERE Id > 3;
-- case: a copy that lacks one of two [tsql]
-- finds: 0 thin-backup ask
UPDATE dbo.Buoy SET Price = 4, Log = N'' OUTPUT deleted.Id, deleted.Price INTO dbo.Noted (Id, Price) WHERE Id > 3;
