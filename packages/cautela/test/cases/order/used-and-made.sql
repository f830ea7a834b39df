-- hazards: early-use drifts-on-rerun open-placeholder every-row
-- no catalog
-- case: used before it is made [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 early-use ask
INSERT INTO sort (id) VALUES (1);
CREATE TABLE sort (id integer);
-- case: made again, or if it is missing [postgresql mysql mariadb sqlite]
INSERT INTO sort_old SELECT * FROM sort;
DROP TABLE sort;
CREATE TABLE sort (id integer);
INSERT INTO kind (id) VALUES (1);
CREATE TABLE IF NOT EXISTS kind (id integer);
-- case: what it asks is marked later, in a subquery without aliases [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 drifts-on-rerun note
-- finds: 2 drifts-on-rerun ask
UPDATE book SET copies = copies - 1 WHERE id IN (SELECT book_id FROM loan WHERE lost = 1);
UPDATE loan SET lost = 2 WHERE lost = 1;
UPDATE book SET shelves = shelves - 1 WHERE id IN (SELECT book_id FROM loan WHERE torn = 1);
-- case: a variable that was never set [tsql]
-- finds: 1 open-placeholder ask
DECLARE @id int;
DELETE FROM Stay WHERE StayId = @id;
-- case: set before, in whatever way [tsql]
DECLARE @id int, @other int, @third int = 4;
SELECT @id = MAX(StayId) FROM Stay;
EXEC FindStay 3, @other OUTPUT;
DELETE FROM Stay WHERE StayId IN (@id, @other, @third);
-- case: a table for staging, and the one row of a control table [tsql]
-- finds: 0 every-row note
-- finds: 1 every-row ask
TRUNCATE TABLE stg.Customer;
UPDATE dbo.load_control SET LastLoad = GETDATE();
-- case: a variable keeps its spelling beside a column of its name [tsql]
-- finds: 1 open-placeholder ask
DECLARE @keeper int;
UPDATE dbo.Buoy SET Light = 1 WHERE Keeper = @keeper;
