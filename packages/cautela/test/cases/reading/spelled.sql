-- hazards: early-use every-row drifts-on-rerun hard-delete weak-filter unknown-name other-dialect broken-dependent null-into-required no-way-back
-- tables
CREATE TABLE Visit (VisitId int NOT NULL PRIMARY KEY, PatientNo int NOT NULL, Fee decimal(8,2) NOT NULL, ViewCount int NOT NULL, ClosedAt datetime NULL, Remark varchar(200) NULL);
CREATE TABLE Bill (BillId int NOT NULL PRIMARY KEY, VisitId int NOT NULL REFERENCES Visit (VisitId));
CREATE TABLE Patient (PatientId int NOT NULL PRIMARY KEY, LastName varchar(40) NOT NULL, BadgeCode varchar(20) NOT NULL);
CREATE TABLE AppVersion (VersionNo varchar(20) NOT NULL, InstalledAt datetime NOT NULL);
CREATE TABLE VisitLog (LogId int NOT NULL PRIMARY KEY, Text varchar(200) NULL);
CREATE TABLE Berth (BerthId int NOT NULL PRIMARY KEY, Quay varchar(10) NOT NULL);
CREATE TABLE BerthArchive (BerthId int NOT NULL PRIMARY KEY, Quay varchar(10) NOT NULL);
CREATE TABLE BerthBackup2024 (BerthId int NOT NULL, Quay varchar(10) NOT NULL);
CREATE TABLE TideCache (TideId int NOT NULL PRIMARY KEY, Height decimal(6,2) NULL);
-- case: the words of a name are told apart by its letters [tsql sqlite]
-- finds: 1 every-row note
-- finds: 2 drifts-on-rerun note
-- finds: 2 no-way-back note
UPDATE AppVersion SET VersionNo = '4.7', InstalledAt = CURRENT_TIMESTAMP;
DELETE FROM TideCache;
UPDATE visit SET viewcount = ViewCount + 1 WHERE VisitId = 4;
-- case: rows that could be closed, and a code that is not unique [tsql sqlite]
-- finds: 0 hard-delete ask
-- finds: 0 no-way-back note
-- finds: 1 weak-filter ask
-- finds: 1 no-way-back note
DELETE FROM Visit WHERE PatientNo = 7;
UPDATE Patient SET LastName = 'Ohm' WHERE BadgeCode = 'K7';
-- case: rows that are closed [tsql sqlite]
-- finds: 0 no-way-back note
DELETE FROM Visit WHERE ClosedAt < '20200101';
-- case: what is filled under another spelling is filled [tsql]
-- finds: 1 no-way-back note
UPDATE Visit SET Remark = '' WHERE Remark IS NULL;
UPDATE dbo.VISIT SET remark = 'none' WHERE VisitId = 3;
ALTER TABLE dbo.visit ALTER COLUMN remark varchar(200) NOT NULL;
-- case: a column that is given another name by a procedure [tsql]
-- finds: 1 no-way-back note
EXEC sp_rename 'dbo.Visit.Remark', 'Note', 'COLUMN';
UPDATE dbo.Visit SET Note = 'none' WHERE VisitId = 3;
-- case: and not that name [tsql]
-- finds: 1 unknown-name stop
EXEC sp_rename 'Visit.[Remark]', 'Note', 'COLUMN';
UPDATE dbo.Visit SET Remark = 'none' WHERE VisitId = 3;
-- case: a table and an index [tsql]
-- finds: 2 no-way-back note
EXEC sp_rename 'dbo.Visit', 'Stay';
EXEC sp_rename 'dbo.Stay.ix_fee', 'ix_stay_fee', 'INDEX';
UPDATE dbo.Stay SET Remark = 'none' WHERE VisitId = 3;
-- case: the old name is gone [tsql]
-- finds: 1 early-use stop
-- finds: 1 no-way-back note
EXEC sp_rename @objname = 'dbo.Visit', @newname = 'Stay';
UPDATE dbo.Visit SET Fee = 3 WHERE VisitId = 2;
-- case: a view breaks [tsql]
-- finds: 1 broken-dependent ask
CREATE VIEW Remarks AS SELECT VisitId, Remark FROM Visit;
EXEC sp_rename 'dbo.Visit.Remark', 'Note', 'COLUMN';
-- case: a MERGE that ends, in a block and in a branch [tsql]
-- finds: 1 no-way-back note
BEGIN TRY
    MERGE Patient AS p USING (VALUES (1, 'Ohm', 'K1')) AS s (PatientId, LastName, BadgeCode) ON p.PatientId = s.PatientId
    WHEN MATCHED THEN UPDATE SET LastName = s.LastName
    WHEN NOT MATCHED THEN INSERT (PatientId, LastName, BadgeCode) VALUES (s.PatientId, s.LastName, s.BadgeCode) ;
END TRY
BEGIN CATCH
    THROW;
END CATCH
-- case: one that does not [tsql]
-- finds: 2 other-dialect stop
IF 1 = 1
BEGIN
    MERGE Patient AS p USING (VALUES (1, 'Ohm', 'K1')) AS s (PatientId, LastName, BadgeCode) ON p.PatientId = s.PatientId
    WHEN NOT MATCHED THEN INSERT (PatientId, LastName, BadgeCode) VALUES (s.PatientId, s.LastName, s.BadgeCode)
END
-- case: an archive beside it, and a copy, in words that are not parted [tsql sqlite]
-- finds: 0 hard-delete ask
-- finds: 0 no-way-back note
-- finds: 2 no-way-back ask
DELETE FROM Berth WHERE Quay = 'north';
UPDATE AppVersion SET VersionNo = '5';
DROP TABLE BerthBackup2024;
