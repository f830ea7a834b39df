import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { combined, filters, isPlain } from "./combinations.ts";
import { openEngines } from "./databases.ts";

// A copy, and a change after it: whether the copy holds all that the change takes away, a table with every combination of values tells.

const columns = fc.constantFrom("*", "buoy_id, state, n, m", "buoy_id, state, n", "buoy_id, n", "state, n, m");
const copy = fc
  .tuple(columns, filters)
  .map(([list, where]) => `CREATE TABLE buoy_before AS SELECT ${list} FROM buoy${where}`);
const set = fc.constantFrom("state = 'x'", "n = 9", "m = 7", "n = n + 1", "state = 'x', n = 9");
const change = fc.oneof(
  fc.tuple(set, filters).map(([assigned, where]) => `UPDATE buoy SET ${assigned}${where}`),
  filters.map((where) => `DELETE FROM buoy${where}`),
);

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const { table, rows } = combined;
  const engine = await open(`${table}\n${rows}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(table, { dialect });
  const all = async (name: string) =>
    new Map((await engine.rows(`SELECT * FROM ${name}`)).map((row) => [row.buoy_id, row] as const));

  test("what a copy lacks is told, and what it holds is enough", async () => {
    const told = { covered: 0, lacking: 0 };
    await fc.assert(
      fc.asyncProperty(copy, change, async (kept, sql) => {
        await engine.fresh();
        await engine.run(kept);
        const [before, held] = [await all("buoy"), await all("buoy_before")];
        await engine.run(sql);
        const after = await all("buoy");
        const lost = [...before.values()].filter(
          (row) => JSON.stringify(after.get(row.buoy_id)) !== JSON.stringify(row),
        );
        if (lost.length === 0) return;
        const assigned = /SET (.*?)(?: WHERE|$)/
          .exec(sql)?.[1]
          .split(", ")
          .map((one) => one.split(" ")[0]);
        // A value that the filter asks for is known without a copy.
        const needed = (assigned ?? ["state", "n", "m"]).filter(
          (name) => !assigned || !new RegExp(`WHERE.*\\b${name} (?:=|IS NULL)`).test(sql),
        );
        if (needed.length === 0) return;
        const covered = lost.every((row) => needed.every((name) => held.get(row.buoy_id)?.[name] === row[name]));
        const script = `${kept};\n${sql};`;
        const { findings } = review(script, { dialect, catalog });
        const said = findings.filter(
          ({ hazard, weight }) =>
            /^(?:no-way-back|thin-backup)$/.test(hazard) ||
            (/^(?:every-row|hollow-filter)$/.test(hazard) && weight === "stop"),
        );
        if (covered) told.covered++;
        else {
          told.lacking++;
          expect([script, said.length > 0]).toEqual([script, true]);
        }
        if (covered && isPlain(kept) && isPlain(sql))
          expect([script, said.map(({ hazard }) => hazard)]).toEqual([script, []]);
      }),
      { numRuns: 200 },
    );
    expect(told.covered).toBeGreaterThan(5);
    expect(told.lacking).toBeGreaterThan(50);
  }, 120_000);
});
