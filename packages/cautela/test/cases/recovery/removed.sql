-- hazards: guard-left-off open-placeholder other-dialect unread
-- tables
CREATE TABLE bun (bun_id integer PRIMARY KEY, kind varchar(20), price integer);
CREATE TABLE oven (oven_id integer PRIMARY KEY, bun_id integer, CONSTRAINT oven_bun FOREIGN KEY (bun_id) REFERENCES bun (bun_id));
-- case: a foreign key goes for good [postgresql tsql plsql]
-- finds: 0 guard-left-off ask
ALTER TABLE oven DROP CONSTRAINT oven_bun;
-- case: it comes back under another name [postgresql tsql plsql]
ALTER TABLE oven DROP CONSTRAINT oven_bun;
ALTER TABLE oven ADD CONSTRAINT oven_bun_key FOREIGN KEY (bun_id) REFERENCES bun (bun_id);
-- case: a variable that nothing sets [mysql mariadb]
-- finds: 0 open-placeholder ask
UPDATE bun SET kind = @nobody WHERE bun_id = 3;
-- case: variables that are set [mysql mariadb]
SET @a = 3;
SELECT bun_id INTO @b FROM bun WHERE bun_id = 4;
UPDATE bun SET kind = 'x' WHERE bun_id = @a;
UPDATE bun SET kind = 'x' WHERE bun_id = @b;
-- case: a name that became a word [mysql]
-- finds: 0 other-dialect note
ALTER TABLE Groups ADD COLUMN creator integer;
-- case: between backquotes [mysql]
ALTER TABLE `Groups` ADD COLUMN creator integer;
