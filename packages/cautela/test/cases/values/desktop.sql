-- hazards: may-not-fit outer-null thin-backup unordered-limit
-- tables
CREATE TABLE Oven (ID COUNTER PRIMARY KEY, Town TEXT(40), Remark MEMO);
CREATE TABLE Loaf (ID COUNTER PRIMARY KEY, OvenID LONG, Label TEXT(50), Note MEMO);
-- case: long text into a shorter column [jet]
-- finds: 0 may-not-fit ask
UPDATE Loaf SET Label = Note WHERE ID = 3;
-- case: long text into long text, short text into a column that takes it [jet]
UPDATE Loaf INNER JOIN Oven ON Oven.ID = Loaf.OvenID SET Loaf.Note = Oven.Remark, Loaf.Label = Oven.Town WHERE Loaf.ID = 3;
-- case: the empty side of an outer join is filled [jet]
-- finds: 0 outer-null ask
UPDATE Loaf RIGHT JOIN Oven ON Loaf.OvenID = Oven.ID SET Loaf.Label = 'new' WHERE Oven.ID = 3;
-- case: the full side of an outer join is filled [jet]
UPDATE Oven LEFT JOIN Loaf ON Loaf.OvenID = Oven.ID SET Oven.Town = 'Ulm' WHERE Oven.ID = 3;
-- case: a copy of single rows with long text [jet]
-- finds: 0 thin-backup ask
SELECT DISTINCT ID, OvenID, Label, Note INTO LoafBefore FROM Loaf;
UPDATE Loaf SET Note = 'x' WHERE OvenID = 3;
-- case: a copy of every row with long text [jet]
SELECT * INTO LoafBefore FROM Loaf;
UPDATE Loaf SET Note = 'x' WHERE OvenID = 3;
-- case: TOP with rows that share the last place [jet]
-- finds: 0 unordered-limit ask
DELETE * FROM Loaf WHERE ID IN (SELECT TOP 5 ID FROM Loaf ORDER BY Label);
-- case: TOP with the key in the order [jet]
DELETE * FROM Loaf WHERE ID IN (SELECT TOP 5 ID FROM Loaf ORDER BY Label, ID);
