-- hazards: routine-writes opaque-code
-- tables
CREATE TABLE customer (customer_id integer NOT NULL PRIMARY KEY, tax_no varchar(20), name varchar(40) NOT NULL);
-- case: a routine of the script adds a column and fills it [mysql mariadb]
DELIMITER $$
CREATE PROCEDURE add_vat()
BEGIN
  IF NOT EXISTS (SELECT * FROM information_schema.columns WHERE table_name = 'customer' AND column_name = 'vat_id') THEN
    ALTER TABLE customer ADD vat_id varchar(20) NULL;
    UPDATE customer SET vat_id = tax_no WHERE tax_no LIKE 'DE%';
  END IF;
END$$
DELIMITER ;
CALL add_vat();
DROP PROCEDURE add_vat;
-- case: and changes another one [mysql mariadb]
-- finds: 3 routine-writes ask
DELIMITER $$
CREATE PROCEDURE add_vat()
BEGIN
  ALTER TABLE customer ADD vat_id varchar(20) NULL;
  UPDATE customer SET vat_id = tax_no, tax_no = NULL WHERE tax_no LIKE 'DE%';
END$$
DELIMITER ;
CALL add_vat();
