// A change script of ordinary statements, as long as one likes; the same each time.
let seed = 1;
function random(n) {
  seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
  return seed % n;
}
const pick = (list) => list[random(list.length)];
const tables = ["mooring", "vessel", "berth", "pilotage", "tariff", "owner"];
const columns = ["fee", "status", "name", "from_day", "to_day", "class", "length_m"];

const kinds = [
  () =>
    `UPDATE ${pick(tables)} SET ${pick(columns)} = ${random(1000)}, ${pick(columns)} = 'value ${random(1e6)}' WHERE ${pick(columns)} = ${random(1e5)} AND ${pick(columns)} <> 'left';`,
  () =>
    `UPDATE mooring AS m\nSET fee = m.fee * 1.0${random(9)} + coalesce(t.per_night, 0)\nFROM vessel AS v\nJOIN tariff AS t ON t.class = v.class\nWHERE v.vessel_id = m.vessel_id AND m.status IN ('planned', 'lying') AND m.mooring_id > ${random(1e6)};`,
  () =>
    `INSERT INTO ${pick(tables)}_archive (${pick(columns)}, ${pick(columns)}, copied_on)\nSELECT a.${pick(columns)}, b.${pick(columns)}, current_date\nFROM ${pick(tables)} a\nLEFT JOIN ${pick(tables)} b ON b.id = a.id AND b.status = 'left'\nWHERE a.id BETWEEN ${random(1e5)} AND ${random(1e6)};`,
  () =>
    `DELETE FROM ${pick(tables)} WHERE id IN (SELECT id FROM ${pick(tables)} WHERE ${pick(columns)} IS NULL) AND ${pick(columns)} < '2025-0${1 + random(9)}-01';`,
  () => `ALTER TABLE ${pick(tables)} ADD COLUMN note_${random(40)} varchar(200) DEFAULT '' NOT NULL;`,
  () =>
    `-- ${random(1e9)}: what the office asked for\nUPDATE owner SET mail = lower(trim(mail)), phone = CASE WHEN phone LIKE '0%' THEN '+49' || substr(phone, 2) ELSE phone END WHERE owner_id = ${random(1e6)};`,
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
