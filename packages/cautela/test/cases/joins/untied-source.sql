-- hazards: open-join wrong-target every-row fan-out
-- no catalog
-- case: nothing is asked at all [postgresql sqlite tsql]
-- finds: 0 open-join ask
-- finds: 0 every-row stop
UPDATE buoys SET fee = r.fee FROM rates r;
-- case: two tables before SET [mysql mariadb jet]
-- finds: 0 open-join ask
-- finds: 0 every-row stop
UPDATE buoys, rates SET buoys.fee = rates.fee;
-- case: only the target is filtered [mysql jet]
-- finds: 0 open-join ask
UPDATE buoys b, rates r SET b.fee = r.fee WHERE b.id = 3;
-- case: only the target is filtered, after FROM [postgresql tsql]
-- finds: 0 open-join ask
UPDATE buoys SET fee = r.fee FROM rates r WHERE buoys.id = 3;
-- case: only the source is filtered [postgresql tsql]
-- finds: 0 wrong-target stop
UPDATE buoys SET fee = r.fee FROM rates r WHERE r.active = 1;
-- case: a source of one row [mysql postgresql]
UPDATE buoys SET fee = (SELECT MAX(fee) FROM rates) WHERE id = 3;
-- case: settings are one row [mysql jet]
-- finds: 0 every-row stop
UPDATE buoys, settings SET buoys.fee = settings.fee;
-- case: nothing is read from it [postgresql]
UPDATE buoys SET fee = 0 FROM rates r WHERE buoys.id = 3;
-- case: a query of one row [postgresql]
UPDATE buoys SET fee = r.most FROM (SELECT MAX(fee) AS most FROM rates) r WHERE buoys.id = 3;
