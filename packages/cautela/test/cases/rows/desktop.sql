-- hazards: dead-filter loose-match missing-else wrong-target many-targets unknown-name
-- tables
CREATE TABLE Loaf (LoafId INTEGER PRIMARY KEY, Kind TEXT(20), Price CURRENCY, IsTest YESNO);
CREATE TABLE Oven (OvenId INTEGER PRIMARY KEY, LoafId INTEGER, Hot INTEGER);
-- case: True is -1 [jet]
-- finds: 0 dead-filter ask
UPDATE Loaf SET Kind = 'x' WHERE IsTest = 1;
-- case: and written so [jet]
UPDATE Loaf SET Kind = 'x' WHERE IsTest = -1 AND LoafId = 3;
UPDATE Loaf SET Kind = 'x' WHERE IsTest = True AND LoafId = 4;
-- case: another wildcard [jet]
-- finds: 0 loose-match ask
UPDATE Loaf SET Kind = 'x' WHERE Kind LIKE 'Test%';
-- case: its own wildcard [jet]
UPDATE Loaf SET Kind = 'x' WHERE Kind LIKE 'Test*';
-- case: Switch without a last test [jet]
-- finds: 0 missing-else ask
UPDATE Loaf SET Kind = Switch(Price < 3, 'small', Price < 9, 'large') WHERE LoafId > 3;
-- case: and with one [jet]
UPDATE Loaf SET Kind = Switch(Price < 3, 'small', Price < 9, 'large', True, 'huge') WHERE LoafId > 3;
-- case: columns that carry criteria [jet]
DELETE Loaf.*, Loaf.Kind, Oven.Hot FROM Oven INNER JOIN Loaf ON Oven.LoafId = Loaf.LoafId WHERE Oven.Hot = 1;
-- case: no table is named [jet]
-- finds: 0 wrong-target stop
DELETE Loaf.Kind FROM Oven INNER JOIN Loaf ON Oven.LoafId = Loaf.LoafId;
-- case: declared parameters [jet]
PARAMETERS [From price] CURRENCY; UPDATE Loaf SET Kind = 'x' WHERE Price > [From price] AND LoafId = 3;
