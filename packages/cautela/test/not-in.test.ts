import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { openEngines } from "./databases.ts";
import { fixed } from "./fixing.ts";

// Whether one NULL of a subquery keeps a NOT IN from ever being true, the engine tells: by a row that has it, and without.

const TABLES = `CREATE TABLE quay (quay_id int NOT NULL PRIMARY KEY, depth int NOT NULL, zone int);
CREATE TABLE buoy (buoy_id int NOT NULL PRIMARY KEY, n int NOT NULL, m int, quay_id int);
CREATE TABLE boat (boat_id int NOT NULL PRIMARY KEY, n int NOT NULL);`;
const ROWS = `INSERT INTO quay VALUES (101, 3, 201), (102, 4, NULL), (103, 3, 202);
INSERT INTO buoy VALUES (301, 1, 7, 101), (302, 2, NULL, 102), (303, 2, 301, NULL), (304, 3, NULL, 999), (305, 3, 12, 103);
INSERT INTO boat VALUES (1, 501), (2, 502);`;

const value = fc.constantFrom(
  "m",
  "n",
  "quay_id",
  "m + n",
  "COALESCE(m, 0)",
  "COALESCE(m, quay_id)",
  "ABS(m)",
  "NULLIF(n, 0)",
);
const where = fc.constantFrom(
  "",
  " WHERE m IS NOT NULL",
  " WHERE m > 0",
  " WHERE quay_id IN (101, 102)",
  " WHERE n = 2",
  " WHERE n = 2 OR m > 900",
  " WHERE m IS NOT NULL AND quay_id IS NOT NULL",
);
const single = fc.tuple(value, where).map(([select, filter]) => `SELECT ${select} FROM buoy${filter}`);
const joined = fc
  .tuple(
    fc.constantFrom("q.quay_id", "q.depth", "q.zone", "b.m", "b.n", "b.quay_id"),
    fc.constantFrom("LEFT JOIN", "JOIN"),
    fc.constantFrom("", " WHERE q.depth > 0", " WHERE b.m > 0", " WHERE q.zone IS NOT NULL"),
  )
  .map(([select, join, filter]) => `SELECT ${select} FROM buoy b ${join} quay q ON q.quay_id = b.quay_id${filter}`);
const grouped = fc
  .tuple(fc.constantFrom("MAX(m)", "MIN(n)", "SUM(m)", "COUNT(m)"), where)
  .map(([select, filter]) => `SELECT ${select} FROM buoy${filter} GROUP BY n`);
const one = fc.oneof(
  single,
  joined,
  grouped,
  single.map((query) => `SELECT x.v FROM (${query.replace(" FROM", " AS v FROM")}) x`),
);
const query = fc.oneof(
  { weight: 3, arbitrary: one },
  { weight: 1, arbitrary: fc.tuple(one, fc.constantFrom("UNION", "UNION ALL"), one).map((parts) => parts.join(" ")) },
);
const statement = fc.constantFrom(
  (list: string) => `DELETE FROM boat WHERE n NOT IN (${list})`,
  (list: string) => `UPDATE boat SET n = n + 1 WHERE NOT (n IN (${list}))`,
  (list: string) => `DELETE FROM boat WHERE n <> ALL (${list})`,
  (list: string) => `INSERT INTO boat (boat_id, n) SELECT b.boat_id + 10, b.n FROM boat b WHERE b.n NOT IN (${list})`,
);

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(`${TABLES}\n${ROWS}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(TABLES, { dialect });

  test("a NOT IN that a NULL makes untrue is told, and what is offered helps", async () => {
    const told = { nothing: 0, mended: 0 };
    await fc.assert(
      fc.asyncProperty(statement, query, async (change, list) => {
        const sql = change(list);
        // SQLite has no ALL.
        if (dialect === "sqlite" && sql.includes("ALL (")) return;
        const run = async (text: string): Promise<number> => {
          await engine.fresh();
          return engine.run(text);
        };
        const changed = await run(sql);
        const found = review(sql, { dialect, catalog }).findings.find(
          ({ hazard, weight }) => hazard === "null-blind" && weight === "ask",
        );
        // None of the values is one of the subquery's: without a NULL all rows are met.
        if (changed === 0) {
          told.nothing++;
          expect([sql, found?.hazard]).toEqual([sql, "null-blind"]);
        }
        if (!found?.fix) return;
        const mended = fixed(sql, found.fix);
        // Another part of the same query may hold a NULL too.
        if (
          review(mended, { dialect, catalog }).findings.some(
            ({ hazard, weight }) => hazard === "null-blind" && weight === "ask",
          )
        )
          return;
        told.mended++;
        expect([mended, await run(mended)]).toEqual([mended, 2]);
      }),
      { numRuns: 200 },
    );
    expect(told.nothing).toBeGreaterThan(20);
    expect(told.mended).toBeGreaterThan(20);
  }, 120_000);
});
