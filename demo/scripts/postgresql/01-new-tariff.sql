-- The council has decided the rates for 2026. The office has sent the new ones in.
-- Look first: which classes have a notice?
SELECT t.class, t.per_night, n.new_rate
FROM tariff t
JOIN tariff_notice n ON n.class = t.class
WHERE n.new_rate IS NOT NULL;

CREATE TABLE tariff_2025 AS SELECT * FROM tariff;

BEGIN;

UPDATE tariff t
SET per_night = n.new_rate,
    valid_from = n.valid_from
FROM (SELECT DISTINCT ON (class) class, new_rate, valid_from
      FROM tariff_notice WHERE new_rate IS NOT NULL ORDER BY class, notice_id DESC) n
WHERE n.class = t.class;

COMMIT;
