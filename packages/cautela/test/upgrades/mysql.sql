-- script: 7.1 to 7.2, columns, seeds, the version in one row
-- harbour 7.1 to 7.2
SET NAMES utf8mb4;
ALTER TABLE `berth` ADD COLUMN `quay` VARCHAR(20) NULL AFTER `code`;
UPDATE `berth` SET `quay` = SUBSTRING_INDEX(`code`, '-', 1);
ALTER TABLE `vessel` ADD `gross_tonnage` INT UNSIGNED NULL, ADD `flag` CHAR(2) NOT NULL DEFAULT 'DK', ADD KEY `by_flag` (`flag`);
CREATE TABLE IF NOT EXISTS `flag` (`code` CHAR(2) NOT NULL, `name` VARCHAR(60) NOT NULL, PRIMARY KEY (`code`)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
INSERT IGNORE INTO `flag` (`code`, `name`) VALUES ('DK', 'Denmark'), ('NO', 'Norway'), ('SE', 'Sweden');
REPLACE INTO `setting` (`name`, `value`) VALUES ('tide.unit', 'm'), ('tide.zero', '0');
UPDATE `db_version` SET `version` = '7.2';
-- script: a table is rebuilt under another name, its rows go along
CREATE TABLE mooring_new LIKE mooring;
ALTER TABLE mooring_new ADD COLUMN paid_on DATE NULL, MODIFY COLUMN remark TEXT NULL;
INSERT INTO mooring_new (mooring_id, vessel_id, berth_id, from_day, to_day, fee, remark)
SELECT mooring_id, vessel_id, berth_id, from_day, to_day, fee, remark FROM mooring;
RENAME TABLE mooring TO mooring_before_72, mooring_new TO mooring;
UPDATE Version SET VersionId = 12;
-- script: columns only where they are missing, by prepared statements
SET @have = (SELECT COUNT(*) FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = 'pilot' AND column_name = 'languages');
SET @sql = IF(@have = 0, 'ALTER TABLE pilot ADD COLUMN languages VARCHAR(60) NULL', 'SELECT 1');
PREPARE stmt FROM @sql;
EXECUTE stmt;
DEALLOCATE PREPARE stmt;
UPDATE pilot SET languages = 'da,en';
UPDATE pilot SET since = '2020-01-01' WHERE since IS NULL;
DELETE FROM setting WHERE name IN ('pilot.old', 'pilot.older');
INSERT INTO setting (name, value) VALUES ('pilot.list', 'da,en') ON DUPLICATE KEY UPDATE value = VALUES(value);
-- script: a key goes and comes back so that a column can grow
ALTER TABLE mooring DROP FOREIGN KEY fk_mooring_berth;
ALTER TABLE berth MODIFY berth_id BIGINT NOT NULL AUTO_INCREMENT;
ALTER TABLE mooring MODIFY berth_id BIGINT NOT NULL;
ALTER TABLE mooring ADD CONSTRAINT fk_mooring_berth FOREIGN KEY (berth_id) REFERENCES berth (berth_id);
ALTER TABLE tide_reading DROP INDEX by_station, ADD INDEX by_station_and_day (station, taken_at);
ANALYZE TABLE berth, mooring;
-- script: words of a column are tidied, a cache is emptied
TRUNCATE TABLE tide_cache;
DELETE FROM user_sessions WHERE last_seen < '2025-01-01';
UPDATE vessel SET class = 'sail' WHERE class = 'sailing';
UPDATE vessel SET class = 'motor' WHERE class IN ('motorboat');
UPDATE owner SET mail = LOWER(TRIM(mail)) WHERE mail <> LOWER(TRIM(mail));
ALTER TABLE vessel ADD COLUMN class_id INT NULL;
UPDATE vessel v JOIN vessel_class c ON c.name = v.class SET v.class_id = c.class_id;
DROP TABLE IF EXISTS tmp_class_map;
UPDATE schema_info SET version = 31, updated_at = NOW();
-- script: a first installation
-- cautela: install the harbour office, on an empty database
DROP TABLE IF EXISTS berth;
CREATE TABLE berth (berth_id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, code VARCHAR(10) NOT NULL UNIQUE, depth_m DECIMAL(4,1) NOT NULL);
DROP TABLE IF EXISTS vessel;
CREATE TABLE vessel (vessel_id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, name VARCHAR(60) NOT NULL, class VARCHAR(20) NOT NULL);
LOCK TABLES berth WRITE;
INSERT INTO berth VALUES (1, 'N-01', 3.5), (2, 'N-02', 3.5), (3, 'S-01', 6.0);
UNLOCK TABLES;
INSERT INTO vessel (name, class) VALUES ('Asta', 'sail'), ('Brise', 'motor');
UPDATE berth SET depth_m = 4.0;
DELIMITER $$
CREATE TRIGGER berth_tidy BEFORE INSERT ON berth FOR EACH ROW BEGIN SET NEW.code = UPPER(NEW.code); END$$
DELIMITER ;
