-- hazards: unknown-name
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20), price integer, CONSTRAINT bun_key UNIQUE (kind, price));
CREATE TABLE oven (oven_id integer, hot integer);
-- case: no key [postgresql sqlite]
-- finds: 0 unknown-name stop
INSERT INTO bun (bun_id, kind, price) VALUES (1, 'a', 3) ON CONFLICT (kind) DO UPDATE SET price = 3;
-- case: a table without one [postgresql sqlite]
-- finds: 0 unknown-name stop
INSERT INTO oven (oven_id, hot) VALUES (1, 3) ON CONFLICT (oven_id, hot) DO NOTHING;
-- case: the key, in any order [postgresql sqlite]
INSERT INTO bun (bun_id, kind, price) VALUES (1, 'a', 3) ON CONFLICT (price, KIND) DO NOTHING;
INSERT INTO bun (bun_id, kind, price) VALUES (1, 'a', 3) ON CONFLICT (bun_id) DO UPDATE SET price = 3;
INSERT INTO oven (oven_id, hot) VALUES (1, 3) ON CONFLICT DO NOTHING;
-- case: one that the script makes [postgresql sqlite]
CREATE UNIQUE INDEX oven_once ON oven (oven_id);
INSERT INTO oven (oven_id, hot) VALUES (1, 3) ON CONFLICT (oven_id) DO NOTHING;
-- case: one over a part of the rows [postgresql sqlite]
CREATE UNIQUE INDEX oven_hot ON oven (oven_id) WHERE hot > 3;
INSERT INTO oven (oven_id, hot) VALUES (1, 3) ON CONFLICT (oven_id) WHERE hot > 3 DO NOTHING;
