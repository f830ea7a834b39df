-- schema
CREATE TABLE dbo.Grower (GrowerId int NOT NULL PRIMARY KEY, Name nvarchar(40) NOT NULL, HeadId int NULL REFERENCES dbo.Grower (GrowerId), Town nvarchar(40) NULL, Notes xml NULL, Photo image NULL, Area geography NULL, Remark ntext NULL, Stamp rowversion);
CREATE TABLE sales.[Order Lines] ([Line No] int IDENTITY(1,1) NOT NULL PRIMARY KEY, [select] int NULL, Qty decimal(10,2) NOT NULL, GrowerId int NOT NULL CONSTRAINT line_grower REFERENCES dbo.Grower (GrowerId) ON DELETE CASCADE, Total AS (Qty * 2));
CREATE TABLE dbo.Tally (what varchar(20) NOT NULL PRIMARY KEY, n int NOT NULL);
CREATE TABLE dbo.Grower_log (line_id int IDENTITY PRIMARY KEY, what varchar(20));
CREATE TABLE dbo.Delivery (Name nvarchar(40), Price decimal(10,2));
CREATE TABLE dbo.Mixed (a int NOT NULL, b int NOT NULL, c nvarchar(max), CONSTRAINT mixed_key PRIMARY KEY (a, b));
GO
CREATE TRIGGER dbo.grower_counted ON dbo.Grower AFTER DELETE AS UPDATE dbo.Tally SET n = n - 1 WHERE what = 'grower';
GO
-- script: plain changes
UPDATE dbo.Grower SET Town = N'Ulm', Notes = NULL WHERE GrowerId < 5;
DELETE FROM dbo.Grower WHERE Town = 'Bonn';
-- script: joins
UPDATE g SET g.Town = d.Name FROM dbo.Grower AS g INNER JOIN dbo.Delivery AS d ON d.Name = g.Name;
DELETE l FROM sales.[Order Lines] AS l JOIN dbo.Grower g ON g.GrowerId = l.GrowerId WHERE g.Town = 'Ulm';
-- script: limits, chance and the clock
DELETE TOP (10) FROM dbo.Grower;
UPDATE TOP (5) PERCENT dbo.Tally SET n = 0;
DELETE FROM dbo.Tally WHERE n > RAND() * 10;
UPDATE dbo.Grower SET Town = 'x' WHERE Name > CONVERT(nvarchar(40), GETDATE());
-- script: names
UPDATE sales.[Order Lines] SET [select] = 1, Qty = 3 WHERE [Line No] < 3;
DELETE FROM sales.[Order Lines] WHERE [Line No] = 2;
-- script: keys
UPDATE dbo.Mixed SET a = a + 10 WHERE b = 1;
UPDATE m SET c = 'q' FROM dbo.Mixed m JOIN dbo.Tally t ON t.n = m.a;
-- script: rows come
INSERT INTO sales.[Order Lines] ([select], Qty, GrowerId) VALUES (1, 2, 3);
INSERT INTO dbo.Tally (what, n) SELECT Name, 1 FROM dbo.Delivery;
MERGE dbo.Tally AS t USING dbo.Delivery AS d ON d.Name = t.what WHEN MATCHED THEN UPDATE SET n = t.n + 1 WHEN NOT MATCHED THEN INSERT (what, n) VALUES (d.Name, 1);
-- script: emptied
TRUNCATE TABLE dbo.Delivery;
-- script: one after the other
BEGIN TRANSACTION;
UPDATE dbo.Tally SET n = 5 WHERE what = 'a';
DELETE FROM dbo.Tally WHERE n = 5;
COMMIT;
-- script: structure
ALTER TABLE dbo.Grower ADD FirstName nvarchar(20) NULL;
UPDATE dbo.Grower SET FirstName = LEFT(Name, 3);
ALTER TABLE dbo.Grower DROP COLUMN Town;
ALTER TABLE dbo.Grower ALTER COLUMN Name nvarchar(10) NOT NULL;
DROP TABLE dbo.Delivery;
CREATE INDEX tally_n ON dbo.Tally (n);
ALTER TABLE dbo.Grower DISABLE TRIGGER grower_counted;
