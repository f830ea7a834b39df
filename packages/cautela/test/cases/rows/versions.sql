-- hazards: every-row dropped-rows
-- tables
CREATE TABLE version (number varchar(20) NOT NULL);
CREATE TABLE schema_info (value integer NOT NULL);
CREATE TABLE tide (number integer NOT NULL);
CREATE TABLE tag (vessel_id integer NOT NULL, word varchar(20) NOT NULL);
CREATE TABLE tag_once (vessel_id integer NOT NULL, word varchar(20) NOT NULL, PRIMARY KEY (vessel_id, word));
CREATE TABLE tag_noted (vessel_id integer NOT NULL PRIMARY KEY, word varchar(20) NOT NULL);
-- case: a release in the table of the version [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE version SET number = '3.7.0';
-- case: a number in it [postgresql mysql mariadb sqlite tsql plsql jet]
UPDATE schema_info SET value = 37;
-- case: a number in another [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 every-row stop
UPDATE tide SET number = 37;
-- case: rows that are nothing but their key [mysql mariadb]
-- finds: 0 dropped-rows note
INSERT IGNORE INTO tag_once (vessel_id, word) SELECT vessel_id, word FROM tag;
-- case: rows of which one is taken [mysql mariadb]
-- finds: 0 dropped-rows ask
INSERT IGNORE INTO tag_noted (vessel_id, word) SELECT vessel_id, word FROM tag;
