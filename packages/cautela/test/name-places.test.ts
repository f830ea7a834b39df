import { catalogFromDdl, type DialectId, review } from "cautela";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, threeEngines } from "./three-engines.ts";

// Which table a bare name means after schemas, search paths, temporary tables, USE, transactions and renames, asked of the
// engines. Each table that a script makes has a column of its own, by which it is known again.

const database = `cautela_places_${process.pid}`;
const NAMES = ["slip", "berth", "list"];

/** Statements of a script; `#` stands for the number of the statement. */
const STATEMENTS: Partial<Record<DialectId, string[]>> = {
  postgresql: [
    "CREATE SCHEMA dock",
    "CREATE SCHEMA quay",
    "CREATE SCHEMA quay CREATE TABLE slip (c# integer) CREATE VIEW list AS SELECT * FROM slip",
    "DROP SCHEMA dock CASCADE",
    "SET search_path = dock",
    "SET search_path = dock, quay",
    "SET search_path TO quay, public, dock",
    "SET search_path = public",
    "SET LOCAL search_path = quay, dock",
    "SET SCHEMA 'quay'",
    "RESET search_path",
    "BEGIN",
    "COMMIT",
    "ROLLBACK",
    "SAVEPOINT s",
    "ROLLBACK TO s",
    "CREATE TABLE slip (c# integer)",
    "CREATE TABLE berth (c# integer)",
    "CREATE TABLE dock.slip (c# integer)",
    "CREATE TABLE quay.berth (c# integer)",
    "CREATE TABLE berth AS SELECT 1 AS c#",
    "CREATE TEMP TABLE slip (c# integer)",
    "CREATE TEMPORARY TABLE berth AS SELECT 1 AS c#",
    "SELECT 1 AS c# INTO TEMP berth",
    "SELECT 1 AS c# INTO slip",
    "CREATE VIEW list AS SELECT * FROM slip",
    "CREATE VIEW dock.list AS SELECT * FROM berth",
    "DROP TABLE slip CASCADE",
    "DROP TABLE berth CASCADE",
    "DROP TABLE public.slip CASCADE",
    "DROP VIEW list",
    "ALTER TABLE slip SET SCHEMA quay",
    "ALTER TABLE slip RENAME TO berth",
    "ALTER TABLE berth RENAME TO slip",
  ],
  mariadb: [
    `CREATE DATABASE ${database}_b`,
    `DROP DATABASE ${database}_b`,
    `USE ${database}_b`,
    `USE ${database}`,
    "CREATE TABLE slip (c# integer)",
    "CREATE TABLE berth (c# integer)",
    `CREATE TABLE ${database}_b.slip (c# integer)`,
    `CREATE TABLE ${database}.berth (c# integer)`,
    "CREATE TABLE berth AS SELECT 1 AS c#",
    "CREATE TEMPORARY TABLE slip (c# integer)",
    "CREATE TEMPORARY TABLE berth AS SELECT 1 AS c#",
    "CREATE VIEW list AS SELECT 1 AS c#",
    "DROP TABLE slip",
    "DROP TEMPORARY TABLE slip",
    "DROP TEMPORARY TABLE IF EXISTS berth",
    `DROP TABLE ${database}.slip`,
    "DROP VIEW list",
    "ALTER TABLE slip RENAME TO berth",
    `ALTER TABLE ${database}_b.slip RENAME TO berth`,
    `RENAME TABLE berth TO ${database}_b.slip`,
  ],
  sqlite: [
    "CREATE TABLE slip (c# integer)",
    "CREATE TABLE berth (c# integer)",
    "CREATE TEMP TABLE slip (c# integer)",
    "CREATE TABLE temp.berth (c# integer)",
    "CREATE TEMPORARY TABLE berth AS SELECT 1 AS c#",
    "CREATE VIEW list AS SELECT 1 AS c#",
    "CREATE TEMP VIEW list AS SELECT 1 AS c#",
    "DROP TABLE slip",
    "DROP TABLE main.slip",
    "DROP TABLE temp.berth",
    "DROP VIEW list",
    "ALTER TABLE slip RENAME TO berth",
    "ALTER TABLE berth RENAME TO slip",
    "BEGIN",
    "COMMIT",
    "ROLLBACK",
  ],
};

