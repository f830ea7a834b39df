-- hazards: last-copy
-- tables
CREATE TABLE crew (crew_id integer NOT NULL PRIMARY KEY, mail varchar(40), phone varchar(20), left_on date);
-- case: USING, keys unequal [postgresql]
-- finds: 0 last-copy ask
DELETE FROM crew a USING crew b WHERE a.mail = b.mail AND a.phone = b.phone AND a.crew_id != b.crew_id;
-- case: by the row's address [postgresql]
-- finds: 0 last-copy ask
DELETE FROM crew a USING crew b WHERE b.ctid <> a.ctid AND b.mail = a.mail;
-- case: a join [mysql mariadb]
-- finds: 0 last-copy ask
DELETE a FROM crew a JOIN crew b ON a.mail = b.mail AND a.crew_id <> b.crew_id;
-- case: a join, T-SQL [tsql]
-- finds: 0 last-copy ask
DELETE a FROM crew a INNER JOIN crew b ON a.mail = b.mail WHERE a.crew_id <> b.crew_id;
-- case: EXISTS [postgresql sqlite plsql]
-- finds: 0 last-copy ask
DELETE FROM crew WHERE EXISTS (SELECT 1 FROM crew b WHERE b.mail = crew.mail AND b.crew_id <> crew.crew_id);
-- case: more than once [postgresql sqlite tsql plsql]
-- finds: 0 last-copy ask
DELETE FROM crew WHERE mail IN (SELECT mail FROM crew GROUP BY mail HAVING COUNT(*) > 1);
-- case: twice or more [postgresql sqlite]
-- finds: 0 last-copy ask
DELETE FROM crew WHERE mail IN (SELECT c.mail FROM crew c GROUP BY c.mail HAVING COUNT(c.crew_id) >= 2);
-- case: the first one stays [postgresql]
DELETE FROM crew a USING crew b WHERE a.mail = b.mail AND a.crew_id > b.crew_id;
-- case: the first one stays, by a join [mysql mariadb]
DELETE a FROM crew a JOIN crew b ON a.mail = b.mail AND a.crew_id > b.crew_id;
-- case: the lowest key of each group stays [postgresql sqlite]
DELETE FROM crew WHERE crew_id NOT IN (SELECT MIN(crew_id) FROM crew GROUP BY mail);
-- case: what else is asked decides which stays [postgresql]
DELETE FROM crew a USING crew b WHERE a.mail = b.mail AND a.crew_id <> b.crew_id AND a.left_on IS NOT NULL AND b.left_on IS NULL;
-- case: the doubles of one kind, the lowest left out [postgresql sqlite]
DELETE FROM crew WHERE mail IN (SELECT mail FROM crew GROUP BY mail HAVING COUNT(*) > 1) AND crew_id NOT IN (SELECT MIN(crew_id) FROM crew GROUP BY mail);
-- case: values that occur once [postgresql sqlite]
DELETE FROM crew WHERE mail IN (SELECT mail FROM crew GROUP BY mail HAVING COUNT(*) = 1);
