-- hazards: missing-required
-- tables
CREATE TABLE bill (bill_id int PRIMARY KEY, total int NOT NULL, tax int NOT NULL);
CREATE TRIGGER fill_bill BEFORE INSERT ON bill FOR EACH ROW SET NEW.tax = 4, NEW.bill_id = 3;
-- case: the trigger gives what is missing [mysql mariadb]
INSERT INTO bill (total) VALUES (1);
-- case: it does not give everything [mysql mariadb]
-- finds: 0 missing-required stop
INSERT INTO bill (tax) VALUES (1);
