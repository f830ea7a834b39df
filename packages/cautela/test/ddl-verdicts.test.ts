import { catalogFromDdl, type DialectId, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { ownName } from "./engines.ts";
import { type Engine, errorCode, threeEngines } from "./three-engines.ts";

// Which statements about structure an engine refuses, because something is not there or is there already: scripts are
// drawn, run statement by statement, and compared with what the review has said of each.

const database = ownName("verdicts");

const SCHEMA: readonly string[] = [
  "CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10), depth integer, CONSTRAINT berth_deep CHECK (depth > 0))",
  "CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, code varchar(10), berth_id integer)",
  "CREATE VIEW shown AS SELECT vessel_id FROM vessel",
];

const table = fc.constantFrom("berth", "vessel", "pilot", "berths");
const column = fc.constantFrom("code", "depth", "berth_id", "vessel_id", "draught", "dept");
const key = fc.constantFrom("berth_deep", "vessel_berth", "berth_dep");

/** The statements of a dialect; those that depend on rows, or on an engine's own names, are left out. */
function statements(dialect: DialectId): fc.Arbitrary<string> {
  const all: fc.Arbitrary<string>[] = [
    fc.tuple(table, column).map(([t, c]) => `ALTER TABLE ${t} ADD COLUMN ${c} integer`),
    fc.tuple(table, column).map(([t, c]) => `ALTER TABLE ${t} DROP COLUMN ${c}`),
    fc
      .tuple(table, column, column)
      .filter(([, a, b]) => a !== b)
      .map(([t, a, b]) => `ALTER TABLE ${t} RENAME COLUMN ${a} TO ${b}`),
    fc
      .tuple(table, table)
      .filter(([a, b]) => a !== b)
      .map(([a, b]) => `ALTER TABLE ${a} RENAME TO ${b}`),
    table.map((t) => `CREATE TABLE ${t} (${t}_id integer NOT NULL PRIMARY KEY, code varchar(10))`),
    table.map((t) => `CREATE TABLE IF NOT EXISTS ${t} (${t}_id integer NOT NULL PRIMARY KEY)`),
    fc.constantFrom("shown", "seen", "shwn").map((v) => `CREATE VIEW ${v} AS SELECT 1 AS one`),
    fc.constantFrom("shown", "seen", "shwn").map((v) => `DROP VIEW ${v}`),
    table.map((t) => `DROP TABLE ${t}`),
    table.map((t) => `DROP TABLE IF EXISTS ${t}`),
    fc.tuple(table, column).map(([t, c]) => `CREATE INDEX ${t}_${c} ON ${t} (${c})`),
  ];
  if (dialect !== "sqlite")
    all.push(
      fc.tuple(table, key).map(([t, k]) => `ALTER TABLE ${t} ADD CONSTRAINT ${k} UNIQUE (code)`),
      fc.tuple(table, key).map(([t, k]) => `ALTER TABLE ${t} DROP CONSTRAINT ${k}`),
      fc.tuple(table, column).map(([t, c]) => `ALTER TABLE ${t} ALTER COLUMN ${c} SET DEFAULT 3`),
      fc
        .tuple(table, column, table)
        .map(([t, c, o]) => `ALTER TABLE ${t} ADD FOREIGN KEY (${c}) REFERENCES ${o} (code)`),
    );
  if (dialect === "postgresql")
    all.push(
      fc.tuple(table, column).map(([t, c]) => `ALTER TABLE ${t} ADD COLUMN IF NOT EXISTS ${c} integer`),
      fc.tuple(table, column).map(([t, c]) => `ALTER TABLE IF EXISTS ${t} DROP COLUMN IF EXISTS ${c}`),
    );
  return fc.oneof(...all);
}

/** Whether an engine says that something is not there, or is there already. */
function speaksOfNames(error: unknown): boolean {
  return NAMES.test(errorCode(error));
}

const NAMES =
  /^(?:42P01|42703|42701|42P07|42704|42710|1146|1054|1091|1072|1050|1060|1061|1051|4092|no such (?:table|column|view).*|duplicate column name.*|(?:table|view) \S+ already exists.*|there is already another table.*|table \S+ has no column.*)$/s;

/** What takes the constraints of a table away, by the names that the engine gives them. */
async function drops(engine: Engine, table: string): Promise<string[]> {
  if (engine.dialect === "postgresql") {
    const asked = `SELECT conname FROM pg_constraint WHERE conrelid = '${table}'::regclass AND contype IN ('p', 'u', 'f', 'c')`;
    return (await engine.rows(`${asked} ORDER BY oid`)).map(
      ({ conname }) => `ALTER TABLE ${table} DROP CONSTRAINT ${conname}`,
    );
  }
  const asked = `SELECT constraint_name AS name, constraint_type AS type FROM information_schema.table_constraints
    WHERE constraint_schema = '${database}' AND table_name = '${table}' AND constraint_type IN ('FOREIGN KEY', 'UNIQUE', 'CHECK') ORDER BY type`;
  return (await engine.rows(asked)).map(
    ({ name, type }) =>
      `ALTER TABLE ${table} DROP ${type === "UNIQUE" ? "INDEX" : type === "CHECK" ? "CONSTRAINT" : type} ${name}`,
  );
}

const engines = await threeEngines(database);

describe.each(engines)("%s", (dialect, connect) => {
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("what is not there, and what is there already, is refused", async () => {
    const own = await connect();
    engine = own;
    const catalog = catalogFromDdl(SCHEMA.join(";\n"), { dialect });
    const missed: string[] = [];
    const wrong: string[] = [];
    await fc.assert(
      fc.asyncProperty(fc.array(statements(dialect), { minLength: 1, maxLength: 8 }), async (script) => {
        await own.reset();
        for (const sql of SCHEMA) await own.run(sql);
        const { findings } = review(`${script.join(";\n")};`, { dialect, catalog });
        const said = new Set(
          findings
            .filter(
              ({ hazard }) => hazard === "unknown-name" || hazard === "already-there" || hazard === "backup-clash",
            )
            .flatMap((one) => [one, ...one.places].map(({ statement }) => statement)),
        );
        for (const [i, sql] of script.entries()) {
          const error: unknown = await own.run(sql).then(
            () => null,
            (failed: unknown) => failed,
          );
          const context = `${script.slice(0, i + 1).join("; ")}  [${error instanceof Error ? error.message : "taken"}]`;
          if (error !== null && speaksOfNames(error) && !said.has(i)) missed.push(context);
          if (error === null && said.has(i)) wrong.push(context);
          // What one of the two refuses the other does not: from here on they speak of different databases.
          if ((error === null) === said.has(i)) break;
          // Refused for another reason: the review has taken it.
          if (error !== null && !said.has(i)) break;
        }
      }),
      { numRuns: 120 },
    );
    expect({ missed: missed.slice(0, 12), wrong: wrong.slice(0, 12) }).toEqual({ missed: [], wrong: [] });
  }, 60_000);

  if (dialect === "sqlite") return;
  test("a constraint without a name is known by the one that the engine gives it", async () => {
    const own = await connect();
    engine ??= own;
    await fc.assert(
      fc.asyncProperty(constraints(dialect), async (list) => {
        await own.reset();
        const [first, ...added] = list;
        const script = [
          "CREATE TABLE owner (owner_id integer PRIMARY KEY, a integer, b integer, UNIQUE (a, b), UNIQUE (a), UNIQUE (b))",
          `CREATE TABLE mooring (mooring_id integer NOT NULL, a integer, b integer, ${first})`,
          ...added.map((one) => `ALTER TABLE mooring ADD ${one}`),
        ];
        // Names that were made from other names stay as they are.
        if (dialect === "postgresql" && added.length % 2 === 1)
          script.push("ALTER TABLE mooring RENAME COLUMN a TO c", "ALTER TABLE mooring RENAME TO berth");
        const now = script.length > list.length + 1 ? "berth" : "mooring";
        for (const sql of script) await own.run(sql);
        const dropped = await drops(own, now);
        expect(dropped.length).toBe(list.length);
        const left = catalogFromDdl([...script, ...dropped].join(";\n"), { dialect });
        const table = [...left.tables()].find(({ name }) => name === now);
        expect([dropped, table?.uniqueKeys, table?.foreignKeys, table?.checks]).toEqual([dropped, [], [], []]);
      }),
      { numRuns: 60 },
    );
    if (engine !== own) await own.close();
  }, 60_000);
});

/** Constraints without a name. In MariaDB the indexes of foreign keys share their names with keys, so those stand alone. */
function constraints(dialect: DialectId): fc.Arbitrary<string[]> {
  const columns = fc.constantFrom("a", "b", "a, b");
  const unique = columns.map((list) => `UNIQUE (${list})`);
  const foreign = columns.map((list) => `FOREIGN KEY (${list}) REFERENCES owner (${list})`);
  const check = fc.constantFrom("a > 0", "a < b", "b <> 3 OR b > 9", "1 = 1").map((text) => `CHECK (${text})`);
  const some = (one: fc.Arbitrary<string>): fc.Arbitrary<string[]> => fc.array(one, { minLength: 1, maxLength: 5 });
  return dialect === "postgresql"
    ? some(fc.oneof(unique, foreign, check))
    : fc.oneof(some(unique), some(foreign), some(check));
}