async function answers(action: Promise<unknown>): Promise<boolean> {
  return action.then(
    () => true,
    () => false,
  );
}

/** The first column of what a name means to the engine; empty: nothing. */
async function columnOf(engine: Engine, name: string): Promise<string> {
  if (engine.dialect === "mariadb") {
    const rows = await engine.rows(`SHOW COLUMNS FROM ${name}`).catch(() => []);
    return String(rows[0]?.Field ?? "");
  }
  if (engine.dialect === "sqlite") {
    const rows = await engine.rows(`SELECT name FROM pragma_table_info('${name}')`).catch(() => []);
    return String(rows[0]?.name ?? "");
  }
  const asked = `SELECT attname FROM pg_attribute WHERE attrelid = to_regclass('${name}') AND attnum = 1`;
  return String((await engine.rows(asked))[0]?.attname ?? "");
}

const engines = await threeEngines(database);

describe.each(engines)("%s", (dialect, connect) => {
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("a name means the same table as to the engine", async () => {
    const own = await connect();
    engine = own;
    const list = STATEMENTS[dialect] ?? [];
    const wrong: string[] = [];
    await fc.assert(
      fc.asyncProperty(fc.array(fc.constantFrom(...list), { minLength: 3, maxLength: 14 }), async (drawn) => {
        await own.reset();
        for (const sql of LEFT[dialect] ?? []) await own.run(sql);
        // Where nobody says in which schemas names are looked for, the only table of a name is taken.
        const script = [...(FIRST[dialect] ?? [])];
        for (const sql of script) await own.run(sql);
        for (const [i, sql] of drawn.entries()) {
          const numbered = sql.replaceAll("#", String(i));
          // What the engine refuses is left out; inside a transaction it would end it.
          if (await answers(own.run(numbered))) script.push(numbered);
          else if (dialect === "postgresql") break;
        }
        // A transaction that is aborted answers nothing.
        if (dialect === "postgresql" && !(await answers(own.rows("SELECT 1")))) return;
        const { catalog } = review(`${script.join(";\n")};`, { dialect, catalog: catalogFromDdl("", { dialect }) });
        for (const name of NAMES) {
          const relation = catalog?.resolveRelation(nameOf(name));
          // A view over what is not there yet.
          if (relation?.object === "view" && relation.columns === null) continue;
          const first = relation?.columns?.[0];
          const ours = first === undefined ? "" : typeof first === "string" ? first : first.name;
          const theirs = await columnOf(own, name);
          if (ours !== theirs)
            wrong.push(`${script.join("; ")}: ${name} is ${theirs || "nothing"}, not ${ours || "nothing"}`);
        }
      }),
      { numRuns: 150 },
    );
    expect(wrong.sort((a, b) => a.length - b.length).slice(0, 8)).toEqual([]);
  }, 60_000);
});

const FIRST: Partial<Record<DialectId, string[]>> = {
  postgresql: ["RESET search_path"],
  mariadb: [`USE ${database}`],
};

/** What a script may leave behind outside of what `reset` empties. */
const LEFT: Partial<Record<DialectId, string[]>> = {
  postgresql: ["DISCARD ALL", "DROP SCHEMA IF EXISTS dock CASCADE", "DROP SCHEMA IF EXISTS quay CASCADE"],
  mariadb: [
    `DROP TEMPORARY TABLE IF EXISTS ${database}.slip, ${database}.berth, ${database}_b.slip, ${database}_b.berth`,
    `DROP DATABASE IF EXISTS ${database}_b`,
  ],
};

function nameOf(text: string) {
  return {
    kind: "name" as const,
    parts: [{ text, quoted: false, hole: false, start: 0, end: 0 }],
    link: null,
    start: 0,
    end: 0,
  };
}
