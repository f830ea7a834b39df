-- hazards: counter-set-back
-- tables
CREATE TABLE loaf (loaf_id serial NOT NULL PRIMARY KEY, name varchar(20));
CREATE TABLE bun (bun_id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, name varchar(20));
-- case: a sequence begins again [postgresql]
-- finds: 0 counter-set-back ask
ALTER SEQUENCE loaf_loaf_id_seq RESTART WITH 1;
-- case: a sequence begins again without a number [postgresql]
-- finds: 0 counter-set-back ask
ALTER SEQUENCE IF EXISTS loaf_loaf_id_seq RESTART;
-- case: setval [postgresql]
-- finds: 0 counter-set-back ask
SELECT pg_catalog.setval('public.loaf_loaf_id_seq'::regclass, 1, false);
-- case: a counter of a column [postgresql]
-- finds: 0 counter-set-back ask
ALTER TABLE bun ALTER COLUMN bun_id RESTART WITH 1;
-- case: by what the table holds [postgresql]
SELECT setval('loaf_loaf_id_seq', (SELECT COALESCE(MAX(loaf_id), 0) + 1 FROM loaf), false);
-- case: after the table was emptied, by its name [postgresql]
TRUNCATE loaf;
ALTER SEQUENCE loaf_loaf_id_seq RESTART;
-- case: a table of the script's own [postgresql]
CREATE TABLE roll (roll_id serial PRIMARY KEY);
SELECT setval('roll_roll_id_seq', 1);
-- case: the rows came just before [postgresql]
INSERT INTO loaf (loaf_id, name) VALUES (1, 'rye');
SELECT setval('loaf_loaf_id_seq', 1);
-- case: forward [postgresql]
ALTER SEQUENCE loaf_loaf_id_seq RESTART WITH 100000;
