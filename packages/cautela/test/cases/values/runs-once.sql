-- hazards: drifts-on-rerun
-- no catalog
-- case: a guard that asks the table which the script then marks, in a batch of its own [tsql]
-- finds: 2 drifts-on-rerun note
IF NOT EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1 END
GO
IF NOT EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') INSERT INTO Upgrade (Name) VALUES (N'4.1')
GO
-- case: nothing marks it [tsql]
-- finds: 2 drifts-on-rerun ask
IF NOT EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1 END
-- case: another name is marked [tsql]
-- finds: 2 drifts-on-rerun ask
IF NOT EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1; INSERT INTO Upgrade (Name) VALUES (N'4.2') END
-- case: rows come that it wants [tsql]
-- finds: 2 drifts-on-rerun ask
IF EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1; INSERT INTO Upgrade (Name) VALUES (N'4.1') END
-- case: the rows go that it wants [tsql]
-- finds: 2 drifts-on-rerun note
IF EXISTS (SELECT 1 FROM Pending WHERE Name = N'4.1') BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1; DELETE FROM Pending WHERE Name = N'4.1' END
-- case: a version that is read into a variable and moved on [tsql]
-- finds: 4 drifts-on-rerun note
DECLARE @v int; SELECT @v = Version FROM DbInfo;
IF @v < 5 BEGIN UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1; UPDATE DbInfo SET Version = 5; END
-- case: the batch ends before it where the mark is there [tsql]
-- finds: 2 drifts-on-rerun note
IF EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') RETURN;
UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1;
INSERT INTO Upgrade (Name) VALUES (N'4.1');
-- case: RETURN ends its own batch only [tsql]
-- finds: 3 drifts-on-rerun ask
IF EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') RETURN;
GO
UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1;
INSERT INTO Upgrade (Name) VALUES (N'4.1');
-- case: NOEXEC goes on over batches until it is off [tsql]
-- finds: 3 drifts-on-rerun note
-- finds: 6 drifts-on-rerun ask
IF EXISTS (SELECT 1 FROM Upgrade WHERE Name = N'4.1') SET NOEXEC ON;
GO
UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1;
INSERT INTO Upgrade (Name) VALUES (N'4.1');
SET NOEXEC OFF;
UPDATE Loaf SET Price = Price * 3 WHERE Kind = 2;
-- case: only where the column is not there yet [tsql]
-- finds: 4 drifts-on-rerun note
IF COL_LENGTH('Loaf', 'Weight') IS NULL BEGIN ALTER TABLE Loaf ADD Weight int; EXEC('UPDATE Loaf SET Price = Price * 2 WHERE Kind = 1'); END
-- case: a guard in a block [postgresql]
-- finds: 3 drifts-on-rerun note
DO $$ BEGIN IF NOT EXISTS (SELECT 1 FROM upgrade WHERE name = '4.1') THEN UPDATE loaf SET price = price * 2 WHERE kind = 1; INSERT INTO upgrade (name) VALUES ('4.1'); END IF; END $$;
-- case: the other branch [postgresql]
-- finds: 4 drifts-on-rerun note
DO $$ BEGIN IF EXISTS (SELECT 1 FROM upgrade WHERE name = '4.1') THEN PERFORM 1; ELSE UPDATE loaf SET price = price * 2 WHERE kind = 1; INSERT INTO upgrade (name) VALUES ('4.1'); END IF; END $$;
-- case: a count that decides [plsql]
-- finds: 3 drifts-on-rerun note
DECLARE n NUMBER; BEGIN SELECT COUNT(*) INTO n FROM upgrade WHERE name = '4.1'; IF n = 0 THEN UPDATE loaf SET price = price * 2 WHERE kind = 1; INSERT INTO upgrade (name) VALUES ('4.1'); END IF; COMMIT; END;
/
-- case: the block leaves before it [plsql]
-- finds: 4 drifts-on-rerun note
DECLARE n NUMBER; BEGIN SELECT COUNT(*) INTO n FROM upgrade WHERE name = '4.1'; IF n > 0 THEN RETURN; END IF; UPDATE loaf SET price = price * 2 WHERE kind = 1; INSERT INTO upgrade (name) VALUES ('4.1'); COMMIT; END;
/
-- case: the filter asks the table that is marked [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 drifts-on-rerun note
UPDATE loaf SET price = price * 2 WHERE kind = 1 AND NOT EXISTS (SELECT 1 FROM upgrade WHERE name = '4.1');
INSERT INTO upgrade (name) VALUES ('4.1');
-- case: rows come that the filter wants [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET price = price * 2 WHERE kind IN (SELECT kind FROM sort WHERE dark = 1);
INSERT INTO sort (kind, dark) VALUES (9, 1);
-- case: a mark on the rows themselves, as a boolean [postgresql]
-- finds: 0 drifts-on-rerun note
-- finds: 2 drifts-on-rerun note
-- finds: 4 drifts-on-rerun ask
UPDATE loaf SET price = price * 2 WHERE baked > '2026-01-01' AND NOT raised;
UPDATE loaf SET raised = true WHERE baked > '2026-01-01';
UPDATE loaf SET weight = weight + 1 WHERE kind = 1 AND cut IS FALSE;
UPDATE loaf SET cut = true WHERE kind = 1;
UPDATE loaf SET stock = stock + 1 WHERE baked > '2026-01-01' AND NOT sold;
UPDATE loaf SET sold = true WHERE baked > '2026-06-01';
-- case: the day of the change where there was none [postgresql mysql mariadb sqlite]
-- finds: 0 drifts-on-rerun note
-- finds: 2 drifts-on-rerun ask
UPDATE loaf SET price = price * 2 WHERE raised_on IS NULL;
UPDATE loaf SET raised_on = current_date WHERE raised_on IS NULL;
UPDATE loaf SET stock = stock + 1 WHERE sold_on IS NULL;
UPDATE loaf SET sold_on = NULL WHERE sold_on IS NULL;
-- case: 1 for TRUE [mysql mariadb]
-- finds: 0 drifts-on-rerun note
-- finds: 2 drifts-on-rerun ask
UPDATE loaf SET price = price * 2 WHERE kind = 1 AND raised = 0;
UPDATE loaf SET raised = TRUE WHERE kind = 1;
UPDATE loaf SET stock = stock + 1 WHERE kind = 2 AND raised = 1;
UPDATE loaf SET raised = TRUE WHERE kind = 2;
