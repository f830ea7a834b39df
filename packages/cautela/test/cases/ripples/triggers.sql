-- hazards: trigger-writes trigger-rewrites trigger-skipped trigger-loop trigger-blocks auto-stamp opaque-code routine-writes
-- tables
CREATE TABLE account (mooring_id integer PRIMARY KEY, owed integer DEFAULT 0 NOT NULL);
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee integer NOT NULL, status varchar(20) NOT NULL, remark varchar(40));
CREATE TABLE mooring_log (mooring_id integer, what varchar(20));
CREATE TABLE berth (berth_id integer PRIMARY KEY, depth_m integer NOT NULL, class varchar(10));
-- case: a chain to a business table [postgresql]
-- finds: 2 trigger-writes ask
CREATE FUNCTION charge() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = NEW.fee WHERE mooring_id = NEW.mooring_id; RETURN NEW; END $$;
CREATE TRIGGER charged AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION charge();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: the same through a data-changing WITH [postgresql]
-- finds: 2 trigger-writes ask
CREATE FUNCTION charge() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = NEW.fee WHERE mooring_id = NEW.mooring_id; RETURN NEW; END $$;
CREATE TRIGGER charged AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION charge();
WITH changed AS (UPDATE mooring SET fee = 3 WHERE mooring_id = 1 RETURNING mooring_id) SELECT count(*) FROM changed;
-- case: a trigger for another column, another event, a condition that is not met [postgresql]
CREATE FUNCTION charge() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = 0 WHERE mooring_id = NEW.mooring_id; RETURN NEW; END $$;
CREATE TRIGGER charged AFTER UPDATE OF fee ON mooring FOR EACH ROW EXECUTE FUNCTION charge();
CREATE TRIGGER added AFTER INSERT ON mooring FOR EACH ROW EXECUTE FUNCTION charge();
CREATE TRIGGER left_port AFTER UPDATE ON mooring FOR EACH ROW WHEN (OLD.status IS DISTINCT FROM NEW.status) EXECUTE FUNCTION charge();
CREATE TRIGGER cancelled AFTER UPDATE ON mooring FOR EACH ROW WHEN (NEW.remark = 'cancelled') EXECUTE FUNCTION charge();
UPDATE mooring SET remark = 'paid' WHERE mooring_id = 1;
-- case: an audit trail is noted at each change [postgresql]
-- finds: 2 trigger-writes note
-- finds: 3 trigger-writes note
CREATE FUNCTION audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO mooring_log VALUES (NEW.mooring_id, TG_OP); RETURN NEW; END $$;
CREATE TRIGGER audited AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION audit();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
UPDATE mooring SET fee = 4 WHERE mooring_id = 2;
-- case: a chain in mysql [mysql mariadb]
-- finds: 1 trigger-writes ask
CREATE TRIGGER charged AFTER UPDATE ON mooring FOR EACH ROW UPDATE account SET owed = NEW.fee WHERE mooring_id = NEW.mooring_id;
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: a chain in tsql, and the column that it asks for [tsql]
-- finds: 1 trigger-writes ask
CREATE TRIGGER charged ON mooring AFTER UPDATE AS BEGIN IF UPDATE(fee) UPDATE a SET owed = i.fee FROM account a JOIN inserted i ON i.mooring_id = a.mooring_id; END
GO
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
UPDATE mooring SET remark = 'x' WHERE mooring_id = 1;
-- case: a chain in plsql [plsql]
-- finds: 2 trigger-writes ask
CREATE TRIGGER charged AFTER UPDATE OF fee ON mooring FOR EACH ROW BEGIN UPDATE account SET owed = :NEW.fee WHERE mooring_id = :NEW.mooring_id; END;
/
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
UPDATE mooring SET remark = 'x' WHERE mooring_id = 1;
-- case: a chain in sqlite, by an upsert too [sqlite]
-- finds: 1 trigger-writes ask
-- finds: 2 trigger-writes ask
CREATE TRIGGER charged AFTER UPDATE OF fee ON mooring BEGIN UPDATE account SET owed = NEW.fee WHERE mooring_id = NEW.mooring_id; END;
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
INSERT INTO mooring (mooring_id, fee, status) VALUES (1, 2, 'x') ON CONFLICT (mooring_id) DO UPDATE SET fee = 3;
-- case: a rule writes as well [postgresql]
-- finds: 1 trigger-writes ask
CREATE RULE charged AS ON DELETE TO mooring DO ALSO DELETE FROM account WHERE mooring_id = OLD.mooring_id;
DELETE FROM mooring WHERE mooring_id = 1;
-- case: a rule that does nothing instead [postgresql]
-- finds: 1 trigger-blocks stop
CREATE RULE frozen AS ON DELETE TO mooring DO INSTEAD NOTHING;
DELETE FROM mooring WHERE mooring_id = 1;
-- case: another column is rewritten [postgresql]
-- finds: 2 trigger-rewrites ask
CREATE FUNCTION classify() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.class := CASE WHEN NEW.depth_m > 9 THEN 'deep' ELSE 'flat' END; RETURN NEW; END $$;
CREATE TRIGGER classified BEFORE UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION classify();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: another column is rewritten in mysql and plsql [mysql mariadb]
-- finds: 1 trigger-rewrites ask
CREATE TRIGGER classified BEFORE UPDATE ON berth FOR EACH ROW SET NEW.class = IF(NEW.depth_m > 9, 'deep', 'flat');
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: a column that is only tidied, and not written here [mysql mariadb]
-- finds: 1 trigger-rewrites note
CREATE TRIGGER tidied BEFORE UPDATE ON berth FOR EACH ROW SET NEW.class = UPPER(TRIM(NEW.class));
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: the tidied column is written [mysql mariadb]
-- finds: 1 trigger-rewrites note
CREATE TRIGGER tidied BEFORE UPDATE ON berth FOR EACH ROW SET NEW.class = UPPER(TRIM(NEW.class));
UPDATE berth SET class = 'deep' WHERE berth_id = 1;
-- case: a stamp [postgresql]
-- finds: 3 auto-stamp note
-- finds: 4 auto-stamp note
ALTER TABLE berth ADD COLUMN changed_at timestamp;
CREATE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.changed_at := now(); RETURN NEW; END $$;
CREATE TRIGGER stamped BEFORE UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION stamp();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
UPDATE berth SET depth_m = 4 WHERE berth_id = 2;
-- case: TRUNCATE fires no delete trigger [postgresql]
-- finds: 2 trigger-skipped ask
CREATE FUNCTION audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id, 'gone'); RETURN OLD; END $$;
CREATE TRIGGER audited AFTER DELETE ON mooring FOR EACH ROW EXECUTE FUNCTION audit();
TRUNCATE mooring;
-- case: the trigger is disabled, and switched on again [postgresql]
-- finds: 3 trigger-skipped ask
-- finds: 5 trigger-writes note
CREATE FUNCTION audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id, 'gone'); RETURN OLD; END $$;
CREATE TRIGGER audited AFTER DELETE ON mooring FOR EACH ROW EXECUTE FUNCTION audit();
ALTER TABLE mooring DISABLE TRIGGER audited;
DELETE FROM mooring WHERE mooring_id = 1;
ALTER TABLE mooring ENABLE TRIGGER audited;
DELETE FROM mooring WHERE mooring_id = 2;
-- case: the replication role keeps triggers from firing [postgresql]
-- finds: 3 trigger-skipped ask
CREATE FUNCTION audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id, 'gone'); RETURN OLD; END $$;
CREATE TRIGGER audited AFTER DELETE ON mooring FOR EACH ROW EXECUTE FUNCTION audit();
SET session_replication_role = replica;
DELETE FROM mooring WHERE mooring_id = 1;
-- case: REPLACE fires no delete trigger by itself [sqlite]
-- finds: 1 trigger-skipped ask
CREATE TRIGGER audited AFTER DELETE ON mooring BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id, 'gone'); END;
REPLACE INTO mooring (mooring_id, fee, status) VALUES (1, 2, 'x');
-- case: REPLACE under recursive_triggers does [sqlite]
-- finds: 2 trigger-writes note
CREATE TRIGGER audited AFTER DELETE ON mooring BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id, 'gone'); END;
PRAGMA recursive_triggers = ON;
REPLACE INTO mooring (mooring_id, fee, status) VALUES (1, 2, 'x');
-- case: a trigger that changes its own table [postgresql]
-- finds: 2 trigger-loop stop
CREATE FUNCTION again() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE berth SET depth_m = depth_m + 1 WHERE berth_id = NEW.berth_id; RETURN NEW; END $$;
CREATE TRIGGER again AFTER UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION again();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: two triggers that set each other off [postgresql]
-- finds: 4 trigger-loop stop
-- finds: 4 trigger-writes ask
CREATE FUNCTION ping() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = 1; RETURN NEW; END $$;
CREATE FUNCTION pong() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE mooring SET fee = 1; RETURN NEW; END $$;
CREATE TRIGGER ping AFTER UPDATE ON mooring FOR EACH STATEMENT EXECUTE FUNCTION ping();
CREATE TRIGGER pong AFTER UPDATE ON account FOR EACH STATEMENT EXECUTE FUNCTION pong();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: a guard on the depth ends the round [postgresql]
CREATE FUNCTION again() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF pg_trigger_depth() = 1 THEN UPDATE berth SET depth_m = depth_m + 1 WHERE berth_id = NEW.berth_id; END IF; RETURN NEW; END $$;
CREATE TRIGGER again AFTER UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION again();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: the column list ends the round [postgresql]
CREATE FUNCTION again() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE berth SET class = 'x' WHERE berth_id = NEW.berth_id; RETURN NEW; END $$;
CREATE TRIGGER again AFTER UPDATE OF depth_m ON berth FOR EACH ROW EXECUTE FUNCTION again();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: mysql refuses a trigger that changes its own table [mysql mariadb]
-- finds: 1 trigger-loop stop
CREATE TRIGGER again AFTER UPDATE ON berth FOR EACH ROW UPDATE berth SET depth_m = 1;
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: sqlite fires no trigger inside itself [sqlite]
CREATE TRIGGER again AFTER UPDATE ON berth BEGIN UPDATE berth SET class = 'x' WHERE berth_id = NEW.berth_id; END;
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: a refusal under a condition that the data decides [postgresql]
-- finds: 2 trigger-blocks note
CREATE FUNCTION check_depth() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.depth_m < OLD.depth_m THEN RAISE EXCEPTION 'too shallow'; END IF; RETURN NEW; END $$;
CREATE TRIGGER checked BEFORE UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION check_depth();
UPDATE berth SET depth_m = 3 WHERE berth_id = 1;
-- case: a refusal for sure [postgresql]
-- finds: 2 trigger-blocks stop
CREATE FUNCTION refuse() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'rows of berth stay'; END $$;
CREATE TRIGGER kept BEFORE DELETE ON berth FOR EACH ROW EXECUTE FUNCTION refuse();
DELETE FROM berth WHERE berth_id = 1;
-- case: a refusal of another event, and one for another value [postgresql]
CREATE FUNCTION refuse() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.status = 'sunk' THEN RAISE EXCEPTION 'no'; END IF; RETURN NEW; END $$;
CREATE TRIGGER kept BEFORE INSERT OR UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION refuse();
UPDATE mooring SET status = 'left' WHERE mooring_id = 1;
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: rows dropped silently [postgresql]
-- finds: 2 trigger-blocks ask
CREATE FUNCTION drop_row() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.fee > 100 THEN RETURN NULL; END IF; RETURN NEW; END $$;
CREATE TRIGGER dropped BEFORE UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION drop_row();
UPDATE mooring SET fee = fee + 9 WHERE mooring_id = 1;
-- case: dynamic SQL in a trigger [postgresql]
-- finds: 2 opaque-code ask
CREATE FUNCTION spread() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'UPDATE ' || TG_ARGV[0] || ' SET owed = 0'; RETURN NEW; END $$;
CREATE TRIGGER spread AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION spread('account');
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: dynamic SQL whose text is constant is read [postgresql]
-- finds: 2 trigger-writes ask
CREATE FUNCTION spread() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'UPDATE account SET owed = 0'; RETURN NEW; END $$;
CREATE TRIGGER spread AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION spread();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: a procedure that touches one row, and one that reaches all [postgresql]
-- finds: 2 routine-writes note
-- finds: 3 routine-writes ask
CREATE PROCEDURE close_one(p integer) LANGUAGE plpgsql AS $$ BEGIN UPDATE mooring SET status = 'left' WHERE mooring_id = p; END $$;
CREATE PROCEDURE close_all() LANGUAGE plpgsql AS $$ BEGIN UPDATE mooring SET status = 'left'; END $$;
CALL close_one(3);
CALL close_all();
-- case: a function with side effects in a filter [postgresql]
-- finds: 1 routine-writes ask
CREATE FUNCTION paid(p integer) RETURNS boolean LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = 0 WHERE mooring_id = p; RETURN true; END $$;
SELECT mooring_id FROM mooring WHERE paid(mooring_id);
-- case: a function that only reads [postgresql]
CREATE FUNCTION owes(p integer) RETURNS boolean LANGUAGE plpgsql AS $$ BEGIN RETURN EXISTS (SELECT 1 FROM account WHERE mooring_id = p AND owed > 0); END $$;
SELECT mooring_id FROM mooring WHERE owes(mooring_id);
-- case: EXEC of a named procedure [tsql]
-- finds: 1 routine-writes ask
CREATE PROCEDURE close_all AS BEGIN UPDATE mooring SET status = 'left'; END
GO
EXEC close_all;
-- case: a bare call in a block [plsql]
-- finds: 3 routine-writes ask
CREATE PROCEDURE close_all AS BEGIN UPDATE mooring SET status = 'left'; END;
/
BEGIN close_all; END;
/
-- case: a value that a trigger replaces on INSERT [postgresql]
-- finds: 2 trigger-rewrites note
CREATE FUNCTION code() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.class := 'X' || NEW.berth_id; RETURN NEW; END $$;
CREATE TRIGGER coded BEFORE INSERT ON berth FOR EACH ROW EXECUTE FUNCTION code();
INSERT INTO berth (berth_id, depth_m, class) VALUES (1, 3, 'deep');
-- case: one that it only tidies [postgresql]
CREATE FUNCTION tidy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.class := lower(NEW.class); RETURN NEW; END $$;
CREATE TRIGGER tidied BEFORE INSERT ON berth FOR EACH ROW EXECUTE FUNCTION tidy();
INSERT INTO berth (berth_id, depth_m, class) VALUES (1, 3, 'Deep');
-- case: a rule that makes an UPDATE of a DELETE [postgresql]
-- finds: 1 trigger-rewrites ask
CREATE RULE kept AS ON DELETE TO mooring DO INSTEAD UPDATE mooring SET status = 'gone' WHERE mooring_id = OLD.mooring_id;
DELETE FROM mooring WHERE mooring_id = 3;
-- case: a routine that the catalog lacks [postgresql mysql mariadb]
-- finds: 0 opaque-code note
CALL tidy_up();
-- case: a trigger that ends the round that it begins [postgresql]
CREATE FUNCTION paid() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.remark IS DISTINCT FROM 'paid' THEN UPDATE mooring SET remark = 'paid' WHERE mooring_id = NEW.mooring_id; END IF; RETURN NEW; END $$;
CREATE TRIGGER paid_for AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION paid();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
-- case: one that goes round and round [postgresql]
-- finds: 2 trigger-loop stop
CREATE FUNCTION paid() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE mooring SET remark = 'paid' WHERE mooring_id = NEW.mooring_id; RETURN NEW; END $$;
CREATE TRIGGER paid_for AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION paid();
UPDATE mooring SET fee = 3 WHERE mooring_id = 1;
