-- hazards: drifts-on-rerun
-- no catalog
-- case: code = SUBSTRING(code, 2) [mysql postgresql sqlite tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = SUBSTRING(code, 2) WHERE harbour = 4;
-- case: code = SUBSTR(code, 2) [mysql postgresql sqlite plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = SUBSTR(code, 2) WHERE harbour = 4;
-- case: code = LEFT(code, 5) [mysql]
UPDATE buoy SET code = LEFT(code, 5) WHERE harbour = 4;
-- case: code = SUBSTRING(code, 1, 5) [mysql postgresql]
UPDATE buoy SET code = SUBSTRING(code, 1, 5) WHERE harbour = 4;
-- case: code = REVERSE(code) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = REVERSE(code) WHERE harbour = 4;
-- case: code = MD5(code) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = MD5(code) WHERE harbour = 4;
-- case: code = STUFF(code, 1, 1, '') [tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = STUFF(code, 1, 1, '') WHERE harbour = 4;
-- case: code = CONVERT(varchar(64), HASHBYTES('SHA2_256', code), 2) [tsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = CONVERT(varchar(64), HASHBYTES('SHA2_256', code), 2) WHERE harbour = 4;
-- case: code = Mid(code, 2) [jet]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = Mid(code, 2) WHERE harbour = 4;
-- case: code = RIGHT(code, LENGTH(code) - 1) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = RIGHT(code, LENGTH(code) - 1) WHERE harbour = 4;
-- case: code = TO_BASE64(code) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = TO_BASE64(code) WHERE harbour = 4;
-- case: starts = DATE_ADD(starts, INTERVAL 1 YEAR) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET starts = DATE_ADD(starts, INTERVAL 1 YEAR) WHERE harbour = 4;
-- case: starts = starts + INTERVAL 1 YEAR [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET starts = starts + INTERVAL 1 YEAR WHERE harbour = 4;
-- case: starts = DATEADD(year, 1, starts) [tsql jet]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET starts = DATEADD(year, 1, starts) WHERE harbour = 4;
-- case: starts = ADD_MONTHS(starts, 12) [plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET starts = ADD_MONTHS(starts, 12) WHERE harbour = 4;
-- case: starts = date(starts, '+1 year') [sqlite]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET starts = date(starts, '+1 year') WHERE harbour = 4;
-- case: flags = flags # 8 [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET flags = flags # 8 WHERE harbour = 4;
-- case: active = 1 - active [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET active = 1 - active WHERE harbour = 4;
-- case: active = NOT active [mysql postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET active = NOT active WHERE harbour = 4;
-- case: kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 1 ELSE kind END [mysql postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 1 ELSE kind END WHERE harbour = 4;
-- case: kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 3 ELSE kind END [mysql postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 3 ELSE kind END WHERE harbour = 4;
-- case: kind = CASE kind WHEN 1 THEN 5 WHEN 2 THEN 6 ELSE kind END [mysql postgresql]
UPDATE buoy SET kind = CASE kind WHEN 1 THEN 5 WHEN 2 THEN 6 ELSE kind END WHERE harbour = 4;
-- case: code = LPAD(code, LENGTH(code) + 1, '0') [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = LPAD(code, LENGTH(code) + 1, '0') WHERE harbour = 4;
-- case: code = LPAD(code, 8, '0') [mysql]
UPDATE buoy SET code = LPAD(code, 8, '0') WHERE harbour = 4;
-- case: path = REPLACE(path, 'a', 'aa') [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET path = REPLACE(path, 'a', 'aa') WHERE harbour = 4;
-- case: path = REPLACE(path, 'a', 'b') [mysql]
UPDATE buoy SET path = REPLACE(path, 'a', 'b') WHERE harbour = 4;
-- case: path = REPLACE(path, '/img', '/old/img') [mysql postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET path = REPLACE(path, '/img', '/old/img') WHERE harbour = 4;
-- case: tags = array_append(tags, 'new') [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET tags = array_append(tags, 'new') WHERE harbour = 4;
-- case: tags = JSON_ARRAY_APPEND(tags, '$', 'x') [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET tags = JSON_ARRAY_APPEND(tags, '$', 'x') WHERE harbour = 4;
-- case: stock = GREATEST(stock - 3, 0) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET stock = GREATEST(stock - 3, 0) WHERE harbour = 4;
-- case: note = CONCAT_WS(' ', note, 'sold') [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET note = CONCAT_WS(' ', note, 'sold') WHERE harbour = 4;
-- case: price = ROUND(price * 1.1) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET price = ROUND(price * 1.1) WHERE harbour = 4;
-- case: a = b, b = a [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET a = b, b = a WHERE harbour = 4;
-- case: name = CONCAT(UPPER(LEFT(name, 1)), LOWER(SUBSTRING(name, 2) [mysql]
UPDATE buoy SET name = CONCAT(UPPER(LEFT(name, 1)), LOWER(SUBSTRING(name, 2))) WHERE harbour = 4;
-- case: name = UPPER(SUBSTR(name, 1, 1)) || LOWER(SUBSTR(name, 2)) [postgresql]
UPDATE buoy SET name = UPPER(SUBSTR(name, 1, 1)) || LOWER(SUBSTR(name, 2)) WHERE harbour = 4;
-- case: name = UPPER(LEFT(name, 1)) + LOWER(SUBSTRING(name, 2, 50)) [tsql]
UPDATE buoy SET name = UPPER(LEFT(name, 1)) + LOWER(SUBSTRING(name, 2, 50)) WHERE harbour = 4;
-- case: phone = CONCAT(LEFT(phone, 3), '-', SUBSTRING(phone, 4)) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET phone = CONCAT(LEFT(phone, 3), '-', SUBSTRING(phone, 4)) WHERE harbour = 4;
-- case: old_price = price, price = 5 [postgresql tsql plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET old_price = price, price = 5 WHERE harbour = 4;
-- case: old_price = price, price = 5 [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET old_price = price, price = 5 WHERE harbour = 4;
-- case: price = 5, old_price = price [mysql]
UPDATE buoy SET price = 5, old_price = price WHERE harbour = 4;
-- case: old_price = price, price = 5 [postgresql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET old_price = price, price = 5 WHERE harbour = 4 AND old_price IS NULL;
-- case: code = TRIM(code), label = code [postgresql]
UPDATE buoy SET code = TRIM(code), label = code WHERE harbour = 4;
-- case: label = code [postgresql]
UPDATE buoy SET label = code WHERE harbour = 4;
-- case: title = CASE WHEN title LIKE 'The %' THEN substr(title, 5) E [postgresql]
UPDATE buoy SET title = CASE WHEN title LIKE 'The %' THEN substr(title, 5) ELSE title END WHERE harbour = 4;
-- case: title = IF(title LIKE 'The %', substr(title, 5), title) [mysql]
UPDATE buoy SET title = IF(title LIKE 'The %', substr(title, 5), title) WHERE harbour = 4;
-- case: price = IF(kind = 2, price * 1.1, price) [mysql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET price = IF(kind = 2, price * 1.1, price) WHERE harbour = 4;
-- case: title = SUBSTR(title, 5) [mysql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET title = SUBSTR(title, 5) WHERE title LIKE 'The %';
-- case: password = MD5(password) [mysql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET password = MD5(password) WHERE LENGTH(password) < 32;
-- case: kind = DECODE(kind, 1, 2, 2, 3, kind) [plsql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET kind = DECODE(kind, 1, 2, 2, 3, kind) WHERE harbour = 4;
-- case: kind = DECODE(kind, 1, 5, 2, 6, kind) [plsql]
UPDATE buoy SET kind = DECODE(kind, 1, 5, 2, 6, kind) WHERE harbour = 4;
-- case: kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 1 END [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET kind = CASE kind WHEN 1 THEN 2 WHEN 2 THEN 1 END WHERE kind IN (1, 2);
-- case: kind = CASE WHEN kind = 1 THEN 5 ELSE 9 END [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET kind = CASE WHEN kind = 1 THEN 5 ELSE 9 END WHERE harbour = 3;
-- case: kind = CASE kind WHEN 'a' THEN 'b' WHEN 'b' THEN 'b' END [postgresql]
UPDATE buoy SET kind = CASE kind WHEN 'a' THEN 'b' WHEN 'b' THEN 'b' END WHERE harbour = 3;
-- case: token = MD5(id), mail_hash = SHA1(mail) [mysql tsql]
UPDATE buoy SET token = MD5(id), mail_hash = SHA1(mail) WHERE harbour = 3;
-- case: day = DATE(day) [mysql]
UPDATE buoy SET day = DATE(day) WHERE harbour = 4;
-- case: day = date(day, 'start of month') [sqlite]
UPDATE buoy SET day = date(day, 'start of month') WHERE harbour = 4;
-- case: code = STUFF(code, 1, 2, 'XX') [tsql]
UPDATE buoy SET code = STUFF(code, 1, 2, 'XX') WHERE harbour = 4;
-- case: code = LEFT(code, LENGTH(code) - 4) [postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET code = LEFT(code, LENGTH(code) - 4) WHERE harbour = 4;
-- case: a value that is given is asked for again [mysql postgresql]
-- finds: 0 drifts-on-rerun ask
UPDATE buoy SET state = CASE WHEN state = 'a' THEN 'b' WHEN state = 'b' THEN 'c' END WHERE state IN ('a', 'b');
-- case: no value that is given is asked for again [mysql postgresql]
-- finds: 0 drifts-on-rerun note
UPDATE buoy SET state = CASE WHEN state = 'a' THEN 'b' WHEN state = 'c' THEN 'a' END WHERE state IN ('c', 'd');
