-- case: names in brackets, identity, computed
-- holds: berth (berthid int!, code nvarchar(10)!, depth decimal(18,0), deep  as [Depth] * 2)  key berthid
CREATE TABLE [dbo].[Berth] ([BerthId] int IDENTITY(1,1) NOT NULL CONSTRAINT [PK_Berth] PRIMARY KEY, [Code] nvarchar(10) NOT NULL, [Depth] decimal, Deep AS ([Depth] * 2));
-- case: synonyms
-- holds: berth (berthid int!)  key berthid
-- holds: synonym place
CREATE TABLE dbo.Berth (BerthId int PRIMARY KEY);
CREATE SYNONYM dbo.Place FOR dbo.Berth;
-- case: columns in a list
-- holds: berth (berthid int, quay bigint! = 0)
CREATE TABLE Berth (BerthId int);
ALTER TABLE Berth ADD Code nvarchar(10) NULL, Quay int NOT NULL CONSTRAINT d DEFAULT 0;
ALTER TABLE Berth DROP COLUMN Code;
ALTER TABLE Berth ALTER COLUMN Quay bigint NOT NULL;
