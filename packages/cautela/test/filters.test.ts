import { catalogFromDdl, type DialectId, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, openEngines } from "./databases.ts";

// Filters are judged by what they mean, and the engine has the rows to prove it: a copy that is said to be enough
// holds every row that goes, a filter that is said to meet no row meets none, one that rejects none rejects none.

const ddl = `CREATE TABLE stay (id integer PRIMARY KEY, fee integer, day integer NOT NULL, sign varchar(9));`;
const values = (column: string): readonly (string | number)[] => (column === "sign" ? ["a", "b", "c"] : [1, 2, 3, 4]);

/** A condition as its parts, to be written in one spelling or another. */
type Condition =
  | { is: "compare"; column: string; op: string; value: string | number }
  | { is: "list"; column: string; values: readonly (string | number)[]; negated: boolean }
  | { is: "range"; column: string; low: number; high: number; negated: boolean }
  | { is: "null"; column: string; negated: boolean }
  | { is: "and" | "or"; parts: Condition[] }
  | { is: "not"; part: Condition };

const column = fc.constantFrom("fee", "day", "sign");
const leaf: fc.Arbitrary<Condition> = fc.oneof(
  { weight: 4, arbitrary: column.chain((name) => compare(name)) },
  { weight: 2, arbitrary: column.chain((name) => list(name)) },
  {
    weight: 1,
    arbitrary: fc.record({
      is: fc.constant("range" as const),
      column: fc.constantFrom("fee", "day"),
      low: fc.integer({ min: 0, max: 4 }),
      high: fc.integer({ min: 1, max: 5 }),
      negated: fc.boolean(),
    }),
  },
  { weight: 1, arbitrary: fc.record({ is: fc.constant("null" as const), column, negated: fc.boolean() }) },
);

function compare(name: string): fc.Arbitrary<Condition> {
  const ops = name === "sign" ? ["=", "<>"] : ["=", "<>", "<", "<=", ">", ">="];
  return fc.record({
    is: fc.constant("compare" as const),
    column: fc.constant(name),
    op: fc.constantFrom(...ops),
    value: fc.constantFrom(...values(name)),
  });
}

function list(name: string): fc.Arbitrary<Condition> {
  return fc.record({
    is: fc.constant("list" as const),
    column: fc.constant(name),
    values: fc.uniqueArray(fc.constantFrom(...values(name)), { minLength: 1, maxLength: 3 }),
    negated: fc.boolean(),
  });
}

const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 2, withCrossShrink: true },
    { weight: 5, arbitrary: leaf },
    {
      weight: 4,
      arbitrary: fc.record({
        is: fc.constantFrom("and" as const, "or" as const),
        parts: fc.array(tie("condition"), { minLength: 2, maxLength: 3 }),
      }),
    },
    { weight: 2, arbitrary: fc.record({ is: fc.constant("not" as const), part: tie("condition") }) },
  ),
}));

const shown = (value: string | number): string => (typeof value === "string" ? `'${value}'` : String(value));
const MIRRORED: Record<string, string> = { "=": "=", "<>": "<>", "<": ">", ">": "<", "<=": ">=", ">=": "<=" };
const OPPOSITE: Record<string, string> = { "=": "<>", "<>": "=", "<": ">=", ">": "<=", "<=": ">", ">=": "<" };

/** A condition written plainly. */
function plain(one: Condition): string {
  switch (one.is) {
    case "compare":
      return `${one.column} ${one.op} ${shown(one.value)}`;
    case "list":
      return `${one.column} ${one.negated ? "NOT IN" : "IN"} (${one.values.map(shown).join(", ")})`;
    case "range":
      return `${one.column} ${one.negated ? "NOT BETWEEN" : "BETWEEN"} ${one.low} AND ${one.high}`;
    case "null":
      return `${one.column} IS ${one.negated ? "NOT " : ""}NULL`;
    case "not":
      return `NOT (${plain(one.part)})`;
    default:
      return one.parts.map((part) => `(${plain(part)})`).join(` ${one.is.toUpperCase()} `);
  }
}

