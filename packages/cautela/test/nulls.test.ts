import { catalogFromDdl, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { openEngines, refusal } from "./databases.ts";

// Where a value turns into NULL, or a NULL is refused, the engine knows: none of it goes unsaid.

const TABLES = `CREATE TABLE quay (quay_id int NOT NULL PRIMARY KEY, name varchar(20) NOT NULL, depth int NOT NULL);
CREATE TABLE buoy (id int NOT NULL PRIMARY KEY, code varchar(60) NOT NULL, light varchar(60), n int NOT NULL, m int, quay_id int, CONSTRAINT fk FOREIGN KEY (quay_id) REFERENCES quay (quay_id));`;
const ROWS = `INSERT INTO quay VALUES (1, 'north', 3), (2, 'south', 4);
INSERT INTO buoy (id, code, light, n, m, quay_id) VALUES (1, 'a', 'red', 1, 7, 1), (2, 'ab-ab', NULL, 2, NULL, 2), (3, 'red', '', 3, 12, NULL), (4, 'x', 'b', 12, -3, 1);`;

const number = fc.constantFrom("1", "2", "12");
const text = fc.constantFrom("'a'", "'red'", "'x'");
const texts = fc.oneof(
  fc.constantFrom("light", "UPPER(light)", "CONCAT(code, light)", "COALESCE(light, code)", "REPLACE(code, 'a', light)"),
  fc.constantFrom("REPLACE(light, 'a', code)", "(SELECT name FROM quay WHERE quay.quay_id = buoy.quay_id)", "code"),
  fc.tuple(text, text).map(([a, b]) => `CASE code WHEN ${a} THEN ${b} END`),
  fc.tuple(text, text).map(([a, b]) => `CASE WHEN light = ${a} THEN ${b} ELSE light END`),
  fc.tuple(text, text).map(([a, b]) => `CASE WHEN light IS NULL THEN ${a} WHEN code = ${b} THEN code ELSE light END`),
);
const numbers = fc.oneof(
  fc.constantFrom("m", "n + m", "m * 2", "ABS(m)", "COALESCE(m, 0) + n", "n * 2"),
  fc.constantFrom("(SELECT depth FROM quay WHERE quay.quay_id = buoy.quay_id)"),
  fc.constantFrom("(SELECT COUNT(*) FROM quay WHERE quay.quay_id = buoy.quay_id)"),
  fc.tuple(number, number).map(([a, b]) => `CASE n WHEN ${a} THEN ${b} END`),
  fc.tuple(number, number).map(([a, b]) => `n + CASE m WHEN ${a} THEN ${b} END`),
  fc.tuple(number, number).map(([a, b]) => `CASE WHEN m > ${a} THEN ${b} ELSE n END`),
);
const where = fc.constantFrom(
  "",
  " WHERE id < 9",
  " WHERE light IS NOT NULL",
  " WHERE m IS NOT NULL",
  " WHERE n IN (1, 2)",
  " WHERE quay_id IS NOT NULL",
  " WHERE quay_id = 1",
);
const assignments = fc.oneof(
  fc.tuple(fc.constantFrom("code", "light"), texts),
  fc.tuple(fc.constantFrom("n", "m"), numbers),
);

const TOLD = new Set(["missing-else", "blanks-value", "outer-null", "null-into-required"]);

describe.each(await openEngines())("on %s", async (dialect, open) => {
  const engine = await open(`${TABLES}\n${ROWS}`);
  afterAll(() => engine.close());
  const catalog = catalogFromDdl(TABLES, { dialect });

  test("a value that is lost to NULL, or a NULL that is refused, is told", async () => {
    await fc.assert(
      fc.asyncProperty(assignments, where, async ([column, value], filter) => {
        const sql = `UPDATE buoy SET ${column} = ${value}${filter}`;
        await engine.fresh();
        const held = async (): Promise<Map<unknown, unknown>> =>
          new Map((await engine.rows(`SELECT id, ${column} AS held FROM buoy`)).map((row) => [row.id, row.held]));
        const before = await held();
        const refused = (await refusal(engine, sql)) !== null;
        if (!refused) await engine.run(sql);
        const after = refused ? before : await held();
        const lost = [...before].some(([id, was]) => was !== null && after.get(id) === null);
        const { findings } = review(sql, { dialect, catalog });
        const said = findings.some(({ hazard }) => TOLD.has(hazard));
        // A value that is copied from a column that may be NULL is meant so.
        const copied =
          /^(?:light|UPPER\(light\)|REPLACE\(light, 'a', code\)|m|m \* 2|ABS\(m\)|CASE WHEN light .*)$/.test(value);
        if (refused || (lost && !copied)) expect([sql, said]).toEqual([sql, true]);
      }),
      { numRuns: 200 },
    );
  }, 120_000);
});
