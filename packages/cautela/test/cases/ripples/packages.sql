-- hazards: routine-writes opaque-code broken-dependent
-- tables
CREATE TABLE slip (slip_id NUMBER(12) PRIMARY KEY, status VARCHAR2(10));
CREATE TABLE slip_copy (slip_id NUMBER(12), status VARCHAR2(10));
CREATE OR REPLACE PACKAGE pay AS
  FUNCTION rate(x NUMBER) RETURN NUMBER;
  PROCEDURE close_all;
END pay;
/
CREATE OR REPLACE PACKAGE BODY pay AS
  FUNCTION rate(x NUMBER) RETURN NUMBER IS BEGIN RETURN x * 2; END;
  PROCEDURE keep(p NUMBER) IS BEGIN INSERT INTO slip_copy SELECT * FROM slip WHERE slip_id = p; END;
  PROCEDURE close_one(p NUMBER) IS
  BEGIN
    keep(p);
    UPDATE slip SET status = 'CLOSED' WHERE slip_id = p;
  END close_one;
END pay;
/
-- case: a member is followed, and what it calls by its name alone [plsql]
-- finds: 1 routine-writes note
BEGIN
  pay.close_one(3);
END;
/
-- case: called from the client [plsql]
-- finds: 0 routine-writes note
EXEC Pay.Close_One(3)
-- case: a member that writes nothing [plsql]
UPDATE slip SET status = pay.rate(3) WHERE slip_id = 3;
-- case: no member of that name [plsql]
-- finds: 1 opaque-code note
BEGIN
  pay.open_all;
END;
/
-- case: another package [plsql]
-- finds: 1 opaque-code note
BEGIN
  other.close_one(3);
END;
/
-- case: what comes with the engine and writes no rows, in a procedure of the script [plsql]
CREATE OR REPLACE PROCEDURE tell(n NUMBER) IS BEGIN DBMS_OUTPUT.PUT_LINE(n); UTL_FILE.FCLOSE_ALL; END;
/
EXEC tell(3)
