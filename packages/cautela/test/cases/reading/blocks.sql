-- hazards: unordered-limit dangling-reference hard-delete repeated-change other-dialect
-- tables
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, closed_on date, name varchar(20));
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, quay_id integer NOT NULL REFERENCES quay (quay_id), fee integer NOT NULL);
-- case: in a block as outside of it [postgresql]
-- finds: 2 unordered-limit ask
-- finds: 3 dangling-reference stop
-- finds: 6 repeated-change stop
DO $$ BEGIN
  DELETE FROM berth WHERE berth_id IN (SELECT berth_id FROM berth WHERE fee = 0 LIMIT 10);
  INSERT INTO berth (berth_id, quay_id, fee) VALUES (7, 77, 5);
  INSERT INTO quay (quay_id) VALUES (77);
  UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  DELETE FROM quay WHERE closed_on < '2020-01-01';
END $$;
-- case: in one of Oracle [plsql]
-- finds: 1 unordered-limit ask
-- finds: 2 dangling-reference stop
-- finds: 5 repeated-change stop
BEGIN
  DELETE FROM berth WHERE fee = 0 AND ROWNUM <= 10;
  INSERT INTO berth (berth_id, quay_id, fee) VALUES (7, 77, 5);
  INSERT INTO quay (quay_id) VALUES (77);
  UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  DELETE FROM quay WHERE closed_on < DATE '2020-01-01';
END;
/
-- case: in branches of which one runs, with variables, and in portions [plsql]
DECLARE
  v_step number := 1;
BEGIN
  IF v_step = 1 THEN
    UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  ELSE
    UPDATE berth SET fee = fee + 5 WHERE quay_id = 3;
  END IF;
  UPDATE berth SET fee = fee + v_step WHERE quay_id = 4;
  v_step := 2;
  UPDATE berth SET fee = fee + v_step WHERE quay_id = 4;
  LOOP
    DELETE FROM berth WHERE fee = 0 AND ROWNUM <= 1000;
    EXIT WHEN SQL%ROWCOUNT = 0;
  END LOOP;
END;
/
