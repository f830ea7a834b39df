-- hazards: rewrite-all
-- tables
CREATE TABLE keeper (id integer PRIMARY KEY, name text COLLATE NOCASE, mail text);
-- case: capitals that the collation does not tell apart [sqlite]
-- finds: 0 rewrite-all ask
UPDATE keeper SET name = UPPER(name), mail = UPPER(mail);
