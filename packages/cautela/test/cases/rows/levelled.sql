-- hazards: hollow-filter every-row no-way-back loose-or
-- tables
CREATE TABLE loaf (loaf_id integer PRIMARY KEY, kind varchar(10) NOT NULL, note varchar(40), price integer, stamp varchar(10));
CREATE TABLE sort (kind varchar(10) PRIMARY KEY, price integer NOT NULL);
CREATE TABLE loaf_log (loaf_id integer, note varchar(40));
-- case: one value for all that have another [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 hollow-filter ask
-- finds: 1 hollow-filter ask
UPDATE loaf SET kind = 'rye' WHERE kind <> 'rye';
UPDATE loaf SET note = NULL WHERE note IS NOT NULL;
-- case: the empty text is NULL [plsql]
-- finds: 0 hollow-filter ask
UPDATE loaf SET note = '' WHERE note IS NOT NULL;
-- case: another value, another column, one condition more [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
-- finds: 2 no-way-back note
UPDATE loaf SET kind = 'rye' WHERE kind <> 'wheat';
UPDATE loaf SET note = NULL WHERE stamp IS NOT NULL;
UPDATE loaf SET kind = 'rye' WHERE kind <> 'rye' AND price = 3;
-- case: where there was nothing [postgresql mysql mariadb sqlite tsql plsql]
UPDATE loaf SET price = 0 WHERE price IS NULL;
-- case: with a copy, or in a log [postgresql mysql mariadb sqlite]
CREATE TABLE loaf_before AS SELECT * FROM loaf;
UPDATE loaf SET kind = 'rye' WHERE kind <> 'rye';
-- case: an OR that gives up the tie to the source [postgresql sqlite tsql]
-- finds: 0 loose-or stop
-- finds: 0 no-way-back note
UPDATE loaf SET price = sort.price FROM sort WHERE sort.kind = loaf.kind AND loaf.note = 'x' OR loaf.price IS NULL;
-- case: both sides are tied, or nothing is taken [postgresql sqlite tsql]
-- finds: 0 no-way-back note
-- finds: 1 loose-or ask
-- finds: 1 no-way-back note
UPDATE loaf SET price = sort.price FROM sort WHERE sort.kind = loaf.kind AND (loaf.note = 'x' OR loaf.price IS NULL);
UPDATE loaf SET price = 4 FROM sort WHERE sort.kind = loaf.kind AND loaf.note = 'x' OR loaf.price IS NULL;
