-- script: columns, a lookup table, the version
ALTER TABLE Berth ADD COLUMN Quay TEXT(20);
UPDATE Berth SET Quay = Left(Code, 1);
CREATE TABLE Flag (Code TEXT(2) NOT NULL CONSTRAINT FlagKey PRIMARY KEY, FlagName TEXT(60) NOT NULL);
INSERT INTO Flag (Code, FlagName) VALUES ('DK', 'Denmark');
INSERT INTO Flag (Code, FlagName) VALUES ('NO', 'Norway');
UPDATE DbVersion SET Version = 12;
-- script: a copy, a change and its control
SELECT * INTO MooringBefore FROM Mooring;
UPDATE Mooring SET Fee = 12.5 WHERE FromDay >= #2026-01-01# AND Fee = 12;
SELECT Count(*) FROM Mooring WHERE Fee = 12.5;
-- script: values move into a new table
CREATE TABLE OwnerContact (OwnerId INTEGER NOT NULL, Kind TEXT(10) NOT NULL, Contact TEXT(120) NOT NULL);
INSERT INTO OwnerContact (OwnerId, Kind, Contact) SELECT OwnerId, 'mail', Mail FROM Owner WHERE Mail IS NOT NULL;
INSERT INTO OwnerContact (OwnerId, Kind, Contact) SELECT OwnerId, 'fax', Fax FROM Owner WHERE Fax IS NOT NULL;
ALTER TABLE Owner DROP COLUMN Fax;
CREATE INDEX ByContact ON OwnerContact (Contact);
UPDATE DbVersion SET Version = 13;
-- script: a new column is filled from a lookup table
ALTER TABLE Vessel ADD COLUMN ClassId INTEGER;
UPDATE Vessel INNER JOIN VesselClass ON Vessel.Class = VesselClass.ClassName SET Vessel.ClassId = VesselClass.ClassId;
DELETE FROM TideCache;
