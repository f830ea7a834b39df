-- hazards: early-use already-there
-- no catalog
-- case: a column that was dropped [postgresql mysql mariadb sqlite plsql]
-- finds: 1 early-use stop
-- finds: 2 early-use stop
ALTER TABLE boat DROP COLUMN kind;
UPDATE boat SET kind = 'x' WHERE id = 3;
DELETE FROM boat WHERE kind = 'x';
-- case: a column under its former name [postgresql mysql mariadb sqlite plsql]
-- finds: 1 early-use stop
-- finds: 2 early-use stop
ALTER TABLE boat RENAME COLUMN kind TO sort;
INSERT INTO boat (id, kind) VALUES (1, 'x');
UPDATE boat SET name = 'x' WHERE kind = 'y' AND id > 3;
-- case: renamed by a procedure [tsql]
-- finds: 1 early-use stop
EXEC sp_rename 'boat.kind', 'sort', 'COLUMN';
UPDATE boat SET kind = 'x' WHERE id = 3;
-- case: through an alias [mysql mariadb]
-- finds: 1 early-use stop
ALTER TABLE boat CHANGE kind sort varchar(10);
UPDATE boat b JOIN owner o ON o.id = b.owner_id SET b.kind = 'x' WHERE o.id = 3;
-- case: it is there again, may be another table's, or was renamed in a branch [postgresql]
ALTER TABLE boat DROP COLUMN kind;
UPDATE boat SET sort = 'x' FROM owner WHERE owner.id = boat.owner_id AND kind = 'x';
ALTER TABLE boat ADD COLUMN kind text;
UPDATE boat SET kind = 'x' WHERE id = 3;
DO $$ BEGIN IF EXISTS (SELECT 1 FROM old_columns) THEN ALTER TABLE boat RENAME COLUMN mark TO sign; END IF; END $$;
UPDATE boat SET mark = 'x' WHERE id = 3;
-- case: two columns change places, or keep their names [mysql mariadb]
ALTER TABLE boat CHANGE a b varchar(10), CHANGE b a varchar(10);
ALTER TABLE boat CHANGE kind kind varchar(10);
UPDATE boat SET a = 'x', b = 'y', kind = 'z' WHERE id = 3;
-- case: added twice [postgresql mysql mariadb sqlite tsql]
-- finds: 1 already-there stop
ALTER TABLE boat ADD kind varchar(10);
ALTER TABLE boat ADD kind varchar(10);
-- case: dropped in between [postgresql mysql mariadb]
ALTER TABLE boat ADD kind varchar(10);
ALTER TABLE boat DROP COLUMN kind;
ALTER TABLE boat ADD kind varchar(10);
