-- hazards: blanks-value overwrites-filled
-- tables
CREATE TABLE bill (bill_id integer PRIMARY KEY, total integer, tax integer, note varchar(100) NOT NULL, more varchar(10));
-- case: what is added may be NULL [postgresql mysql mariadb sqlite tsql plsql jet]
-- finds: 0 blanks-value ask
UPDATE bill SET total = total + tax WHERE bill_id > 3;
-- case: texts [postgresql sqlite]
-- finds: 0 blanks-value ask
UPDATE bill SET note = note || ' ' || more WHERE bill_id > 3;
-- case: and CONCAT [mysql mariadb]
-- finds: 0 blanks-value ask
UPDATE bill SET note = CONCAT(note, ' ', more) WHERE bill_id > 3;
-- case: a NULL that is left out of a text [plsql]
UPDATE bill SET note = note || ' ' || more WHERE bill_id > 3;
-- case: asked for, caught, a constant, or not its own value [postgresql mysql mariadb sqlite tsql plsql]
UPDATE bill SET total = total + tax WHERE tax > 3;
UPDATE bill SET total = total + tax WHERE tax IS NOT NULL AND bill_id > 3;
UPDATE bill SET total = total + COALESCE(tax, 0) WHERE bill_id > 3;
UPDATE bill SET total = total + 3 WHERE bill_id > 3;
UPDATE bill SET total = tax * 3 WHERE bill_id > 3;
UPDATE bill SET total = total + bill_id WHERE bill_id > 3;
-- case: the stand-in comes first [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 overwrites-filled ask
UPDATE bill SET more = COALESCE('x', more) WHERE bill_id > 3;
-- case: and by number [mysql mariadb sqlite]
-- finds: 0 overwrites-filled ask
UPDATE bill SET total = IFNULL(0, total) WHERE bill_id > 3;
-- case: the column comes first [postgresql mysql mariadb sqlite tsql plsql]
UPDATE bill SET more = COALESCE(more, 'x') WHERE bill_id > 3;
