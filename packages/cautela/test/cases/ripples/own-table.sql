-- hazards: trigger-writes
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, name varchar(20), kind integer, seen integer);
-- case: a trigger deletes other rows of the table [postgresql]
-- finds: 2 trigger-writes ask
CREATE FUNCTION tidy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN DELETE FROM loaf WHERE kind = 3; RETURN NEW; END $$;
CREATE TRIGGER tidied AFTER UPDATE ON loaf FOR EACH ROW EXECUTE FUNCTION tidy();
UPDATE loaf SET name = 'x' WHERE loaf_id = 3;
-- case: the same in T-SQL and SQLite [sqlite]
-- finds: 1 trigger-writes ask
CREATE TRIGGER tidied AFTER UPDATE ON loaf BEGIN DELETE FROM loaf WHERE kind = 3; END;
UPDATE loaf SET name = 'x' WHERE loaf_id = 3;
-- case: it changes every row [sqlite]
-- finds: 1 trigger-writes ask
CREATE TRIGGER counted AFTER INSERT ON loaf BEGIN UPDATE loaf SET seen = 0; END;
INSERT INTO loaf (loaf_id, name) VALUES (9, 'x');
-- case: it changes the row that is new [sqlite]
CREATE TRIGGER counted AFTER INSERT ON loaf BEGIN UPDATE loaf SET seen = 0 WHERE loaf_id = NEW.loaf_id; END;
INSERT INTO loaf (loaf_id, name) VALUES (9, 'x');
-- case: the row that is changed [sqlite]
CREATE TRIGGER counted AFTER UPDATE OF name ON loaf BEGIN UPDATE loaf SET seen = 1 WHERE loaf_id = OLD.loaf_id; END;
UPDATE loaf SET name = 'x' WHERE loaf_id = 3;
