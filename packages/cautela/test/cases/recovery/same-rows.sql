-- hazards: thin-backup fan-out off-key-join no-way-back
-- tables
CREATE TABLE owner (owner_id integer PRIMARY KEY, town varchar(20));
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), fee integer NOT NULL);
-- case: the copy by a join, the change by a subquery [postgresql sqlite mysql mariadb]
CREATE TABLE vessel_before AS SELECT v.* FROM vessel v JOIN owner o ON o.owner_id = v.owner_id WHERE o.town = 'Ulm';
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
-- case: the copy by a subquery, the change by a join [postgresql]
CREATE TABLE vessel_before AS SELECT * FROM vessel WHERE owner_id IN (SELECT x.owner_id FROM owner x WHERE 'Ulm' = x.town);
DELETE FROM vessel v USING owner o WHERE o.owner_id = v.owner_id AND o.town = 'Ulm';
-- case: the copy by EXISTS [postgresql sqlite mysql mariadb]
CREATE TABLE vessel_before AS SELECT * FROM vessel v WHERE EXISTS (SELECT 1 FROM owner o WHERE o.owner_id = v.owner_id AND o.town = 'Ulm');
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
-- case: the owners of another town [postgresql sqlite mysql mariadb]
-- finds: 0 thin-backup ask
CREATE TABLE vessel_before AS SELECT v.* FROM vessel v JOIN owner o ON o.owner_id = v.owner_id WHERE o.town = 'Bonn';
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
-- case: tied by another column [postgresql sqlite mysql mariadb]
-- finds: 0 thin-backup ask
CREATE TABLE vessel_before AS SELECT v.* FROM vessel v JOIN owner o ON o.owner_id = v.fee WHERE o.town = 'Ulm';
DELETE FROM vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm');
-- case: a LEFT JOIN from the table loses no rows [postgresql sqlite mysql mariadb]
CREATE TABLE vessel_new AS SELECT v.vessel_id, v.owner_id, v.fee, o.town FROM vessel v LEFT JOIN owner o ON o.owner_id = v.owner_id;
DROP TABLE vessel;
-- case: nor does an inner join by a key that is never NULL [postgresql sqlite mysql mariadb]
CREATE TABLE vessel_new AS SELECT v.vessel_id, v.owner_id, v.fee, o.town FROM vessel v JOIN owner o ON o.owner_id = v.owner_id;
DROP TABLE vessel;
-- case: another inner join may [postgresql sqlite mysql mariadb]
-- finds: 0 thin-backup ask
CREATE TABLE vessel_new AS SELECT v.vessel_id, v.owner_id, v.fee, o.town FROM vessel v JOIN owner o ON o.owner_id = v.fee;
DROP TABLE vessel;
-- case: DISTINCT with the key [postgresql sqlite mysql mariadb]
CREATE TABLE vessel_before AS SELECT DISTINCT vessel_id, owner_id, fee FROM vessel;
DELETE FROM vessel WHERE fee > 3;
-- case: values come back from a copy that keeps the key [postgresql sqlite]
CREATE TABLE vessel_was AS SELECT vessel_id, fee FROM vessel;
UPDATE vessel SET fee = w.fee FROM vessel_was w WHERE w.vessel_id = vessel.vessel_id;
-- case: from a copy that may hold a vessel twice [postgresql sqlite]
-- finds: 2 fan-out ask
CREATE TABLE vessel_was AS SELECT vessel_id, fee FROM vessel;
INSERT INTO vessel_was (vessel_id, fee) SELECT vessel_id, fee + 1 FROM vessel;
UPDATE vessel SET fee = w.fee FROM vessel_was w WHERE w.vessel_id = vessel.vessel_id;
-- case: one row for each group [postgresql sqlite]
-- finds: 1 no-way-back note
CREATE TABLE town_fee AS SELECT owner_id, max(fee) AS most FROM vessel GROUP BY owner_id;
UPDATE vessel SET fee = t.most FROM town_fee t WHERE t.owner_id = vessel.owner_id AND vessel.fee > 7;
