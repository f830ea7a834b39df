-- hazards: every-row
-- no catalog
-- case: key and value into a copy [tsql]
-- finds: 1 every-row ask
SELECT Id, Fee INTO Berth_backup FROM Berth;
UPDATE Berth SET Fee = Fee * 1.1;
-- case: another column into a copy [tsql]
-- finds: 1 every-row stop
SELECT Id, Name INTO Berth_backup FROM Berth;
UPDATE Berth SET Fee = Fee * 1.1;
-- case: the values alone [postgresql mysql sqlite]
-- finds: 1 every-row stop
CREATE TABLE berth_backup AS SELECT fee FROM berth;
UPDATE berth SET fee = fee * 1.1;
-- case: what a list keeps of rows that go [postgresql mysql sqlite]
-- finds: 1 every-row stop
CREATE TABLE berth_backup AS SELECT id, fee FROM berth;
DELETE FROM berth;