/** The same condition in other words; `turn` says which. */
function reworded(one: Condition, turn: () => number): string {
  const alias = turn() % 2 === 0 ? "stay." : "";
  switch (one.is) {
    case "compare": {
      const forms = [
        `${alias}${one.column}${one.op}${shown(one.value)}`,
        `${shown(one.value)} ${MIRRORED[one.op]} ${alias}${one.column}`,
        `NOT (${alias}${one.column} ${OPPOSITE[one.op]} ${shown(one.value)})`,
      ];
      if (one.op === "=") forms.push(`${one.column} IN (${shown(one.value)})`);
      return forms[turn() % forms.length];
    }
    case "list": {
      const turned = [...one.values].reverse().map(shown).join(",");
      return turn() % 2 === 0
        ? `(${alias}${one.column} ${one.negated ? "NOT IN" : "IN"} (${turned}))`
        : `NOT ${one.column} ${one.negated ? "IN" : "NOT IN"} (${turned})`;
    }
    case "range":
      return one.negated
        ? `NOT (${one.column} BETWEEN ${one.low} AND ${one.high})`
        : `(${one.column} >= ${one.low} AND ${one.high} >= ${one.column})`;
    case "null":
      return `NOT (${one.column} IS ${one.negated ? "" : "NOT "}NULL)`;
    case "not":
      return `NOT (${reworded(one.part, turn)})`;
    default:
      return [...one.parts]
        .reverse()
        .map((part) => `(${reworded(part, turn)})`)
        .join(` ${one.is} `);
  }
}

const turns = fc.array(fc.nat(11), { minLength: 1, maxLength: 9 }).map((list) => {
  let at = 0;
  return () => list[at++ % list.length];
});

const engines = await openEngines();

describe.each(engines)("%s", (dialect: DialectId, open) => {
  const catalog = catalogFromDdl(ddl, { dialect });
  let engine: Engine | null = null;
  const ready = async (): Promise<Engine> => {
    if (engine) return engine;
    engine = await open(ddl);
    let id = 0;
    const rows: string[] = [];
    for (const fee of ["NULL", "1", "2", "4"])
      for (const day of [1, 3, 4])
        for (const sign of ["NULL", "'a'", "'b'"]) rows.push(`(${++id}, ${fee}, ${day}, ${sign})`);
    await engine.run(`INSERT INTO stay (id, fee, day, sign) VALUES ${rows.join(", ")};`);
    return engine;
  };
  afterAll(async () => engine?.close());
  const count = async (where: string): Promise<number> => {
    const [row] = await (await ready()).rows(`SELECT count(*) AS n FROM stay WHERE ${where}`);
    return Number(row.n);
  };
  const covers = (copied: string, lost: string): boolean =>
    !review(`CREATE TABLE stay_before AS SELECT * FROM stay WHERE ${copied};\nDELETE FROM stay WHERE ${lost};`, {
      dialect,
      catalog,
    }).findings.some(({ hazard }) => hazard === "thin-backup" || hazard === "no-way-back");

  test("a copy that is enough holds every row that goes", { timeout: 120_000 }, async () => {
    let enough = 0;
    await fc.assert(
      fc.asyncProperty(condition, fc.option(condition), turns, async (copied, more, turn) => {
        const lost = more
          ? `(${reworded(copied, turn)}) AND ${plain({ is: "not", part: more })}`
          : plain(more ?? copied);
        for (const [copy, change] of [
          [plain(copied), lost],
          [lost, plain(copied)],
        ]) {
          if (!covers(copy, change)) continue;
          enough++;
          const missing = await count(`(${change}) AND id NOT IN (SELECT id FROM stay WHERE ${copy})`);
          expect(missing, `${copy} / ${change}`).toBe(0);
        }
      }),
      { numRuns: 150 },
    );
    expect(enough).toBeGreaterThan(50);
  });

  test("the same filter in other words is the same filter", { timeout: 120_000 }, async () => {
    await fc.assert(
      fc.asyncProperty(condition, turns, async (one, turn) => {
        const other = reworded(one, turn);
        expect(await count(`(${plain(one)}) AND NOT (${other})`), other).toBe(0);
        const { findings } = review(`SELECT id FROM stay WHERE ${plain(one)};\nDELETE FROM stay WHERE ${other};`, {
          dialect,
          catalog,
        });
        expect(
          findings.map(({ hazard }) => hazard),
          `${plain(one)} / ${other}`,
        ).not.toContain("check-differs");
      }),
      { numRuns: 150 },
    );
  });

  test("what is said of no row and of every row holds, in any words", { timeout: 120_000 }, async () => {
    let [dead, hollow] = [0, 0];
    const all = await count("1 = 1");
    await fc.assert(
      fc.asyncProperty(condition, turns, async (one, turn) => {
        for (const where of [plain(one), reworded(one, turn)]) {
          const ids = review(`DELETE FROM stay WHERE ${where};`, { dialect, catalog }).findings.map(
            ({ hazard }) => hazard,
          );
          if (ids.includes("dead-filter")) {
            dead++;
            expect(await count(where), where).toBe(0);
          }
          if (ids.includes("hollow-filter")) {
            hollow++;
            // Rows with a NULL may stay out.
            expect(await count(`(${where}) OR (${where}) IS NULL`), where).toBe(all);
          }
        }
      }),
      { numRuns: 400 },
    );
    expect(dead).toBeGreaterThan(3);
    expect(hollow).toBeGreaterThan(3);
  });
});
