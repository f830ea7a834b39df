-- hazards: drifts-on-rerun
-- no catalog
-- case: lit = IF(lit, 0, 1) WHERE id < 5 [mysql mariadb sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = IF(lit, 0, 1) WHERE id < 5;
-- case: lit = IF(lit = 1, 0, 1) WHERE id < 5 [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = IF(lit = 1, 0, 1) WHERE id < 5;
-- case: lit = CASE WHEN lit THEN FALSE ELSE TRUE END WHERE id < 5 [postgresql mysql sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = CASE WHEN lit THEN FALSE ELSE TRUE END WHERE id < 5;
-- case: lit = CASE WHEN NOT lit THEN TRUE ELSE FALSE END WHERE id < 5 [postgresql mysql sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = CASE WHEN NOT lit THEN TRUE ELSE FALSE END WHERE id < 5;
-- case: lit = !lit WHERE id < 5 [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = !lit WHERE id < 5;
-- case: lit = lit ^ 1 WHERE id < 5 [mysql tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = lit ^ 1 WHERE id < 5;
-- case: lit ^= 1 WHERE id < 5 [tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit ^= 1 WHERE id < 5;
-- case: lit = IIF(lit = 1, 0, 1) WHERE id < 5 [tsql jet]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = IIF(lit = 1, 0, 1) WHERE id < 5;
-- case: lit = Not lit WHERE id < 5 [jet]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = Not lit WHERE id < 5;
-- case: lit = ABS(lit - 1) WHERE id < 5 [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = ABS(lit - 1) WHERE id < 5;
-- case: lit = CASE WHEN lit > 0 THEN 0 ELSE 1 END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = CASE WHEN lit > 0 THEN 0 ELSE 1 END WHERE id < 5;
-- case: lit = CASE WHEN lit <> 'Y' THEN 'Y' ELSE 'N' END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = CASE WHEN lit <> 'Y' THEN 'Y' ELSE 'N' END WHERE id < 5;
-- case: lit = CASE WHEN lit > 0 THEN 1 ELSE 0 END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
UPDATE buoy SET lit = CASE WHEN lit > 0 THEN 1 ELSE 0 END WHERE id < 5;
-- case: lit = CASE WHEN lit <> 'Y' THEN 'N' ELSE 'Y' END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
UPDATE buoy SET lit = CASE WHEN lit <> 'Y' THEN 'N' ELSE 'Y' END WHERE id < 5;
-- case: lit = DECODE(lit, 'Y', 'N', 'Y') WHERE id < 5 [plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = DECODE(lit, 'Y', 'N', 'Y') WHERE id < 5;
-- case: lit = CASE WHEN lit IS NULL THEN 0 ELSE lit END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
UPDATE buoy SET lit = CASE WHEN lit IS NULL THEN 0 ELSE lit END WHERE id < 5;
-- case: checked_on = CASE WHEN checked_on IS NULL THEN CURRENT_TIMESTAMP ELSE NULL END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET checked_on = CASE WHEN checked_on IS NULL THEN CURRENT_TIMESTAMP ELSE NULL END WHERE id < 5;
-- case: lit = CASE WHEN lit IN ('Y', 'y') THEN 'N' ELSE 'Y' END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET lit = CASE WHEN lit IN ('Y', 'y') THEN 'N' ELSE 'Y' END WHERE id < 5;
-- case: lit = CASE WHEN lit IN ('Y', 'y') THEN 'Y' ELSE 'N' END WHERE id < 5 [postgresql mysql sqlite tsql plsql]
UPDATE buoy SET lit = CASE WHEN lit IN ('Y', 'y') THEN 'Y' ELSE 'N' END WHERE id < 5;
-- case: depth = -depth WHERE id < 5 [mysql postgresql tsql plsql sqlite jet]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET depth = -depth WHERE id < 5;
-- case: depth = depth * -1 WHERE id < 5 [mysql postgresql tsql plsql sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET depth = depth * -1 WHERE id < 5;
-- case: depth = -ABS(depth) WHERE id < 5 [mysql postgresql tsql plsql sqlite]
UPDATE buoy SET depth = -ABS(depth) WHERE id < 5;
-- case: depth = CASE WHEN depth < 0 THEN -depth ELSE depth END WHERE id < 5 [mysql postgresql tsql plsql sqlite]
UPDATE buoy SET depth = CASE WHEN depth < 0 THEN -depth ELSE depth END WHERE id < 5;
-- case: depth = depth % 10 WHERE id < 5 [mysql postgresql sqlite]
UPDATE buoy SET depth = depth % 10 WHERE id < 5;
-- case: depth = depth * 1.10 WHERE depth < 100 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET depth = depth * 1.10 WHERE depth < 100;
-- case: pos = pos + 1000 WHERE pos < 1000 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET pos = pos + 1000 WHERE pos < 1000;
-- case: depth = depth * 2 WHERE depth BETWEEN 60 AND 100 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET depth = depth * 2 WHERE depth BETWEEN 60 AND 100;
-- case: depth = depth + 5 WHERE depth BETWEEN 60 AND 100 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET depth = depth + 5 WHERE depth BETWEEN 60 AND 100;
-- case: depth = depth / 100 WHERE depth > 1000 AND depth < 9000 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET depth = depth / 100 WHERE depth > 1000 AND depth < 9000;
-- case: depth = depth * 1.1 WHERE depth > 1000 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET depth = depth * 1.1 WHERE depth > 1000;
-- case: chance = -chance WHERE chance < 0 [postgresql mysql tsql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET chance = -chance WHERE chance < 0;
