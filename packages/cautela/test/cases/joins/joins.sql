-- hazards: unknown-name ambiguous-name wrong-target open-join idle-join off-key-join fan-out outer-null toothless-join undone-outer shadowed-alias many-targets
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(20));
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), name varchar(60) NOT NULL, class varchar(20), phone varchar(20));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel (vessel_id), status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);
CREATE TABLE notice (owner_id integer, vessel_id integer);
-- case: a column that is not there [postgresql mysql sqlite tsql plsql]
-- finds: 0 unknown-name stop
UPDATE mooring SET fees = 0 WHERE mooring_id = 3;
-- case: SET takes its columns from the target alone [postgresql sqlite]
-- finds: 0 unknown-name stop
UPDATE vessel SET fee = 3 FROM mooring AS m WHERE m.vessel_id = vessel.vessel_id;
-- case: SET of a join that names no table [mysql mariadb]
-- finds: 0 ambiguous-name stop
UPDATE vessel v JOIN mooring m ON m.vessel_id = v.vessel_id SET vessel_id = 4 WHERE m.mooring_id = 3;
-- case: a column that is not there, in code [plsql]
-- finds: 1 unknown-name stop
BEGIN
  UPDATE mooring SET fees = 0 WHERE mooring_id = 3;
  UPDATE mooring SET fee = 0 WHERE mooring_id = wanted;
END;
/
-- case: a column that is not there, in a block [postgresql]
-- finds: 2 unknown-name stop
DO $do$
BEGIN
  UPDATE mooring SET fees = 0 WHERE mooring_id = 3;
  UPDATE mooring SET fee = wanted WHERE mooring_id = 3;
END $do$;
-- case: an alias that is not there [postgresql mysql sqlite tsql]
-- finds: 0 unknown-name stop
DELETE FROM mooring WHERE m.mooring_id = 3;
-- case: names of a common table and of a derived one [postgresql sqlite]
WITH old AS (SELECT mooring_id AS number FROM mooring WHERE status = 'left') DELETE FROM mooring WHERE mooring_id IN (SELECT number FROM old);
UPDATE mooring SET fee = 0 WHERE mooring_id IN (SELECT x.n FROM (SELECT mooring_id AS n FROM mooring) AS x);
-- case: a column of two tables [postgresql]
-- finds: 0 ambiguous-name stop
UPDATE mooring SET fee = 0 FROM vessel, owner WHERE vessel.vessel_id = mooring.vessel_id AND owner.owner_id = vessel.owner_id AND phone = 'x';
-- case: the same column by USING [postgresql sqlite]
INSERT INTO notice (owner_id, vessel_id) SELECT owner_id, vessel_id FROM vessel JOIN owner USING (owner_id);
-- case: a second copy of the target [postgresql sqlite]
-- finds: 0 wrong-target stop
UPDATE mooring SET fee = 0 FROM mooring AS m WHERE m.mooring_id = 3;
-- case: the same statement where the alias is the target [tsql]
UPDATE mooring SET fee = 0 FROM mooring AS m WHERE m.mooring_id = 3;
-- case: a target without a tie to its FROM [postgresql sqlite]
-- finds: 0 wrong-target stop
UPDATE mooring SET fee = 0 FROM vessel v WHERE v.class = 'sail';
-- case: tied by its key [postgresql sqlite]
UPDATE mooring SET fee = 0 FROM vessel v WHERE v.class = 'sail' AND v.vessel_id = mooring.vessel_id;
-- case: a join that names no table to delete from [jet]
-- finds: 0 wrong-target stop
DELETE FROM mooring INNER JOIN vessel ON vessel.vessel_id = mooring.vessel_id WHERE vessel.class = 'sail';
-- case: every owner with every vessel [postgresql mysql sqlite tsql plsql]
-- finds: 0 open-join stop
INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM owner o, vessel v;
-- case: said openly [postgresql mysql sqlite tsql]
INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM owner o CROSS JOIN vessel v;
-- case: ON that does not mention the joined table [postgresql mysql sqlite tsql]
-- finds: 0 idle-join stop
INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM vessel v JOIN owner o ON v.owner_id = v.owner_id;
-- case: joined beside the key [postgresql sqlite]
-- finds: 0 off-key-join ask
UPDATE mooring SET fee = 0 FROM vessel v WHERE v.vessel_id = mooring.mooring_id AND v.class = 'sail';
-- case: several rows of the source [postgresql sqlite]
-- finds: 0 fan-out ask
UPDATE vessel SET class = m.status FROM mooring m WHERE m.vessel_id = vessel.vessel_id;
-- case: several rows of the source, in mysql's form [mysql mariadb]
-- finds: 0 fan-out ask
UPDATE vessel v JOIN mooring m ON m.vessel_id = v.vessel_id SET v.class = m.status;
-- case: one row for each key [postgresql sqlite]
UPDATE vessel SET class = m.last FROM (SELECT vessel_id, max(status) AS last FROM mooring GROUP BY vessel_id) m WHERE m.vessel_id = vessel.vessel_id;
-- case: the parent is always there [postgresql mysql tsql plsql]
UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE class = 'sail';
-- case: the parent need not be there where keys are not kept [sqlite]
-- finds: 0 outer-null ask
UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE class = 'sail';
-- case: NULL into a required column [postgresql mysql sqlite]
-- finds: 0 outer-null ask
UPDATE vessel SET name = (SELECT o.name FROM owner o WHERE o.owner_id = vessel.vessel_id) WHERE class = 'sail';
-- case: the match is asked for, or another value is given [postgresql mysql sqlite]
UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id) WHERE EXISTS (SELECT 1 FROM owner o WHERE o.owner_id = vessel.owner_id);
UPDATE vessel SET phone = COALESCE((SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id), phone) WHERE class = 'sail';
UPDATE vessel SET class = (SELECT count(*) FROM mooring m WHERE m.vessel_id = vessel.vessel_id) WHERE vessel_id > 4;
-- case: a LEFT JOIN that filters nothing [mysql mariadb]
-- finds: 0 toothless-join stop
UPDATE mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail' SET m.fee = 0;
-- case: a LEFT JOIN for what has no match [mysql mariadb]
DELETE m FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.vessel_id IS NULL;
-- case: a LEFT JOIN undone [postgresql mysql sqlite tsql]
-- finds: 0 undone-outer note
INSERT INTO notice (owner_id) SELECT v.owner_id FROM vessel v LEFT JOIN owner o ON o.owner_id = v.owner_id WHERE o.phone = 'x';
-- case: an alias that is another table's name [postgresql sqlite]
-- finds: 0 shadowed-alias ask
DELETE FROM mooring AS vessel WHERE vessel.mooring_id = 3;
-- case: two tables at once [mysql mariadb]
-- finds: 0 many-targets ask
DELETE m, v FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id WHERE m.mooring_id = 3;
-- case: one of two [mysql mariadb]
DELETE m FROM mooring m JOIN vessel v ON v.vessel_id = m.vessel_id WHERE v.class = 'sail';
