-- script: 2.8 to 2.9, columns, seeds, the version
ALTER TABLE berth ADD (quay VARCHAR2(20), lit NUMBER(1) DEFAULT 0 NOT NULL);
UPDATE berth SET quay = SUBSTR(code, 1, 1);
CREATE TABLE flag (code CHAR(2) NOT NULL, name VARCHAR2(60) NOT NULL, CONSTRAINT flag_pk PRIMARY KEY (code));
INSERT INTO flag (code, name) VALUES ('DK', 'Denmark');
INSERT INTO flag (code, name) VALUES ('NO', 'Norway');
UPDATE schema_version SET version = '2.9';
COMMIT;
-- script: a column is added by a block if it is missing
DECLARE
  n NUMBER;
BEGIN
  SELECT COUNT(*) INTO n FROM user_tab_columns WHERE table_name = 'PILOT' AND column_name = 'LANGUAGES';
  IF n = 0 THEN
    EXECUTE IMMEDIATE 'ALTER TABLE pilot ADD (languages VARCHAR2(60))';
  END IF;
END;
/
UPDATE pilot SET languages = 'da,en';
UPDATE db_info SET version = 30;
COMMIT;
-- script: a package and a view are made again
CREATE OR REPLACE VIEW moored_now AS
SELECT m.mooring_id, v.name, b.code FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id JOIN berth b ON b.berth_id = m.berth_id WHERE m.to_day IS NULL;
CREATE OR REPLACE PROCEDURE close_mooring (p_id IN NUMBER, p_day IN DATE) AS
BEGIN
  UPDATE mooring SET to_day = p_day, status = 'left' WHERE mooring_id = p_id AND to_day IS NULL;
END;
/
GRANT EXECUTE ON close_mooring TO harbour_clerk;
GRANT SELECT ON moored_now TO harbour_clerk;
-- script: values move into a new table
CREATE TABLE owner_contact (owner_id NUMBER NOT NULL, kind VARCHAR2(10) NOT NULL, value VARCHAR2(120) NOT NULL);
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'mail', mail FROM owner WHERE mail IS NOT NULL;
INSERT INTO owner_contact (owner_id, kind, value) SELECT owner_id, 'fax', fax FROM owner WHERE fax IS NOT NULL;
COMMIT;
ALTER TABLE owner DROP COLUMN fax;
ALTER TABLE owner_contact ADD CONSTRAINT owner_contact_pk PRIMARY KEY (owner_id, kind);
CREATE INDEX owner_contact_by_value ON owner_contact (LOWER(value));
COMMENT ON TABLE owner_contact IS 'how an owner is reached';
UPDATE schema_version SET version = '3.0';
COMMIT;
-- script: words are tidied and a sequence is made
CREATE SEQUENCE berth_seq START WITH 1000;
UPDATE vessel SET class = 'sail' WHERE class = 'sailing';
UPDATE vessel SET class = 'motor' WHERE class = 'motorboat';
UPDATE owner SET mail = LOWER(mail) WHERE mail <> LOWER(mail);
DELETE FROM session_cache;
DELETE FROM setting WHERE name = 'pilot.old';
INSERT INTO setting (name, value) VALUES ('pilot.list', 'da,en');
COMMIT;
