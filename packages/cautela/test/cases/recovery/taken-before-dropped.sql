-- hazards: no-way-back
-- tables
CREATE TABLE book (book_id integer NOT NULL PRIMARY KEY, author_id integer, title varchar(40), author varchar(40), born varchar(10));
CREATE TABLE author (author_id integer NOT NULL PRIMARY KEY, name varchar(40) NOT NULL, born varchar(10));
CREATE TABLE author_map (old_id integer NOT NULL, new_id integer NOT NULL);
-- case: all of it went elsewhere [postgresql sqlite]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
UPDATE book SET author = a.name, born = a.born FROM author a WHERE a.author_id = book.author_id;
DROP TABLE author;
-- case: a part of it did [postgresql sqlite]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back ask
UPDATE book SET author = a.name FROM author a WHERE a.author_id = book.author_id;
DROP TABLE author;
-- case: nothing did [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 no-way-back stop
DROP TABLE author;
-- case: one column finds the rows, the other one is written [postgresql sqlite]
-- finds: 0 no-way-back note
-- finds: 1 no-way-back note
UPDATE book SET author_id = m.new_id FROM author_map m WHERE m.old_id = book.author_id;
DROP TABLE author_map;
-- case: some of its rows did [postgresql mysql mariadb sqlite]
-- finds: 1 no-way-back ask
INSERT INTO book (book_id, author, born) SELECT author_id + 100, name, born FROM author WHERE born > 1900;
DROP TABLE author;
-- case: those of one kind and those of the other [postgresql mysql mariadb sqlite]
-- finds: 2 no-way-back note
INSERT INTO book (book_id, author, born) SELECT author_id + 100, name, born FROM author WHERE born > 1900;
INSERT INTO book (book_id, author, born) SELECT author_id + 500, name, born FROM author WHERE born <= 1900;
DROP TABLE author;
-- case: those that have a value [postgresql mysql mariadb sqlite]
-- finds: 1 no-way-back note
INSERT INTO book (book_id, author, born) SELECT author_id + 100, name, born FROM author WHERE name IS NOT NULL AND name <> '';
DROP TABLE author;
