-- case: folded to capitals
-- holds: PLACE (BERTH_ID number(10)!, CODE varchar2(10), TAKEN date = SYSDATE, QUAY varchar2(10), DEPTH number(6,2))  key BERTH_ID
CREATE TABLE berth (berth_id NUMBER(10) PRIMARY KEY, code VARCHAR2(10) NOT NULL, taken DATE DEFAULT SYSDATE);
ALTER TABLE berth ADD (quay VARCHAR2(10), depth NUMBER(6,2));
ALTER TABLE berth MODIFY (code NULL);
RENAME berth TO place;
