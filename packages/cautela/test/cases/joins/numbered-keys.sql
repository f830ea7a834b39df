-- hazards: off-key-join
-- tables
CREATE TABLE patient (patient_id serial PRIMARY KEY, surname varchar(40) NOT NULL, ward_id integer);
CREATE TABLE drug (drug_id serial PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE patient_detail (patient_id serial PRIMARY KEY, note varchar(40));
CREATE TABLE chart (id serial PRIMARY KEY, title varchar(40));
CREATE TABLE chart_text (chart_id serial PRIMARY KEY, body varchar(40));
-- case: keys that count different things [postgresql]
-- finds: 0 off-key-join ask
UPDATE patient p SET surname = d.name FROM drug d WHERE d.drug_id = p.patient_id;
-- case: in a subquery that is joined [postgresql]
-- finds: 0 off-key-join ask
DELETE FROM patient USING drug d WHERE d.drug_id = patient.patient_id AND d.name = 'old';
-- case: the same key, in a table beside [postgresql]
UPDATE patient p SET surname = d.note FROM patient_detail d WHERE d.patient_id = p.patient_id;
-- case: a key that is named after the other table [postgresql]
UPDATE chart c SET title = t.body FROM chart_text t WHERE t.chart_id = c.id;
-- case: a key and a number that is no key [postgresql]
UPDATE patient p SET surname = d.name FROM drug d WHERE d.drug_id = p.ward_id;
