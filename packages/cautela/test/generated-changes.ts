import fc from "fast-check";

/** Changes of random columns and rows of the tables that all three schemas share. */
export const changes = fc
  .record({
    table: fc.constantFrom("keeper", "boat", "stay", "crew", "tally", "past"),
    action: fc.constantFrom("update", "delete", "insert"),
    pick: fc.integer({ min: 0, max: 5 }),
    value: fc.constantFrom("'gone'", "'in'", "'x'", "NULL"),
    every: fc.boolean(),
  })
  .map(({ table, action, pick, value, every }) => {
    const columns: Record<string, [string, string][]> = {
      keeper: [
        ["status", value === "NULL" ? "'n'" : value],
        ["name", "'n'"],
        ["keeper_id", "keeper_id + 40"],
      ],
      boat: [
        ["status", value === "NULL" ? "'n'" : value],
        ["sign", value],
        ["keeper_id", "3"],
      ],
      stay: [
        ["fee", "fee + 1"],
        ["boat_id", "13"],
      ],
      crew: [["name", value]],
      tally: [["n", "n + 2"]],
      past: [["sign", value]],
    };
    const keys: Record<string, string> = { keeper: "keeper_id", boat: "boat_id", stay: "stay_id", crew: "crew_id" };
    const key = keys[table];
    const first: Record<string, number> = { keeper: 1, boat: 10, stay: 100, crew: 1 };
    const where = every || !key ? "" : ` WHERE ${key} = ${first[table] + (pick % 4)}`;
    const [column, to] = columns[table][pick % columns[table].length];
    if (action === "delete") return `DELETE FROM ${table}${where}`;
    if (action === "update" || table === "tally" || table === "past")
      return `UPDATE ${table} SET ${column} = ${to}${where}`;
    const rows: Record<string, string> = {
      keeper: "keeper (keeper_id, name) VALUES (70, 'new')",
      boat: `boat (boat_id, keeper_id, sign) VALUES (70, 2, ${value})`,
      stay: "stay (stay_id, boat_id) VALUES (700, 12)",
      crew: "crew (crew_id, boat_id) VALUES (70, 11)",
    };
    return `INSERT INTO ${rows[table]}`;
  });
