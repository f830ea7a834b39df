import { catalogFromDdl, type DialectId, review, trace } from "cautela";
import { afterAll, describe, expect, test } from "vitest";
import { ownName } from "./engines.ts";
import { drawSchema } from "./generated-schemas.ts";
import { type Engine, errorCode, threeEngines } from "./three-engines.ts";

// Schemas are drawn, made on the engine, and changed: which writes the engine refuses for what a view is, and which tables'
// contents are other ones afterwards, must have been said. `npm run engines` draws a thousand for each engine; SCHEMAS and
// SCHEMAS_SEED choose others.

const SCHEMAS = Number(process.env.SCHEMAS ?? 30);
const SEED = Number(process.env.SCHEMAS_SEED ?? 20261128);
const database = ownName("schemas");

/** What an engine says of views, and columns of views, that are not written through. */
const SEALED =
  /^(?:55000|0A000|42809|428C9|1288|1348|1393|1394|1395|1443|1471|1423|cannot (?:modify|UPDATE|INSERT into|DELETE from) .*because it is a view.*)$/s;

/** The hazards that say so. */
const REFUSED = new Set(["sealed-view", "sealed-column", "read-only-column", "own-table-read"]);

/** The tables of a database with a text for the rows of each; a parent without those that inherit from it. */
async function contents(engine: Engine): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const names = (await engine.rows(TABLES[engine.dialect] ?? "")).map(({ name }) => String(name));
  for (const name of names) {
    const only = engine.dialect === "postgresql" ? "ONLY " : "";
    const rows = await engine.rows(`SELECT * FROM ${only}${name}`);
    found.set(name, JSON.stringify(rows.map((row) => JSON.stringify(row)).sort()));
  }
  return found;
}

const TABLES: Partial<Record<DialectId, string>> = {
  postgresql: `SELECT CASE WHEN n.nspname LIKE 'pg_temp%' THEN 'pg_temp' ELSE n.nspname END || '.' || c.relname AS name
    FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind = 'r' AND n.nspname !~ '^(pg_catalog|information_schema|pg_toast)'`,
  sqlite:
    "SELECT 'main.' || name AS name FROM main.sqlite_master WHERE type = 'table' UNION ALL SELECT 'temp.' || name FROM temp.sqlite_master WHERE type = 'table'",
  mariadb: `SELECT table_name AS name FROM information_schema.tables WHERE table_schema = '${database}' AND table_type IN ('BASE TABLE', 'TEMPORARY')`,
};

/** A table's name as `TABLES` gives it. */
function fullName(name: string, dialect: DialectId): string {
  if (dialect === "mariadb") return name.slice(name.lastIndexOf(".") + 1);
  if (name.includes(".")) return name;
  return dialect === "sqlite" ? `main.${name}` : `public.${name}`;
}

const engines = await threeEngines(database);

describe.each(engines)("%s", (dialect, connect) => {
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test(
    `${SCHEMAS} schemas from seed ${SEED}`,
    async () => {
      const own = await connect();
      engine = own;
      const settings = dialect === "sqlite" ? { foreign_keys: "on" } : undefined;
      const wrong: string[] = [];
      const count = { asked: 0, sealed: 0, taken: 0, exact: 0 };
      for (let seed = SEED; seed < SEED + SCHEMAS; seed++) {
        const drawn = drawSchema(dialect, seed);
        await own.reset();
        for (const sql of LEFT[dialect] ?? []) await own.run(sql);
        const made: string[] = [];
        for (const sql of drawn.ddl)
          if (
            await own.run(sql).then(
              () => true,
              () => false,
            )
          )
            made.push(sql);
        const path = made.find((sql) => sql.startsWith("SET ")) ?? "SELECT 1";
        const catalog = catalogFromDdl(made.map((sql) => `${sql};`).join("\n"), { dialect });
        for (const sql of drawn.changes) {
          await own.run(dialect === "mariadb" ? "START TRANSACTION" : "BEGIN");
          const before = await contents(own);
          const error: unknown = await own.run(sql).then(
            () => null,
            (failed: unknown) => failed,
          );
          const after = error === null ? await contents(own) : before;
          await own.run("ROLLBACK");
          const said = review(`${path};\n${sql};`, { dialect, catalog, policy: { settings } });
          const graph = trace(said, { statement: 1 }).statements[0];
          const sealed =
            graph.notes.some(({ kind }) => kind === "sealed") ||
            said.findings.some(({ hazard }) => REFUSED.has(hazard));
          const refused = error instanceof Error && SEALED.test(errorCode(error)) && !/foreign key/.test(error.message);
          const context = (words: string): string =>
            `seed ${seed}: ${words}\n  ${sql}\n  ${error instanceof Error ? error.message : "taken"}\n${made.join(";\n")}`;
          count.asked++;
          if (refused !== sealed && (refused || error === null))
            wrong.push(context(sealed ? "sealed, and is not" : "not said to be sealed"));
          if (refused) count.sealed++;
          if (error !== null) continue;
          count.taken++;
          const predicted = new Set(
            graph.nodes.filter(({ written }) => written).map(({ name }) => fullName(name, dialect)),
          );
          const changed = [...before].filter(([name, rows]) => after.get(name) !== rows).map(([name]) => name);
          const missed = changed.filter((name) => !predicted.has(name));
          if (missed.length > 0) wrong.push(context(`writes ${missed} besides ${[...predicted]}`));
          if (changed.length === predicted.size) count.exact++;
        }
      }
      console.log(
        `${dialect}: ${count.asked} changes, ${count.sealed} refused for a view, ${count.taken} taken, ${count.exact} with exactly the tables (seed ${SEED})`,
      );
      if (process.env.SCHEMAS_LOG)
        (await import("node:fs")).writeFileSync(`${process.env.SCHEMAS_LOG}.${dialect}`, wrong.join("\n##########\n"));
      expect(wrong.length, wrong[0]).toBe(0);
    },
    60_000 + SCHEMAS * 5000,
  );
});

/** What a schema may leave outside of what `reset` empties. */
const LEFT: Partial<Record<DialectId, string[]>> = {
  postgresql: ["DISCARD ALL", "DROP SCHEMA IF EXISTS dock CASCADE", "DROP SCHEMA IF EXISTS quay CASCADE"],
  sqlite: ["PRAGMA foreign_keys = ON"],
  mariadb: [`DROP TEMPORARY TABLE IF EXISTS ${TEMPORARY()}`],
};

function TEMPORARY(): string {
  return ["berth", "crew", "slip", "boat", "tide"].map((name) => `${database}.${name}`).join(", ");
}
