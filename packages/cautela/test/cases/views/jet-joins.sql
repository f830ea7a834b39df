-- hazards: sealed-view
-- tables
CREATE TABLE Oven (ID COUNTER PRIMARY KEY, Heat LONG);
CREATE TABLE Loaf (ID COUNTER PRIMARY KEY, OvenID LONG, Heat LONG);
-- case: a grouped query is joined [jet]
-- finds: 0 sealed-view stop
UPDATE Loaf INNER JOIN (SELECT ID, Max(Heat) AS H FROM Oven GROUP BY ID) AS q ON q.ID = Loaf.OvenID SET Loaf.Heat = q.H;
-- case: SET reads a query [jet]
-- finds: 0 sealed-view stop
UPDATE Loaf SET Heat = (SELECT Max(Heat) FROM Oven) WHERE ID = 3;
-- case: a table is joined [jet]
UPDATE Loaf INNER JOIN Oven ON Oven.ID = Loaf.OvenID SET Loaf.Heat = Oven.Heat;
-- case: a query in the filter [jet]
UPDATE Loaf SET Heat = 3 WHERE OvenID IN (SELECT ID FROM Oven WHERE Heat > 6);
-- case: the one side of a join is deleted [jet]
-- finds: 0 sealed-view stop
DELETE Oven.* FROM Oven INNER JOIN Loaf ON Oven.ID = Loaf.OvenID WHERE Loaf.Heat > 6;
-- case: the one side, with single rows [jet]
DELETE DISTINCTROW Oven.* FROM Oven INNER JOIN Loaf ON Oven.ID = Loaf.OvenID WHERE Loaf.Heat > 6;
-- case: the many side [jet]
DELETE Loaf.* FROM Oven INNER JOIN Loaf ON Oven.ID = Loaf.OvenID WHERE Oven.Heat > 6;
