// A change script of ordinary statements, as long as one likes; the same each time.
let seed = 1;
function random(n) {
  seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
  return (seed >> 8) % n;
}
const pick = (list) => list[random(list.length)];
const tables = ["mooring", "vessel", "berth", "pilotage", "tariff", "owner"];
const numbers = ["fee", "length_m", "per_night"];
const texts = ["status", "class", "quay"];
const dates = ["from_day", "to_day"];

/** The tables that the script refers to. */
export const benchSchema = tables
  .flatMap((name) => [name, `${name}_archive`])
  .map(
    (name) =>
      `CREATE TABLE ${name} (id integer PRIMARY KEY, mooring_id integer, vessel_id integer, owner_id integer, fee numeric(12,2), length_m numeric(12,2), per_night numeric(12,2), status varchar(20) NOT NULL, class varchar(20), quay varchar(20), from_day date, to_day date, mail varchar(80), phone varchar(40), copied_on date);`,
  )
  .join("\n");

const kinds = [
  () =>
    `UPDATE ${pick(tables)} SET ${pick(numbers)} = ${random(1000)}, ${pick(texts)} = 'value ${random(1e6)}' WHERE id = ${random(1e5)} AND status = 'lying';`,
  () =>
    `UPDATE mooring AS m\nSET fee = t.fee * 1.0${random(9)} + coalesce(t.per_night, 0)\nFROM vessel AS v\nJOIN tariff AS t ON t.id = v.mooring_id\nWHERE v.id = m.vessel_id AND m.status IN ('planned', 'lying') AND m.mooring_id > ${random(1e6)};`,
  () =>
    `INSERT INTO ${pick(tables)}_archive (id, ${pick(numbers)}, copied_on, status)\nSELECT a.id, a.${pick(numbers)}, a.${pick(dates)}, a.status\nFROM ${pick(tables)} a\nLEFT JOIN ${pick(tables)} b ON b.id = a.id AND b.status = 'left'\nWHERE a.id BETWEEN ${random(1e5)} AND ${random(1e6)};`,
  () =>
    `DELETE FROM ${pick(tables)} WHERE id IN (SELECT c.id FROM ${pick(tables)} c WHERE c.${pick(texts)} = 'left') AND ${pick(dates)} < '2025-0${1 + random(9)}-01';`,
  () => `ALTER TABLE ${pick(tables)} ADD COLUMN note_${random(40)} varchar(200) DEFAULT '' NOT NULL;`,
  () =>
    `-- ${random(1e9)}: what the office asked for\nUPDATE owner SET mail = lower(trim(mail)), phone = CASE WHEN phone LIKE '0%' THEN '+49' || substr(phone, 2) ELSE phone END WHERE id = ${random(1e6)};`,
];

/** A script of about that many bytes. */
export function benchScript(bytes) {
  seed = 1;
  const parts = [];
  for (let size = 0; size < bytes; ) {
    const statement = kinds[random(kinds.length)]();
    parts.push(statement);
    size += statement.length + 1;
  }
  return parts.join("\n");
}
