import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { combined, conditions, isPlain } from "./combinations.ts";
import { openEngines } from "./databases.ts";

// What the second of two changes meets, before and after the first, in a table that holds every combination of values.

const state = fc.constantFrom("'a'", "'b'", "'c'");
const number = fc.constantFrom("1", "2", "3");
const set = fc.oneof(
  state.map((one) => `state = ${one}`),
  number.map((one) => `n = ${one}`),
  fc.constantFrom("n = n + 1", "n = n - 1", "n = n * 2", "n = 2 + n", "state = NULL", "n = NULL", "m = 2"),
  fc.tuple(state, number).map(([one, other]) => `state = ${one}, n = ${other}`),
);
const change = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.tuple(set, conditions).map(([assigned, where]) => `UPDATE buoy SET ${assigned} WHERE ${where}`),
  },
  { weight: 1, arbitrary: conditions.map((where) => `DELETE FROM buoy WHERE ${where}`) },
  // One band of numbers after the other.
  {
    weight: 2,
    arbitrary: fc
      .tuple(
        fc.constantFrom("n = n + 1", "n = n * 2", "n = 3", "n = n - 1"),
        fc.constantFrom("n < 1", "n < 2", "n >= 2", "n BETWEEN 2 AND 3", "n >= 3"),
      )
      .map(([assigned, where]) => `UPDATE buoy SET ${assigned} WHERE ${where}`),
  },
);

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(`${combined.table}\n${combined.rows}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(combined.table, { dialect });
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
        // None of the rows that the first one changes met the second before.
        expect([script, [...changed].filter((id) => before.has(id))]).toEqual([script, []]);
        if (!said.includes(" may ")) expect([script, [...changed].some((id) => after.has(id))]).toEqual([script, true]);
      }),
      { numRuns: 250 },
    );
    expect(told.nothing).toBeGreaterThan(3);
    expect(told.moved).toBeGreaterThan(0);
  }, 120_000);
});
