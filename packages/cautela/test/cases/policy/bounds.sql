-- hazards: too-many-rows
-- policy: { "one-by-one": ["tariff*"], "row-bounds": { "berth": 3, "*": 100 } }
-- tables
CREATE TABLE tariff (tariff_id integer PRIMARY KEY, class varchar(20) NOT NULL, rate numeric(10,2) NOT NULL);
CREATE TABLE berth (berth_id integer PRIMARY KEY, quay varchar(20) NOT NULL, depth_m numeric(4,1) NOT NULL);
CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);
INSERT INTO mooring (mooring_id, status) VALUES (1, 'lying'), (2, 'left');
-- case: several rows where one at a time is allowed, whatever is expected [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 too-many-rows ask
-- finds: 1 too-many-rows ask
-- finds: 2 too-many-rows ask
UPDATE tariff SET rate = 4 WHERE class = 'sail';
UPDATE tariff SET rate = 4 WHERE tariff_id IN (1, 2);
-- cautela: expect 4 rows
DELETE FROM tariff WHERE class = 'sail';
-- case: several rows brought at once [postgresql mysql mariadb sqlite tsql]
-- finds: 0 too-many-rows ask
INSERT INTO tariff (tariff_id, class, rate) VALUES (91, 'sail', 3), (92, 'motor', 4);
-- case: more than the bound, or nobody knows [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 too-many-rows ask
-- finds: 1 too-many-rows ask
UPDATE berth SET depth_m = 4 WHERE berth_id IN (1, 2, 3, 4);
UPDATE berth SET depth_m = 4 WHERE quay = 'north';
-- case: one by one [postgresql mysql mariadb sqlite tsql plsql]
UPDATE tariff SET rate = 4 WHERE tariff_id = 1;
DELETE FROM tariff WHERE tariff_id = 2;
-- case: within the bound, or expected [postgresql mysql mariadb sqlite tsql plsql]
UPDATE berth SET depth_m = 4 WHERE berth_id IN (1, 2, 3);
-- cautela: expect 12 rows
UPDATE berth SET depth_m = 5 WHERE quay = 'north';
-- case: a small table under the bound for all [postgresql mysql mariadb sqlite tsql plsql]
UPDATE mooring SET status = 'left' WHERE status = 'lying';
