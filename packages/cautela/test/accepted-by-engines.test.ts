import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { type Catalog, catalogFromDdl, type DialectId, hazards, readScript, review } from "cautela";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { casesOf } from "./cases.ts";
import { ownName } from "./engines.ts";
import { addedCondition, fixed, printedSql } from "./fixing.ts";
import { type Engine, errorCode, threeEngines } from "./three-engines.ts";

const database = ownName("taken");

// What is called sound here is sound SQL: the engines run it. And where a hazard says that a statement
// fails, they reject it.

const path = (name: string) => fileURLToPath(new URL(name, import.meta.url));
const demo = (name: string) => readFileSync(path(`../../../demo/${name}`), "utf8");

/** The rows, or the cursor, that a statement refers to are not there: no fault of the statement. */
function lacksRows(error: unknown): boolean {
  return /^(?:23503|34000|1452|.*FOREIGN KEY.*)$/s.test(errorCode(error));
}

const engines = await threeEngines(database);

/** The statements of a script as the engine's own client would send them. */
function sent(text: string, dialect: DialectId): string[] {
  return (
    readScript(text, { dialect })
      // COPY waits for data that nobody sends.
      .statements.filter(({ kind }) => kind !== "directive" && kind !== "copy")
      // A comment that is run ends after the last word.
      .map(({ start, end }) => text.slice(start, text.startsWith(" */", end) ? end + 3 : end))
  );
}

const cases = ["rows", "joins", "values", "views", "ripples", "recovery", "order"].flatMap((family) =>
  // An engine needs the tables.
  casesOf(path(`cases/${family}`)).flatMap((one) => (one.ddl === null ? [] : [{ ...one, ddl: one.ddl }])),
);

/** Quiet cases that only run where something stands outside the script. */
const OUTSIDE = new Map([
  ["opaque-ddl.sql: a function that nobody knows", "the function"],
  ["opaque-ddl.sql: a routine that nobody knows is given the table by name", "the routine"],
  ["opaque-ddl.sql: a procedure that is given the table alone", "the procedure"],
  ["filters.sql: the empty list is quiet where a template fills it", "the template"],
  ["more.sql: a day that can be no month, and the right order", "the session's DateStyle"],
]);

/** The hazards whose examples the engine rejects, by what they say of themselves. */
const REJECTED = new Set([
  "ambiguous-name",
  "count-mismatch",
  "dangling-reference",
  "early-use",
  "missing-required",
  "read-only-column",
  "unknown-name",
  "unread",
]);

describe.each(engines)("%s takes", (dialect, open) => {
  let engine: Engine;
  beforeAll(async () => {
    engine = await open();
  }, 120_000);
  afterAll(() => engine.close());

  /** What the engine says of a script in a new database; null when it runs. */
  async function fault(ddl: string, sql: string): Promise<string | null> {
    await engine.reset();
    for (const statement of sent(ddl, dialect)) await engine.run(statement);
    for (const statement of sent(sql, dialect)) {
      try {
        await engine.run(statement);
      } catch (error) {
        if (!lacksRows(error)) return `${statement}: ${String(error)}`;
      }
    }
    return null;
  }

  const ordinary = readFileSync(path(`quiet/${dialect === "mariadb" ? "mysql" : dialect}.sql`), "utf8")
    .split(/^-- script: /m)
    .slice(1)
    .map((one) => [one.slice(0, one.indexOf("\n")), one.slice(one.indexOf("\n") + 1)]);
  test.each(ordinary)("the ordinary script: %s", async (_, script) => {
    const ddl = `${demo(`schema/${dialect}.sql`)}\n${demo(`data/${dialect}.sql`)}`;
    expect(await fault(ddl, script)).toBeNull();
  });

  const quiet = cases.filter(
    (one) => one.expected.length === 0 && one.dialects.includes(dialect) && !OUTSIDE.has(one.name),
  );
  test.each(quiet.map((one) => [one.name, one] as const))("%s", async (_, { ddl, sql }) => {
    expect(await fault(ddl, sql)).toBeNull();
  });

  // Databases that are chosen by USE are not there.
  const examples = hazards.filter(({ id, example }) => example.dialect === dialect && id !== "wrong-database");
  test.each(examples.map((one) => [one.id, one] as const))("the sound example of %s", async (id, { example }) => {
    const before = `${example.ddl}\n${example.beside?.undoes ?? ""}`;
    expect(await fault(before, example.sound)).toBeNull();
    if (!REJECTED.has(id)) return;
    await engine.reset();
    const all = sent(`${example.ddl}\n${example.dangerous}`, dialect);
    await expect(all.reduce((before, one) => before.then(() => engine.run(one)), Promise.resolve())).rejects.toThrow();
  });

  test("every fix, and the SQL that a remedy prints", async () => {
    const written = cases.filter(({ dialects }) => dialects.includes(dialect));
    const shown = examples.map(({ id, example }) => ({ name: id, ddl: example.ddl, sql: example.dangerous }));
    const wrong: string[] = [];
    const catalogs = new Map<string, Catalog>();
    let count = 0;
    for (const { name, ddl, sql } of [...written, ...shown]) {
      const catalog = catalogs.get(ddl) ?? catalogFromDdl(ddl, { dialect });
      catalogs.set(ddl, catalog);
      const { findings } = review(sql, { dialect, catalog });
      for (const { hazard, fix, remedy, statement } of findings) {
        const mended = fix && fixed(sql, fix);
        // In a block the engine looks at the next fault.
        if (mended && !/^DO\b/.test(mended) && review(mended, { dialect, catalog }).verdict !== "stop") {
          count++;
          const said = await fault(ddl, mended);
          if (said !== null) wrong.push(`${name}: ${hazard}: ${said}`);
        }
        const condition = addedCondition(remedy);
        // One statement alone: what is added to it stands at its end.
        if (
          condition !== null &&
          /^\s*(?:UPDATE|DELETE)\b[^;]*;\s*$/i.test(sql) &&
          !/\b(?:RETURNING|ORDER BY|LIMIT)\b/i.test(sql)
        ) {
          count++;
          const said = await fault(ddl, sql.replace(/;\s*$/, `\n${condition};`));
          if (said !== null) wrong.push(`${name}: ${hazard}: ${said}`);
        }
        const copy = printedSql(remedy);
        // What a copy reads is there at its statement; only what stands at the head of a script is tried here.
        if (copy === null || statement > 0 || findings.some((one) => REJECTED.has(one.hazard))) continue;
        count++;
        const said = await fault(ddl, copy);
        if (said !== null) wrong.push(`${name}: ${hazard}: ${said}`);
      }
    }
    expect(wrong).toEqual([]);
    expect(count).toBeGreaterThan(100);
  }, 300_000);
});
