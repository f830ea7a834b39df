import { catalogFromDdl, type DialectId, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, openEngines, refusal } from "./databases.ts";

// What a name means, the engine says: a column or an alias is called unknown or ambiguous exactly where it is.

const ddl = `CREATE TABLE quay (id integer PRIMARY KEY, depth integer);
CREATE TABLE boat (id integer PRIMARY KEY, quay_id integer, fee integer);
CREATE TABLE stay (id integer PRIMARY KEY, boat_id integer, fee integer, day integer);`;

const table = fc.constantFrom("boat", "stay", "boat", "stay", "quay");
const column = fc.oneof(
  { weight: 12, arbitrary: fc.constant("id") },
  { weight: 5, arbitrary: fc.constant("fee") },
  { weight: 1, arbitrary: fc.constantFrom("day", "depth", "quay_id", "boat_id", "feee") },
);
const qualifier = fc.oneof(
  { weight: 14, arbitrary: fc.constant("") },
  { weight: 1, arbitrary: fc.constantFrom("a.", "b.", "c.") },
  { weight: 2, arbitrary: table.map((name) => `${name}.`) },
);
const ref = fc.tuple(qualifier, column).map((parts) => parts.join(""));
const alias = fc.constantFrom("", " a", " b", " AS c");
const source = fc.tuple(table, alias).map((parts) => parts.join(""));
const operand = fc.oneof({ weight: 3, arbitrary: ref }, { weight: 1, arbitrary: fc.constant("3") });

const { condition } = fc.letrec<{ condition: string }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 2 },
    { weight: 4, arbitrary: fc.tuple(ref, operand).map(([left, right]) => `${left} = ${right}`) },
    {
      weight: 2,
      arbitrary: fc
        .tuple(ref, ref, source, tie("condition"))
        .map(([left, item, from, where]) => `${left} IN (SELECT ${item} FROM ${from} WHERE ${where})`),
    },
    {
      weight: 2,
      arbitrary: fc
        .tuple(source, tie("condition"))
        .map(([from, where]) => `EXISTS (SELECT 1 FROM ${from} WHERE ${where})`),
    },
    {
      weight: 1,
      arbitrary: fc.tuple(tie("condition"), tie("condition")).map(([one, other]) => `(${one} OR ${other})`),
    },
  ),
}));

const scalar = fc.oneof(
  operand,
  fc.tuple(ref, source, condition).map(([item, from, where]) => `(SELECT max(${item}) FROM ${from} WHERE ${where})`),
);
const derived = fc.tuple(ref, source).map(([item, from]) => `(SELECT ${item} AS fee FROM ${from}) b`);

const shared = fc.oneof(
  fc.tuple(table, condition).map(([name, where]) => `DELETE FROM ${name} WHERE ${where}`),
  fc
    .tuple(table, column, scalar, condition)
    .map(([name, to, value, where]) => `UPDATE ${name} SET ${to} = ${value} WHERE ${where}`),
  fc
    .tuple(scalar, source, fc.oneof(source, derived), ref, ref, condition)
    .map(
      ([item, one, other, left, right, where]) =>
        `INSERT INTO quay (depth) SELECT ${item} FROM ${one} JOIN ${other} ON ${left} = ${right} WHERE ${where}`,
    ),
  fc
    .tuple(ref, source, condition)
    .map(
      ([item, from, where]) =>
        `WITH w AS (SELECT ${item} AS fee FROM ${from}) DELETE FROM boat WHERE fee IN (SELECT fee FROM w WHERE ${where})`,
    ),
);
const own: Partial<Record<DialectId, fc.Arbitrary<string>>> = {
  postgresql: fc
    .tuple(table, column, ref, source, condition)
    .map(([name, to, value, from, where]) => `UPDATE ${name} SET ${to} = ${value} FROM ${from} WHERE ${where}`),
  sqlite: fc
    .tuple(table, column, ref, source, condition)
    .map(([name, to, value, from, where]) => `UPDATE ${name} SET ${to} = ${value} FROM ${from} WHERE ${where}`),
  mariadb: fc
    .tuple(source, source, ref, ref, ref, ref, condition)
    .map(
      ([one, other, left, right, to, value, where]) =>
        `UPDATE ${one} JOIN ${other} ON ${left} = ${right} SET ${to} = ${value} WHERE ${where}`,
    ),
};

/** Messages of the three engines about names. */
const ABOUT_NAMES =
  /does not exist|is ambiguous|missing FROM-clause|invalid reference|no such column|ambiguous column|Unknown column|Unknown table/i;
/** Refused for the sake of something else, before or after the names. */
const OTHERWISE =
  /specified more than once|Not unique table|duplicate|unique|not null|foreign key|can't specify target|Subquery returns|more than one row|data is invalid|aggregate|not updatable/i;

const engines = await openEngines();

describe.each(engines)("%s", (dialect: DialectId, open) => {
  const catalog = catalogFromDdl(ddl, { dialect });
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("names that mean nothing, or several things", { timeout: 240_000 }, async () => {
    engine ??= await open(ddl);
    const known = engine;
    const count = { wrong: 0, right: 0 };
    // SQLite lets the query of a WITH reach into the statement around it, which is a slip all the same.
    const common = (sql: string): boolean => dialect !== "sqlite" || !sql.startsWith("WITH");
    const statement = own[dialect] ? fc.oneof(shared, own[dialect]) : shared;
    await fc.assert(
      fc.asyncProperty(statement.filter(common), async (sql) => {
        const error = await refusal(known, `${sql};`);
        if (error !== null && (OTHERWISE.test(error) || !ABOUT_NAMES.test(error))) return;
        const findings = review(`${sql};`, { dialect, catalog }).findings;
        const said = findings.filter(({ hazard }) => hazard === "unknown-name" || hazard === "ambiguous-name");
        count[error === null ? "right" : "wrong"]++;
        expect(
          said.map(({ message }) => message).join("; ") !== "",
          `${sql}\n${error}\n${said.map(({ message }) => message)}`,
        ).toBe(error !== null);
      }),
      { numRuns: 400 },
    );
    expect(Math.min(count.wrong, count.right)).toBeGreaterThan(20);
  });
});
