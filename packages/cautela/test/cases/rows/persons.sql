-- hazards: weak-filter missing-else
-- no catalog
-- case: what somebody is called [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 weak-filter ask
-- finds: 1 weak-filter ask
DELETE FROM member WHERE last_name = 'Olsen';
UPDATE member SET phone = '12' WHERE last_name = 'Olsen' AND first_name = 'Ida';
-- case: on the desktop [jet]
-- finds: 0 weak-filter ask
DELETE FROM Members WHERE LastName = "Olsen";
-- case: with a number, or a category, or what may be unique [postgresql mysql mariadb sqlite tsql plsql]
DELETE FROM member WHERE last_name = 'Olsen' AND member_no = 4;
DELETE FROM member WHERE status = 'left';
DELETE FROM member WHERE mail = 'ida@port.example';
-- case: a choice inside another one has nothing for the rest [jet]
-- finds: 0 missing-else ask
UPDATE Members SET Fee = IIf([Age]<18, 20, IIf([Age]>=65, 25)) WHERE Active = Yes;
-- case: and inside a CASE [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 missing-else ask
UPDATE member SET fee = CASE WHEN age < 18 THEN 20 ELSE CASE WHEN age >= 65 THEN 25 END END WHERE active = 1;
-- case: each has one [postgresql mysql mariadb sqlite tsql plsql]
UPDATE member SET fee = CASE WHEN age < 18 THEN 20 ELSE CASE WHEN age >= 65 THEN 25 ELSE 30 END END WHERE active = 1;
