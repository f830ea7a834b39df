-- hazards: fan-out
-- no catalog
-- case: every price that has begun to hold [postgresql sqlite tsql]
-- finds: 0 fan-out ask
UPDATE stay SET fee = t.fee FROM tariff t WHERE t.code = stay.code AND '2026-01-01' >= t.valid_from AND stay.billed = 0;
-- case: the same in a join [mysql mariadb]
-- finds: 0 fan-out ask
UPDATE stay s JOIN tariff t ON t.code = s.code AND t.valid_from <= '2026-01-01' SET s.fee = t.fee WHERE s.billed = 0;
-- case: and on the desktop [jet]
-- finds: 0 fan-out ask
UPDATE Stay INNER JOIN Tariff ON Stay.Code = Tariff.Code SET Stay.Fee = Tariff.Fee WHERE Tariff.ValidFrom <= #2026-01-01#;
-- case: with its end, one day, or the stay's own day [postgresql sqlite tsql]
UPDATE stay SET fee = t.fee FROM tariff t WHERE t.code = stay.code AND t.valid_from <= '2026-01-01' AND t.valid_to > '2026-01-01';
UPDATE stay SET fee = t.fee FROM tariff t WHERE t.code = stay.code AND t.valid_from = '2026-01-01';
UPDATE stay SET fee = t.fee FROM tariff t WHERE t.code = stay.code AND stay.valid_from <= '2026-01-01';
UPDATE stay SET billed = 1 FROM tariff t WHERE t.code = stay.code AND t.valid_from <= '2026-01-01';
-- case: an array of keys that a group gathers [postgresql]
UPDATE boat b SET owner_id = m.kept FROM (SELECT min(id) AS kept, array_agg(id) AS ids FROM owner GROUP BY lower(mail)) m WHERE b.owner_id = ANY (m.ids);
CREATE TABLE twins AS SELECT min(id) AS kept, array_agg(id) AS ids FROM owner GROUP BY lower(mail);
UPDATE boat b SET owner_id = m.kept FROM twins m WHERE b.owner_id = ANY (m.ids);
-- case: an array of what is no key [postgresql]
-- finds: 0 fan-out ask
UPDATE boat b SET owner_id = m.kept FROM (SELECT min(id) AS kept, array_agg(country) AS countries FROM owner GROUP BY lower(mail)) m WHERE b.country = ANY (m.countries);
-- case: amounts that are added, of which there may be several [postgresql sqlite tsql]
-- finds: 0 fan-out ask
UPDATE account SET balance = balance + t.amount FROM transfer t WHERE t.account_id = account.id AND t.booked = 0;
-- case: in a join [mysql mariadb]
-- finds: 0 fan-out ask
UPDATE account a JOIN transfer t ON t.account_id = a.id SET a.balance = a.balance - t.amount WHERE t.booked = 0;
-- case: added up first, found by its own key, or only copied [postgresql]
UPDATE account SET balance = balance + t.amount FROM (SELECT account_id, sum(amount) AS amount FROM transfer GROUP BY account_id) t WHERE t.account_id = account.id;
UPDATE stay SET fee = fee + t.rate FROM tariff t WHERE t.id = stay.tariff_id AND stay.status = 'x';
UPDATE customer SET name = n.name FROM customer_new n WHERE n.customer_id = customer.customer_id;
