-- case: widths say nothing, unsigned does
-- holds: berth (berth_id int unsigned!, code varchar(10)! = '', depth decimal(6,0), open tinyint)  key berth_id  unique code
CREATE TABLE berth (berth_id INT(11) UNSIGNED NOT NULL AUTO_INCREMENT, code VARCHAR(10) NOT NULL DEFAULT '', depth DECIMAL(6), open TINYINT(1), PRIMARY KEY (berth_id), UNIQUE KEY berth_code (code), KEY berth_depth (depth));
-- case: CHANGE, MODIFY, AFTER, FIRST
-- holds: berth (note text, berth_id int!, depth int, sign varchar(20)!, quay text)  key berth_id
CREATE TABLE berth (berth_id INT PRIMARY KEY, code VARCHAR(10), quay VARCHAR(10));
ALTER TABLE berth CHANGE code sign VARCHAR(20) NOT NULL, MODIFY quay TEXT, ADD COLUMN depth INT AFTER berth_id, ADD note TEXT FIRST;
-- case: LIKE takes all
-- holds: berth (berth_id int!, code varchar(10)! = 'N')  key berth_id  unique code
-- holds: berth_copy (berth_id int!, code varchar(10)! = 'N')  key berth_id  unique code
CREATE TABLE berth (berth_id INT PRIMARY KEY, code VARCHAR(10) NOT NULL DEFAULT 'N', UNIQUE (code));
CREATE TABLE berth_copy LIKE berth;
-- case: two tables swapped in one RENAME
-- holds: berth (code int!)  key code
-- holds: berth_old (berth_id int!)  key berth_id
CREATE TABLE berth (berth_id INT PRIMARY KEY);
CREATE TABLE berth_new (code INT PRIMARY KEY);
RENAME TABLE berth TO berth_old, berth_new TO berth;
-- case: keys dropped by their kind
-- holds: owner (owner_id int!)  key owner_id
-- holds: vessel (vessel_id int!, owner_id int, code int)
CREATE TABLE owner (owner_id INT PRIMARY KEY);
CREATE TABLE vessel (vessel_id INT PRIMARY KEY, owner_id INT, code INT, UNIQUE KEY once (code), CONSTRAINT vessel_owner FOREIGN KEY (owner_id) REFERENCES owner (owner_id) ON DELETE SET NULL);
ALTER TABLE vessel DROP FOREIGN KEY vessel_owner, DROP INDEX once, DROP PRIMARY KEY;
