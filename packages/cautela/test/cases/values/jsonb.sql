-- hazards: rewrite-all drifts-on-rerun
-- tables
CREATE TABLE loaf (loaf_id integer NOT NULL PRIMARY KEY, data jsonb);
-- case: removes a key [postgresql]
-- finds: 0 rewrite-all stop
UPDATE loaf SET data = data - 'kind';
-- case: merges an object [postgresql]
UPDATE loaf SET data = data || '{"kind": 2}' WHERE loaf_id > 3;
-- case: merges an object that is built [postgresql]
UPDATE loaf SET data = data || jsonb_build_object('kind', 2) WHERE loaf_id > 3;
-- case: appends to a list [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE loaf SET data = data || '[2]' WHERE loaf_id > 3;
-- case: writes into every row [postgresql]
UPDATE loaf SET data = jsonb_set(data, '{kind}', '2');
-- case: changes where the key is there [postgresql]
-- finds: 0 rewrite-all ask
UPDATE loaf SET data = jsonb_set(data, '{kind}', '2', false);
