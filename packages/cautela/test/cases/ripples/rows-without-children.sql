-- hazards: cascade reference-blocks
-- tables
CREATE TABLE board (id integer NOT NULL PRIMARY KEY, title varchar(20));
CREATE TABLE topic (id integer NOT NULL PRIMARY KEY, board_id integer NOT NULL, FOREIGN KEY (board_id) REFERENCES board (id));
CREATE TABLE post (id integer NOT NULL PRIMARY KEY, topic_id integer, spam integer NOT NULL, note varchar(20), FOREIGN KEY (topic_id) REFERENCES topic (id) ON DELETE CASCADE);
-- case: what nothing refers to [postgresql mysql mariadb tsql plsql]
DELETE FROM topic WHERE NOT EXISTS (SELECT 1 FROM post WHERE post.topic_id = topic.id);
-- case: some of what refers to it [postgresql mysql mariadb tsql plsql]
-- finds: 0 cascade ask
DELETE FROM topic WHERE NOT EXISTS (SELECT 1 FROM post WHERE post.topic_id = topic.id AND post.spam = 0);
-- case: what is not listed [postgresql mysql mariadb tsql plsql]
DELETE FROM topic WHERE id NOT IN (SELECT topic_id FROM post WHERE topic_id IS NOT NULL);
-- case: another list [postgresql mysql mariadb tsql plsql]
-- finds: 0 cascade ask
DELETE FROM topic WHERE id NOT IN (SELECT id FROM post);
-- case: an anti-join [mysql mariadb tsql]
DELETE t FROM topic t LEFT JOIN post p ON p.topic_id = t.id WHERE p.id IS NULL;
-- case: an anti-join with some of them [mysql mariadb tsql]
-- finds: 0 cascade ask
DELETE t FROM topic t LEFT JOIN post p ON p.topic_id = t.id AND p.spam = 1 WHERE p.id IS NULL;
-- case: by a column that may be empty [mysql mariadb tsql]
-- finds: 0 cascade ask
DELETE t FROM topic t LEFT JOIN post p ON p.topic_id = t.id WHERE p.note IS NULL;
-- case: nothing is refused [postgresql mysql mariadb tsql plsql]
DELETE FROM board WHERE NOT EXISTS (SELECT 1 FROM topic WHERE board_id = board.id);
-- case: by another column [postgresql mysql mariadb tsql plsql]
-- finds: 0 reference-blocks note
DELETE FROM board WHERE NOT EXISTS (SELECT 1 FROM topic WHERE topic.id = board.id);
-- case: what refers to it goes afterwards [postgresql mysql mariadb tsql plsql]
-- finds: 0 reference-blocks ask
-- finds: 1 cascade ask
DELETE FROM board WHERE id = 5;
DELETE FROM topic WHERE board_id = 5;
-- case: it is moved afterwards [postgresql mysql mariadb tsql plsql]
-- finds: 0 reference-blocks ask
DELETE FROM board WHERE id = 5;
UPDATE topic SET board_id = 6 WHERE board_id = 5;
-- case: it is moved before [postgresql mysql mariadb tsql plsql]
UPDATE topic SET board_id = 6 WHERE board_id = 5;
DELETE FROM board WHERE id = 5;
-- case: another one goes afterwards [postgresql mysql mariadb tsql plsql]
-- finds: 0 reference-blocks note
-- finds: 1 cascade ask
DELETE FROM board WHERE id = 5;
DELETE FROM topic WHERE board_id = 6;
