CREATE TABLE keeper (keeper_id integer PRIMARY KEY, name varchar(20) NOT NULL, status varchar(10) DEFAULT 'in' NOT NULL, touched timestamp NULL ON UPDATE CURRENT_TIMESTAMP);
CREATE TABLE boat (boat_id integer PRIMARY KEY, keeper_id integer, sign varchar(20), status varchar(10) DEFAULT 'in' NOT NULL, FOREIGN KEY (keeper_id) REFERENCES keeper (keeper_id) ON DELETE CASCADE ON UPDATE CASCADE);
CREATE TABLE stay (stay_id integer PRIMARY KEY, boat_id integer, fee integer DEFAULT 0 NOT NULL, FOREIGN KEY (boat_id) REFERENCES boat (boat_id) ON DELETE SET NULL);
CREATE TABLE crew (crew_id integer PRIMARY KEY, boat_id integer NOT NULL, name varchar(20), FOREIGN KEY (boat_id) REFERENCES boat (boat_id) ON DELETE CASCADE);
CREATE TABLE tally (name varchar(20) PRIMARY KEY, n integer DEFAULT 0 NOT NULL);
CREATE TABLE journal (line_id integer AUTO_INCREMENT PRIMARY KEY, what varchar(40), ref integer);
CREATE TABLE past (boat_id integer, sign varchar(20));
INSERT INTO keeper (keeper_id, name) VALUES (1, 'Asta'), (2, 'Bo'), (3, 'Cleo');
INSERT INTO boat (boat_id, keeper_id, sign) VALUES (10, 1, 'A'), (11, 1, 'B'), (12, 2, 'C'), (13, NULL, 'D');
INSERT INTO stay (stay_id, boat_id, fee) VALUES (100, 10, 5), (101, 11, 6), (102, 12, 7), (103, 13, 8);
INSERT INTO crew (crew_id, boat_id, name) VALUES (1, 10, 'x'), (2, 12, 'y');
INSERT INTO tally (name) VALUES ('boat'), ('stay'), ('journal');
DELIMITER //
CREATE TRIGGER keeper_status AFTER UPDATE ON keeper FOR EACH ROW BEGIN
  IF NOT (OLD.status <=> NEW.status) THEN INSERT INTO journal (what, ref) VALUES ('keeper', NEW.keeper_id); END IF;
END//
CREATE TRIGGER boat_new AFTER INSERT ON boat FOR EACH ROW UPDATE tally SET n = n + 1 WHERE name = 'boat'//
CREATE TRIGGER boat_changed AFTER UPDATE ON boat FOR EACH ROW BEGIN
  IF NEW.status = 'gone' THEN DELETE FROM crew WHERE boat_id = NEW.boat_id;
  ELSE INSERT INTO journal (what, ref) VALUES ('boat', NEW.boat_id); END IF;
END//
CREATE TRIGGER boat_gone AFTER DELETE ON boat FOR EACH ROW INSERT INTO past VALUES (OLD.boat_id, OLD.sign)//
CREATE TRIGGER stay_rounded BEFORE UPDATE ON stay FOR EACH ROW BEGIN
  IF NEW.fee < 0 THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'no negative fee'; END IF;
  SET NEW.fee = NEW.fee + 0;
END//
CREATE TRIGGER tally_noted AFTER UPDATE ON tally FOR EACH ROW INSERT INTO journal (what, ref) VALUES ('tally', NEW.n)//
CREATE PROCEDURE bump(p integer) BEGIN
  UPDATE stay SET fee = fee + 1 WHERE stay_id = p;
  EXECUTE IMMEDIATE 'UPDATE past SET sign = 9';
END//
CREATE PROCEDURE close_boat(p integer) BEGIN UPDATE boat SET status = 'gone' WHERE boat_id = p; CALL bump(100); END//
CREATE FUNCTION taken(p integer) RETURNS integer BEGIN INSERT INTO journal (ref) VALUES (p); RETURN p; END//
DELIMITER ;
CREATE VIEW boat_in AS SELECT boat_id, keeper_id, sign, status FROM boat WHERE status = 'in';
CREATE VIEW boat_keeper AS SELECT b.boat_id, b.sign, k.name FROM boat b JOIN keeper k ON k.keeper_id = b.keeper_id;
-- statements
UPDATE keeper SET status = 'out' WHERE keeper_id = 1;
UPDATE keeper SET name = 'Zoe' WHERE keeper_id = 2;
UPDATE keeper SET keeper_id = 9 WHERE keeper_id = 1;
DELETE FROM keeper WHERE keeper_id = 1;
INSERT INTO boat (boat_id, keeper_id) VALUES (20, 3);
INSERT INTO boat SET boat_id = 21, keeper_id = 3;
UPDATE boat SET status = 'gone' WHERE boat_id = 12;
UPDATE boat SET status = 'dry' WHERE boat_id = 12;
DELETE FROM boat WHERE boat_id = 10;
DELETE b, k FROM boat b JOIN keeper k ON k.keeper_id = b.keeper_id WHERE k.keeper_id = 2;
REPLACE INTO boat (boat_id, keeper_id) VALUES (10, 2);
INSERT INTO boat (boat_id, keeper_id) VALUES (10, 2) ON DUPLICATE KEY UPDATE status = 'gone';
UPDATE stay SET fee = 1 WHERE stay_id = 100;
UPDATE tally SET n = 7 WHERE name = 'stay';
UPDATE boat_in SET sign = 'v' WHERE boat_id = 10;
INSERT INTO boat_in (boat_id, sign) VALUES (33, 'n');
DELETE FROM boat_in WHERE boat_id = 11;
UPDATE boat_keeper SET name = 'k' WHERE boat_id = 10;
UPDATE boat_keeper SET sign = 'k' WHERE boat_id = 10;
UPDATE boat b JOIN keeper k ON k.keeper_id = b.keeper_id SET b.sign = 'z', k.status = 'z' WHERE k.keeper_id = 1;
CALL close_boat(10);
SELECT taken(3);
TRUNCATE journal;
