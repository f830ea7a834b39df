-- hazards: unmet-constraint
-- tables
CREATE TABLE quay (quay_id integer NOT NULL PRIMARY KEY, name varchar(20));
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, quay_id integer, next_id integer, CONSTRAINT berth_next FOREIGN KEY (next_id) REFERENCES quay (quay_id));
-- case: a key over rows that nothing has kept apart [postgresql mysql mariadb tsql plsql]
-- finds: 0 unmet-constraint note
ALTER TABLE berth ADD CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id);
-- case: the rows are cleared before [postgresql mysql mariadb tsql plsql]
DELETE FROM berth WHERE quay_id NOT IN (SELECT quay_id FROM quay);
ALTER TABLE berth ADD CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id);
-- case: the column is written before [postgresql mysql mariadb tsql plsql]
UPDATE berth SET quay_id = NULL WHERE NOT EXISTS (SELECT 1 FROM quay q WHERE q.quay_id = berth.quay_id);
ALTER TABLE berth ADD CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quay (quay_id);
-- case: the column is new [postgresql mysql mariadb tsql plsql]
ALTER TABLE berth ADD spare_id integer;
ALTER TABLE berth ADD CONSTRAINT berth_spare FOREIGN KEY (spare_id) REFERENCES quay (quay_id);
-- case: a key that is made again [postgresql tsql plsql]
ALTER TABLE berth DROP CONSTRAINT berth_next;
ALTER TABLE berth ADD CONSTRAINT berth_after FOREIGN KEY (next_id) REFERENCES quay (quay_id) ON DELETE CASCADE;
-- case: a key that is made again [mysql mariadb]
ALTER TABLE berth DROP FOREIGN KEY berth_next;
ALTER TABLE berth ADD CONSTRAINT berth_after FOREIGN KEY (next_id) REFERENCES quay (quay_id) ON DELETE CASCADE;
