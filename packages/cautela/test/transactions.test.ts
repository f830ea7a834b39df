import { catalogFromDdl, type DialectId, review } from "cautela";
import { afterAll, describe, expect, test } from "vitest";
import { type Engine, threeEngines } from "./three-engines.ts";

// What an engine refuses inside a transaction, and what DROP TABLE does to the rows that refer to its table: the engines
// that are here are asked, and the review says the same.

const TABLES = ["CREATE TABLE t (id integer PRIMARY KEY, a integer)", "CREATE INDEX ia ON t (a)"];
const STATEMENTS = [
  "VACUUM",
  "CREATE INDEX i ON t (a)",
  "CREATE INDEX CONCURRENTLY i ON t (a)",
  "CREATE UNIQUE INDEX CONCURRENTLY i ON t (a)",
  "DROP INDEX CONCURRENTLY ia",
  "REINDEX TABLE t",
  "REINDEX TABLE CONCURRENTLY t",
  "REINDEX (VERBOSE) TABLE CONCURRENTLY t",
  "ALTER TABLE t ADD COLUMN b integer",
  "DROP TABLE t",
];

const engines = await threeEngines(`cautela_transactions_${process.pid}`);

describe.each(engines)("%s", (dialect: DialectId, connect) => {
  let engine: Engine | null = null;
  afterAll(async () => engine?.close());

  test("refuses inside a transaction what is said of it", async () => {
    engine = await connect();
    const catalog = catalogFromDdl(TABLES.join(";\n"), { dialect });
    const wrong: string[] = [];
    let asked = 0;
    for (const sql of STATEMENTS) {
      const taken = async (before: string): Promise<boolean> => {
        await engine?.reset();
        for (const table of TABLES) await engine?.run(table);
        if (before) await engine?.run(before);
        return (engine as Engine).run(sql).then(
          () => true,
          () => false,
        );
      };
      // What the engine does not have at all is another matter.
      if (!(await taken(""))) continue;
      asked++;
      const inside = await taken("BEGIN");
      await engine.run("ROLLBACK").catch(() => undefined);
      const { findings } = review(`BEGIN;\n${sql};\nCOMMIT;`, { dialect, catalog });
      const said = findings.some(({ hazard, message }) => hazard === "broken-transaction" && /refuses/.test(message));
      if (said === inside) wrong.push(`${sql}: ${inside ? "taken" : "refused"}, and we say the contrary`);
    }
    expect(wrong).toEqual([]);
    expect(asked).toBeGreaterThan(2);
  });
});

const ACTIONS = ["", "ON DELETE CASCADE", "ON DELETE SET NULL", "ON DELETE RESTRICT", "ON DELETE NO ACTION"];
const SETTINGS = [
  "PRAGMA foreign_keys = ON;",
  "PRAGMA foreign_keys = OFF;",
  "PRAGMA foreign_keys = ON; BEGIN; PRAGMA foreign_keys = OFF;",
];

test.each(ACTIONS)("sqlite: a parent that is rebuilt, and its child %s", async (action) => {
  const ddl = `CREATE TABLE berth (berth_id integer PRIMARY KEY);
CREATE TABLE stay (stay_id integer PRIMARY KEY, berth_id integer REFERENCES berth (berth_id) ${action});`;
  const connect = engines.find(([dialect]) => dialect === "sqlite")?.[1];
  if (!connect) throw new Error("SQLite is always there");
  const engine = await connect();
  for (const setting of SETTINGS) {
    await engine.reset();
    await engine.run(`${ddl} INSERT INTO berth VALUES (1); INSERT INTO stay VALUES (1, 1);`);
    const rebuild = `CREATE TABLE berth_new (berth_id integer PRIMARY KEY);
INSERT INTO berth_new (berth_id) SELECT berth_id FROM berth;
DROP TABLE berth;`;
    const refused = await engine.run(`${setting}\n${rebuild}`).then(
      () => false,
      () => true,
    );
    const changed = (await engine.rows("SELECT * FROM stay WHERE berth_id = 1")).length === 0;
    const { findings } = review(`${setting}\n${rebuild}\nALTER TABLE berth_new RENAME TO berth;`, {
      dialect: "sqlite",
      catalog: catalogFromDdl(ddl, { dialect: "sqlite" }),
    });
    const says = (wanted: string): boolean => findings.some(({ hazard }) => hazard === wanted);
    expect({ setting, changed, refused }).toEqual({
      setting,
      changed: says("cascade"),
      refused: says("reference-blocks"),
    });
  }
  await engine.close();
});
