-- hazards: sealed-view sealed-column view-passthrough escapes-view
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60), left_on date);
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, status varchar(20) NOT NULL);
CREATE VIEW vessel_count AS SELECT owner_id, COUNT(*) AS vessels FROM vessel GROUP BY owner_id;
CREATE VIEW vessel_owner AS SELECT v.vessel_id, v.name AS vessel, o.name AS owner FROM vessel v INNER JOIN owner o ON o.owner_id = v.owner_id;
CREATE VIEW owner_public AS SELECT owner_id, name AS called, UPPER(mail) AS mail FROM owner WHERE left_on IS NULL;
CREATE VIEW afloat AS SELECT vessel_id, owner_id, name, status FROM vessel WHERE status = 'afloat';
CREATE VIEW afloat_named AS SELECT vessel_id, name, status FROM afloat;
CREATE VIEW all_names AS SELECT name FROM owner UNION SELECT name FROM vessel;
-- case: a grouped view as the target of an update [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 sealed-view stop
UPDATE vessel_count SET vessels = 0 WHERE owner_id = 3;
-- case: a grouped view as the target of a delete [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sealed-view stop
DELETE FROM vessel_count WHERE owner_id = 3;
-- case: a union [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sealed-view stop
UPDATE all_names SET name = 'x';
-- case: an insert into a union [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 sealed-view stop
INSERT INTO all_names (name) VALUES ('x');
-- case: no view of sqlite is written without a trigger [sqlite]
-- finds: 0 sealed-view stop
UPDATE afloat SET name = 'Alma' WHERE vessel_id = 3;
-- case: one side of a join, which postgresql refuses [postgresql]
-- finds: 0 sealed-view stop
UPDATE vessel_owner SET vessel = 'Alma' WHERE vessel_id = 3;
-- case: one side of a join, where engines take it: the vessel stands once [mysql mariadb tsql plsql jet]
-- finds: 0 view-passthrough note
UPDATE vessel_owner SET vessel = 'Alma' WHERE vessel_id = 3;
-- case: the other side of the join, whose row stands in many [mysql mariadb tsql]
-- finds: 0 view-passthrough ask
UPDATE vessel_owner SET owner = 'Asta' WHERE vessel_id = 3;
-- case: a table that the join does not preserve (plsql) [plsql]
-- finds: 0 sealed-column stop
-- finds: 0 view-passthrough note
UPDATE vessel_owner SET owner = 'Asta' WHERE vessel_id = 3;
-- case: both tables of a join at once [mysql mariadb tsql]
-- finds: 0 sealed-view stop
-- finds: 0 view-passthrough note
UPDATE vessel_owner SET owner = 'Asta', vessel = 'Alma' WHERE vessel_id = 3;
-- case: a delete through a join [postgresql mysql mariadb tsql]
-- finds: 0 sealed-view stop
DELETE FROM vessel_owner WHERE vessel_id = 3;
-- case: an insert that the base needs more for [postgresql mysql mariadb tsql plsql]
-- finds: 0 sealed-view stop
-- finds: 0 view-passthrough note
INSERT INTO afloat_named (vessel_id, name, status) VALUES (9, 'Alma', 'afloat');
-- case: a computed column [postgresql mysql mariadb tsql plsql]
-- finds: 0 sealed-column stop
-- finds: 0 view-passthrough note
UPDATE owner_public SET mail = 'a@b' WHERE owner_id = 3;
-- case: a plain column of the same view [postgresql mysql mariadb tsql plsql]
-- finds: 0 view-passthrough note
-- finds: 1 view-passthrough note
UPDATE owner_public SET called = 'Asta' WHERE owner_id = 3;
UPDATE owner_public SET called = 'Bo' WHERE owner_id = 4;
-- case: the row leaves the view [postgresql mysql mariadb tsql plsql]
-- finds: 0 escapes-view ask
-- finds: 0 view-passthrough note
UPDATE afloat SET status = 'wreck' WHERE vessel_id = 3;
-- case: the row leaves the view below [postgresql mysql mariadb tsql plsql]
-- finds: 0 escapes-view ask
-- finds: 0 view-passthrough note
UPDATE afloat_named SET status = 'wreck' WHERE vessel_id = 3;
-- case: a new row that the view does not show [postgresql mysql mariadb tsql plsql]
-- finds: 0 escapes-view ask
-- finds: 0 view-passthrough note
INSERT INTO afloat (vessel_id, owner_id, name, status) VALUES (9, 3, 'Alma', 'dry');
-- case: a value that the view shows [postgresql mysql mariadb tsql plsql]
-- finds: 0 view-passthrough note
INSERT INTO afloat (vessel_id, owner_id, name, status) VALUES (9, 3, 'Alma', 'afloat');
-- case: the check option of a view refuses [postgresql mysql mariadb tsql plsql]
-- finds: 1 escapes-view stop
-- finds: 1 view-passthrough note
CREATE VIEW kept AS SELECT vessel_id, status FROM vessel WHERE status IN ('afloat', 'dry') WITH CHECK OPTION;
UPDATE kept SET status = 'wreck' WHERE vessel_id = 3;
-- case: a check option that the value meets [postgresql mysql mariadb tsql plsql]
-- finds: 1 view-passthrough note
CREATE VIEW kept AS SELECT vessel_id, status FROM vessel WHERE status IN ('afloat', 'dry') WITH CHECK OPTION;
UPDATE kept SET status = 'dry' WHERE vessel_id = 3;
-- case: the cascaded option of the outer view looks below, the local one does not [postgresql mysql mariadb]
-- finds: 1 escapes-view stop
-- finds: 1 view-passthrough note
-- finds: 3 escapes-view ask
-- finds: 3 view-passthrough note
CREATE VIEW strict AS SELECT vessel_id, status FROM afloat WITH CASCADED CHECK OPTION;
UPDATE strict SET status = 'wreck' WHERE vessel_id = 3;
CREATE VIEW lax AS SELECT vessel_id, status FROM afloat WITH LOCAL CHECK OPTION;
UPDATE lax SET status = 'wreck' WHERE vessel_id = 3;
-- case: the table itself is no view [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE vessel SET status = 'wreck' WHERE vessel_id = 3;
-- case: a view that is only read [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE vessel SET status = 'dry' WHERE owner_id IN (SELECT owner_id FROM vessel_count WHERE vessels > 9);
-- case: a materialized view [postgresql plsql]
-- finds: 1 sealed-view stop
CREATE MATERIALIZED VIEW shot AS SELECT vessel_id, name FROM vessel;
DELETE FROM shot WHERE vessel_id = 3;
-- case: a grouped common table expression as the target [tsql]
-- finds: 0 sealed-view stop
WITH c AS (SELECT owner_id, COUNT(*) AS n FROM vessel GROUP BY owner_id) UPDATE c SET n = 0;
-- case: a common table expression that only filters [tsql]
WITH c AS (SELECT vessel_id, status FROM vessel WHERE owner_id = 3) UPDATE c SET status = 'dry';
-- case: a read-only view [plsql]
-- finds: 1 sealed-view stop
CREATE VIEW look AS SELECT vessel_id, name FROM vessel WITH READ ONLY;
UPDATE look SET name = 'x' WHERE vessel_id = 3;
-- case: a join on no unique key shows and does not write [jet]
-- finds: 1 sealed-view stop
CREATE VIEW twins AS SELECT a.vessel_id, b.name FROM vessel a INNER JOIN vessel b ON a.name = b.name;
UPDATE twins SET name = 'x' WHERE vessel_id = 3;
-- case: TEMPTABLE makes a copy [mysql mariadb]
-- finds: 1 sealed-view stop
CREATE ALGORITHM=TEMPTABLE VIEW shot AS SELECT vessel_id, name FROM vessel;
UPDATE shot SET name = 'x' WHERE vessel_id = 3;
-- case: an INSTEAD OF trigger writes in the view's place [sqlite]
-- finds: 2 view-passthrough note
CREATE TRIGGER named AFTER INSERT ON owner BEGIN SELECT 1; END; CREATE TRIGGER afloat_written INSTEAD OF UPDATE ON afloat BEGIN UPDATE vessel SET name = NEW.name WHERE vessel_id = OLD.vessel_id; END;
UPDATE afloat SET name = 'Alma' WHERE vessel_id = 3;
-- case: a view cannot be emptied [postgresql mysql mariadb]
-- finds: 0 sealed-view stop
TRUNCATE TABLE afloat;
