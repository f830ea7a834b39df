import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { openEngines } from "./databases.ts";

// Whether a row meets several rows of its sources, so that one of several values is written, is counted by the engine.

const TABLES = `CREATE TABLE quay (id int NOT NULL PRIMARY KEY, code varchar(9) NOT NULL UNIQUE, kind int, v int);
CREATE TABLE berth (id int NOT NULL PRIMARY KEY, quay_id int NOT NULL REFERENCES quay (id), kind int, v int);
CREATE TABLE boat (id int NOT NULL PRIMARY KEY, berth_id int REFERENCES berth (id), code varchar(9), kind int, v int);
CREATE TABLE stay (boat_id int NOT NULL, berth_id int NOT NULL, v int, PRIMARY KEY (boat_id, berth_id));`;

const numbers = [1, 2, 3, 4, 5, 6];
const insert = (table: string, rows: string[]): string => `INSERT INTO ${table} VALUES ${rows.join(", ")};`;
const ROWS = [
  insert(
    "quay",
    numbers.map((i) => `(${i}, 'q${i}', ${i % 2}, ${i + 100})`),
  ),
  insert(
    "berth",
    numbers.map((i) => `(${i}, ${1 + (i % 3)}, ${i % 2}, ${i + 200})`),
  ),
  insert(
    "boat",
    numbers.map((i) => `(${i}, ${1 + (i % 4)}, 'q${1 + (i % 3)}', ${i % 2}, ${i})`),
  ),
  insert(
    "stay",
    numbers.flatMap((i) => numbers.filter((j) => (i * j) % 2 === 0).map((j) => `(${i}, ${j}, ${i * 10 + j + 300})`)),
  ),
].join("\n");

/** How two tables may be tied. */
const TIES: Record<string, string[]> = {
  "boat berth": ["berth.id = boat.berth_id", "berth.kind = boat.kind"],
  "boat quay": ["quay.code = boat.code", "quay.kind = boat.kind", "quay.id = boat.id"],
  "boat stay": ["stay.boat_id = boat.id"],
  "berth quay": ["quay.id = berth.quay_id", "quay.kind = berth.kind"],
  "berth stay": ["stay.berth_id = berth.id"],
};
const filters = ["quay.code = 'q1'", "stay.berth_id = 2", "berth.id = 3", "berth.kind = 1", "stay.berth_id IN (2, 4)"];

const changes = fc
  .tuple(
    fc.subarray(["berth", "quay", "stay"], { minLength: 1 }),
    fc.array(fc.nat(5), { minLength: 4, maxLength: 4 }),
    fc.subarray(filters, { maxLength: 1 }),
  )
  .map(([sources, picks, more]) => {
    const there = ["boat"];
    const conditions: string[] = [];
    for (const source of sources) {
      const ties = there.flatMap((one) => TIES[`${one} ${source}`] ?? []);
      conditions.push(ties[picks[there.length - 1] % ties.length]);
      there.push(source);
    }
    conditions.push(...more.filter((one) => there.includes(one.split(".")[0])));
    return { sources, where: conditions.join(" AND "), value: `${sources[picks[3] % sources.length]}.v` };
  });

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(`${TABLES}\n${ROWS}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(TABLES, { dialect });

  test("several values for one row", async () => {
    let several = 0;
    await fc.assert(
      fc.asyncProperty(changes, async ({ sources, where, value }) => {
        const sql = catalog.dialect.startsWith("m")
          ? `UPDATE boat JOIN ${sources.join(" JOIN ")} SET boat.v = ${value} WHERE ${where}`
          : `UPDATE boat SET v = ${value} FROM ${sources.join(", ")} WHERE ${where}`;
        const counted = `SELECT boat.id, COUNT(DISTINCT ${value}) AS n FROM boat, ${sources.join(", ")} WHERE ${where} GROUP BY boat.id`;
        const many = (await engine.rows(counted)).some(({ n }) => Number(n) > 1);
        if (many) several++;
        const said = review(sql, { dialect, catalog }).findings.map(({ hazard }) => hazard);
        // Columns that are no keys are told as such.
        const told = said.includes("fan-out") || said.includes("off-key-join");
        if (many) expect([sql, told]).toEqual([sql, true]);
        else expect([sql, said.includes("fan-out")]).toEqual([sql, false]);
      }),
      { numRuns: 150 },
    );
    expect(several).toBeGreaterThan(20);
  }, 120_000);
});
