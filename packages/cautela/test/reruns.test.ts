import { review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { openEngines } from "./databases.ts";
import { fixed } from "./fixing.ts";

// Whether a change makes another value at each run is what the engine can tell: it is run twice, and the table compared.

const DDL = `CREATE TABLE buoy (id int PRIMARY KEY, code varchar(60), light varchar(60), n int, m int);
INSERT INTO buoy (id, code, light, n, m) VALUES (1, 'a', 'red', 1, 7), (2, 'ab-ab', 'Red', 2, 0), (3, ' the Aa', '', 3, 12),
(4, 'red', 'b', 12, -3), (5, '', 'a', 0, 5), (6, 'bb', 'a,b', -4, 1), (7, 'The a', 'x', 90, 2), (8, 'b', 'x', 3, 3), (9, 'aa', 'x', 4, 3), (10, 'x-', 'x', 5, 3), (11, 'a-a', 'x', 0, 3), (12, 'bob', 'x', 3, NULL), (13, NULL, NULL, NULL, NULL), (14, 'B ', 'x', 3, 1);`;

const few = fc.integer({ min: 1, max: 4 });
const text = fc.constantFrom("'a'", "'b'", "'red'", "'aa'", "'x-'");

const texts = fc.oneof(
  fc.constant(`UPPER(code)`),
  fc.constant(`LOWER(TRIM(code))`),
  fc.constant(`COALESCE(code, 'none')`),
  fc.constant(`NULLIF(code, 'z')`),
  fc.constant(`CONCAT(code, 'x')`),
  fc.constant(`CONCAT('x-', LOWER(code))`),
  fc.constant(`CONCAT(UPPER(SUBSTR(code, 1, 1)), SUBSTR(code, 2))`),
  few.map((from) => `SUBSTR(code, ${from})`),
  few.map((long) => `SUBSTR(code, 1, ${long})`),
  fc.tuple(text, text).map(([from, to]) => `REPLACE(code, ${from}, ${to})`),
  fc.tuple(text, text, text).map(([a, b, c]) => `CASE code WHEN ${a} THEN ${b} ELSE ${c} END`),
  fc
    .tuple(text, text, text)
    .map(([a, b, c]) => `CASE WHEN code = ${a} THEN ${b} WHEN code = ${c} THEN ${a} ELSE code END`),
  fc.constant(`CASE WHEN code LIKE 'the %' THEN SUBSTR(code, 5) ELSE code END`),
);

const numbers = fc.oneof(
  few.map((by) => `(n + ${by})`),
  few.map((by) => `(n * ${by})`),
  fc.constant(`ABS(n)`),
  fc.constant(`COALESCE(n, 0)`),
  fc.constantFrom(
    "(100 - n)",
    "-n",
    "(-1 * n)",
    "(n * -1)",
    "-ABS(n)",
    "ABS(-n)",
    "-COALESCE(n, 0)",
    "-(n + 1)",
    "-(-n)",
    "+n",
    "(0 - n)",
    "-(2 - n)",
    "ABS(n - 2)",
    "ABS(n) * -1",
    "n * n",
    "n + m",
    "n - m",
    "m - n",
    "-m",
    "n % 3",
    "n & 1",
    "-ROUND(n)",
    "CASE WHEN n < 0 THEN -n ELSE n END",
    "CASE WHEN n > 0 THEN -n ELSE n END",
    "CASE WHEN n <> 0 THEN -n ELSE n END",
    "CASE WHEN m > 0 THEN -n ELSE n END",
    "CASE WHEN n > 0 THEN n - 1 ELSE n END",
    "CASE WHEN n = 3 THEN n + 1 ELSE n END",
    "CASE WHEN n = 3 THEN n ELSE n + 1 END",
    "CASE n WHEN 0 THEN 1 ELSE 0 END",
    "CASE WHEN n = 0 THEN 1 ELSE 0 END",
    "CASE WHEN n IS NULL THEN 1 ELSE NULL END",
    "CASE WHEN n IS NULL THEN 1 ELSE n END",
    "CASE WHEN n > 2 THEN 1 ELSE 3 END",
    "CASE WHEN n > 2 THEN 3 ELSE 1 END",
    "CASE WHEN NOT (n > 2) THEN 3 ELSE 1 END",
    "CASE WHEN n IN (1, 2) THEN 2 ELSE 1 END",
    "CASE WHEN n IN (1, 2) THEN 3 ELSE 1 END",
    "CASE WHEN n NOT BETWEEN 1 AND 3 THEN 2 WHEN n = 2 THEN 1 ELSE n END",
    "CASE WHEN n = 2 OR n IS NULL THEN 3 ELSE 2 END",
    "CASE WHEN n > 1 AND n < 4 THEN 1 ELSE n END",
    "CASE WHEN COALESCE(n, 0) = 0 THEN 5 ELSE 0 END",
    "CASE WHEN n >= 3 THEN 3 WHEN n >= 1 THEN 1 ELSE 0 END",
    "CASE WHEN n >= 12 THEN 3 WHEN n >= 3 THEN 1 ELSE 0 END",
    "CASE WHEN n IS NULL THEN m ELSE NULL END",
    "CASE WHEN m > 2 THEN 1 ELSE 3 END",
    "NULLIF(n, 3)",
    "NULLIF(n + 1, 3)",
    "COALESCE(n + 1, m)",
    "COALESCE(m, n)",
    "COALESCE(m, n + 1)",
    "COALESCE(NULLIF(n, 0), m)",
  ),
  fc.constant(`ROUND(n * 1.5)`),
  few.map((of) => `CASE WHEN n > ${of} THEN ${of} ELSE n END`),
  fc.tuple(few, few, few).map(([a, b, c]) => `CASE n WHEN ${a} THEN ${b} WHEN ${c} THEN ${a} ELSE n END`),
);

const assignments = fc.oneof(
  texts.map((value) => `code = ${value}`),
  numbers.map((value) => `n = ${value}`),
  fc.constantFrom(
    "light = code, code = 'x'",
    "light = code, code = light",
    "code = light",
    "n = m, m = 0",
    "n = m, m = m",
  ),
);

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(DDL);
  afterAll(() => engine.close());

  test("what makes another value at the second run is said to", async () => {
    await fc.assert(
      fc.asyncProperty(assignments, async (set) => {
        const sql = `UPDATE buoy SET ${set} WHERE id < 20`;
        await engine.fresh();
        const run = async (): Promise<string> => {
          await engine.run(sql);
          return JSON.stringify(await engine.rows("SELECT * FROM buoy ORDER BY id"));
        };
        const first = await run();
        const drifts = first !== (await run());
        const said = review(sql, { dialect }).findings.some(({ hazard }) => hazard === "drifts-on-rerun");
        expect([sql, said]).toEqual([sql, drifts]);
      }),
      { numRuns: 250 },
    );
  }, 120_000);

  test("a filter that stands for what the value asks changes the same", async () => {
    let mended = 0;
    await fc.assert(
      fc.asyncProperty(assignments, async (set) => {
        const sql = `UPDATE buoy SET ${set}`;
        const [finding] = review(sql, { dialect }).findings.filter(({ hazard }) => hazard === "rewrite-all");
        if (!finding?.fix) return;
        mended++;
        const after = async (statement: string): Promise<string> => {
          await engine.fresh();
          await engine.run(statement);
          return JSON.stringify(await engine.rows("SELECT * FROM buoy ORDER BY id"));
        };
        expect([sql, await after(fixed(sql, finding.fix))]).toEqual([sql, await after(sql)]);
      }),
      { numRuns: 150 },
    );
    expect(mended).toBeGreaterThan(20);
  }, 120_000);
});
