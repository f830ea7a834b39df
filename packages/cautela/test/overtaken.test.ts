import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { openEngines } from "./databases.ts";

// A table that holds every combination of a few values: what the second of two changes meets there, before and after the first,
// is what their filters say, and no chance of the data.

const STATES = ["'a'", "'b'", "'c'", "'d'", "NULL"];
const NUMBERS = ["0.5", "1", "1.5", "2", "2.5", "3", "3.5", "NULL"];
const TABLE =
  "CREATE TABLE buoy (buoy_id int NOT NULL PRIMARY KEY, state varchar(10), n numeric(6, 1), m int NOT NULL);";
const ROWS = `INSERT INTO buoy VALUES ${STATES.flatMap((state, i) =>
  NUMBERS.flatMap((n, j) => ["1", "2", "3"].map((m, k) => `(${i * 100 + j * 10 + k}, ${state}, ${n}, ${m})`)),
).join(", ")};`;

const state = fc.constantFrom("'a'", "'b'", "'c'");
const number = fc.constantFrom("1", "2", "3");
const condition = fc.oneof(
  state.map((one) => `state = ${one}`),
  fc.tuple(state, state).map(([one, other]) => `state IN (${one}, ${other})`),
  state.map((one) => `state <> ${one}`),
  number.map((one) => `n = ${one}`),
  number.map((one) => `n < ${one}`),
  number.map((one) => `n >= ${one}`),
  fc.constantFrom("n BETWEEN 1 AND 2", "n BETWEEN 2 AND 3", "n BETWEEN 1 AND 3"),
  fc.constantFrom("state IS NULL", "state IS NOT NULL", "n IS NULL", "m = 1", "m IN (1, 2)"),
);
const filter = fc.oneof(
  { weight: 3, arbitrary: condition },
  { weight: 2, arbitrary: fc.tuple(condition, condition).map((parts) => parts.join(" AND ")) },
  { weight: 1, arbitrary: fc.tuple(condition, condition).map(([one, other]) => `(${one} OR ${other})`) },
);
const set = fc.oneof(
  state.map((one) => `state = ${one}`),
  number.map((one) => `n = ${one}`),
  fc.constantFrom("n = n + 1", "n = n - 1", "n = n * 2", "n = 2 + n", "state = NULL", "n = NULL", "m = 2", "n = m"),
  fc.tuple(state, number).map(([one, other]) => `state = ${one}, n = ${other}`),
);
const change = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.tuple(set, filter).map(([assigned, where]) => `UPDATE buoy SET ${assigned} WHERE ${where}`),
  },
  { weight: 1, arbitrary: filter.map((where) => `DELETE FROM buoy WHERE ${where}`) },
);

/** Conditions with OR, and what two of them on one column mean together, are not worked out. */
function isPlain(sql: string): boolean {
  const columns = [...sql.slice(sql.indexOf(" WHERE ")).matchAll(/\b(state|n|m) (?:[<>=]|IN|IS|BETWEEN)/g)].map(
    ([, name]) => name,
  );
  return !sql.includes(" OR ") && new Set(columns).size === columns.length;
}

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(`${TABLE}\n${ROWS}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(TABLE, { dialect });
  const met = async (sql: string): Promise<Set<unknown>> => {
    const rows = await engine.rows(`SELECT buoy_id FROM buoy${sql.slice(sql.indexOf(" WHERE "))}`);
    return new Set(rows.map((row) => row.buoy_id));
  };

  test("a filter that an earlier change has left nothing for, or whose rows it has moved in, is told", async () => {
    const told = { nothing: 0, moved: 0 };
    await fc.assert(
      fc.asyncProperty(change, change, async (first, second) => {
        await engine.fresh();
        const [before, changed] = [await met(second), await met(first)];
        if (before.size === 0 || changed.size === 0) return;
        await engine.run(first);
        const after = await met(second);
        const script = `${first};\n${second};`;
        const { findings } = review(script, { dialect, catalog });
        const said = findings.find(({ hazard }) => hazard === "stale-filter")?.message ?? "";
        const repeated = findings.some(({ hazard }) => hazard === "repeated-change");
        const nothing = said.startsWith("No row");
        if (nothing) told.nothing++;
        if (nothing) expect([script, after.size]).toEqual([script, 0]);
        else if (!repeated && isPlain(first) && isPlain(second))
          expect([script, after.size > 0]).toEqual([script, true]);
        if (!said.includes("twice")) return;
        told.moved++;
        // None of the rows that the first one changes met the second before, and some of them do now.
        expect([script, [...changed].filter((id) => before.has(id))]).toEqual([script, []]);
        expect([script, [...changed].some((id) => after.has(id))]).toEqual([script, true]);
      }),
      { numRuns: 400 },
    );
    expect(told.nothing).toBeGreaterThan(10);
    expect(told.moved).toBeGreaterThan(1);
  }, 120_000);
});
