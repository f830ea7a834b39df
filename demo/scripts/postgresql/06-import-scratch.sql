-- Reads a list of berth lengths in and throws the scratch table away again.
CREATE TEMPORARY TABLE measured (code varchar(20), length_m numeric(5,2));

INSERT INTO measured VALUES ('N01', 12.5), ('S01', 14), ('E01', 9.25);

UPDATE measured SET code = upper(code);

UPDATE berth b
SET length_m = m.length_m
FROM measured m
WHERE m.code = b.code;

DELETE FROM measured;
