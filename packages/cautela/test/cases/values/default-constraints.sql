-- hazards: missing-required null-into-required unknown-name other-dialect unread
-- tables
CREATE TABLE [dbo].[Buoy] ([Id] int NOT NULL PRIMARY KEY, [Depth] int NOT NULL, [Seen] datetime NOT NULL, [Light] int NOT NULL, [Note] int);
GO
ALTER TABLE [dbo].[Buoy] ADD  CONSTRAINT [DF_Buoy_Depth]  DEFAULT ((0)) FOR [Depth];
GO
-- case: a default that is added by itself [tsql]
ALTER TABLE dbo.Buoy ADD CONSTRAINT DF_Seen DEFAULT (getutcdate()) FOR Seen WITH VALUES, CONSTRAINT DF_Light DEFAULT 3 FOR Light;
ALTER TABLE dbo.Buoy ADD DEFAULT NEXT VALUE FOR dbo.Numbers FOR Note;
INSERT INTO dbo.Buoy (Id) VALUES (3);
-- case: one of them is still missing [tsql]
-- finds: 1 missing-required stop
ALTER TABLE dbo.Buoy ADD CONSTRAINT DF_Seen DEFAULT (getutcdate()) FOR Seen;
INSERT INTO dbo.Buoy (Id) VALUES (3);
-- case: for a column that is not there [tsql]
-- finds: 0 unknown-name stop
ALTER TABLE dbo.Buoy ADD CONSTRAINT DF_Sunk DEFAULT 0 FOR Sunk;
-- case: a type without NOT NULL takes NULL [tsql]
ALTER TABLE dbo.Buoy ALTER COLUMN Light bigint;
UPDATE dbo.Buoy SET Light = NULL WHERE Id = 3;
-- case: a type with it does not [tsql]
-- finds: 1 null-into-required stop
ALTER TABLE dbo.Buoy ALTER COLUMN Light bigint NOT NULL;
UPDATE dbo.Buoy SET Light = NULL WHERE Id = 3;
