import { readFileSync } from "node:fs";
import { PGlite } from "@electric-sql/pglite";
import { catalogFromDdl, dialects } from "cautela";
import { type Updatability, updatability } from "cautela/tools";
import fc from "fast-check";
import mysql from "mysql2/promise";
import { describe, expect, test } from "vitest";
import { mariadbUrl, ownName } from "./engines.ts";

const database = ownName("views");

// Whether a view can be written is the engine's to say: it is asked, and the write is tried.

const TABLES = `
CREATE TABLE keeper (keeper_id integer PRIMARY KEY, name varchar(20) NOT NULL, mail varchar(20), grade integer DEFAULT 1 NOT NULL);
CREATE TABLE boat (boat_id integer PRIMARY KEY, keeper_id integer NOT NULL, sign varchar(20), length_m integer);
INSERT INTO keeper (keeper_id, name) VALUES (1, 'Asta'), (2, 'Bo');
INSERT INTO boat (boat_id, keeper_id) VALUES (10, 1), (11, 1), (12, 2);`;

/** Bodies of views that both engines read. */
const BODIES = [
  "SELECT keeper_id, name FROM keeper",
  "SELECT keeper_id, name, mail, grade FROM keeper WHERE grade = 1",
  "SELECT k.keeper_id AS id, k.name AS called FROM keeper k WHERE k.mail IS NULL",
  "SELECT * FROM boat",
  "SELECT keeper_id, upper(name) AS name FROM keeper",
  "SELECT upper(name) AS a, grade + 1 AS b FROM keeper",
  "SELECT DISTINCT keeper_id, name FROM keeper",
  "SELECT keeper_id, count(*) AS boats FROM boat GROUP BY keeper_id",
  "SELECT max(boat_id) AS last FROM boat",
  "SELECT keeper_id FROM keeper UNION ALL SELECT boat_id FROM boat",
  "SELECT b.boat_id, b.sign, k.name FROM boat b JOIN keeper k ON k.keeper_id = b.keeper_id",
  "SELECT b.boat_id, b.sign, k.name FROM boat b LEFT JOIN keeper k ON k.keeper_id = b.keeper_id",
  "SELECT b.boat_id, k.name FROM boat b, keeper k WHERE k.keeper_id = b.keeper_id",
  "SELECT boat_id, sign FROM boat WHERE keeper_id IN (SELECT keeper_id FROM keeper WHERE grade = 1)",
  "SELECT boat_id, sign FROM boat WHERE length_m >= (SELECT max(length_m) FROM boat)",
  "SELECT boat_id, sign FROM boat b WHERE EXISTS (SELECT 1 FROM keeper k WHERE k.keeper_id = b.keeper_id)",
  "SELECT keeper_id, (SELECT count(*) FROM boat b WHERE b.keeper_id = keeper.keeper_id) AS boats, name FROM keeper",
  "SELECT boat_id, sign FROM boat ORDER BY sign",
  "SELECT boat_id, sign FROM boat ORDER BY boat_id LIMIT 2",
  "SELECT boat_id, row_number() OVER (ORDER BY boat_id) AS n FROM boat",
  "SELECT d.boat_id, d.sign FROM (SELECT boat_id, sign FROM boat) d",
  "WITH w AS (SELECT boat_id, sign FROM boat) SELECT boat_id, sign FROM w",
  "SELECT 1 AS one",
  "SELECT boat_id, boat_id AS again, sign FROM boat",
  "SELECT boat_id, sign, 7 AS seven FROM boat",
  "SELECT k.keeper_id, k.name, g.boats FROM keeper k JOIN (SELECT keeper_id, count(*) AS boats FROM boat GROUP BY keeper_id) g ON g.keeper_id = k.keeper_id",
  "SELECT a.boat_id, z.sign FROM boat a JOIN boat z ON z.boat_id = a.boat_id",
  "SELECT boat_id, CASE WHEN length_m > 9 THEN 'long' ELSE 'short' END AS size FROM boat",
  "SELECT boat_id FROM boat GROUP BY boat_id HAVING count(*) > 1",
];

/** The views over the tables, and over each of them a second view, and one with a filter and a computed column. */
const views = BODIES.flatMap((body, i) => [
  { name: `v${i}`, sql: `CREATE VIEW v${i} AS ${body}` },
  { name: `w${i}`, sql: `CREATE VIEW w${i} AS SELECT * FROM v${i}` },
]);

/** What is tried on a view: one statement for each column, an INSERT of all plain columns, a DELETE. */
interface Try {
  sql: string;
  /** Whether Cautela says that it is taken. */
  taken: boolean;
}

function tries(found: Updatability): Try[] {
  const { name } = found.view;
  const list: Try[] = [{ sql: `DELETE FROM ${name}`, taken: found.through.delete !== null }];
  for (const column of found.columns) {
    const taken = found.through.update !== null && column.reason === null;
    // A value of itself: what is tried is the right to write, not the value.
    list.push({ sql: `UPDATE ${name} SET ${column.name} = ${column.name}`, taken });
  }
  return list;
}

function judge(dialect: "postgresql" | "mariadb", ddl: string): Updatability[] {
  const catalog = catalogFromDdl(ddl, { dialect });
  return [...catalog.objects("view")].map((view) => updatability(view, catalog, dialects[dialect]));
}

/** The bodies of `views/bodies.sql` for an engine, each with views over it: all its columns, a join, a subquery. */
function bodies(dialect: "postgresql" | "mariadb"): string[][] {
  const text = readFileSync(new URL("views/bodies.sql", import.meta.url), "utf8");
  const parts = new Map(
    text
      .split(/^-- (?=both|postgresql|mariadb)/m)
      .map((part) => part.split("\n", 1).concat(part))
      .map(([head, part]) => [head, part]),
  );
  const list = ["both", dialect].flatMap((head) => (parts.get(head) ?? "").split("\n").slice(1));
  return list
    .filter((body) => body !== "")
    .map((body, i) => [
      `CREATE VIEW b${i} AS ${body}`,
      `CREATE VIEW c${i} AS SELECT * FROM b${i}`,
      `CREATE VIEW d${i} AS SELECT k.name AS keeper, b.* FROM keeper k JOIN b${i} b ON 1 = 1`,
      `CREATE VIEW e${i} AS SELECT name FROM keeper WHERE EXISTS (SELECT 1 FROM b${i})`,
    ]);
}

/** Makes the views of `bodies`, each where the engine takes it; returns their DDL, and how many bodies it took. */
async function make(dialect: "postgresql" | "mariadb", run: (sql: string) => Promise<unknown>) {
  const made: string[] = [];
  let taken = 0;
  for (const list of bodies(dialect))
    for (const [i, sql] of list.entries()) {
      const ok = await run(sql).then(
        () => true,
        () => false,
      );
      if (!ok) continue;
      made.push(`${sql};`);
      if (i === 0) taken++;
    }
  return { made, taken };
}

const ddl = `${TABLES}\n${views.map(({ sql }) => `${sql};`).join("\n")}`;

describe("postgresql", async () => {
  const db = await PGlite.create();
  /** Whether the statement is refused for what the view is. */
  async function taken(sql: string, on = db): Promise<boolean> {
    await on.exec("BEGIN");
    try {
      await on.exec(sql);
      return true;
    } catch (error) {
      return error instanceof Error && "code" in error && !["55000", "42809", "0A000"].includes(String(error.code));
    } finally {
      await on.exec("ROLLBACK");
    }
  }

  /** Every view against the engine's own answers and against the write itself. */
  async function compare(found: Updatability[]): Promise<void> {
    for (const one of found) {
      const { rows } = await db.query<{ bits: number; column: string; writable: boolean }>(
        `SELECT pg_relation_is_updatable(c.oid, true) AS bits, a.attname AS column,
           pg_column_is_updatable(c.oid, a.attnum, true) AS writable
         FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0
         WHERE c.relname = $1 AND c.relnamespace = 'public'::regnamespace ORDER BY a.attnum`,
        [one.view.name],
      );
      const own = {
        insert: (rows[0].bits & 8) > 0,
        update: (rows[0].bits & 4) > 0,
        delete: (rows[0].bits & 16) > 0,
        columns: Object.fromEntries(rows.map((row) => [row.column, row.writable])),
      };
      const said = {
        insert: one.through.insert !== null,
        update: one.through.update !== null,
        delete: one.through.delete !== null,
        columns: Object.fromEntries(
          one.columns.map((column) => [
            column.name,
            one.through.update === "trigger" || (one.through.update !== null && column.reason === null),
          ]),
        ),
      };
      expect({ view: one.view.query, ...said }).toEqual({ view: one.view.query, ...own });
      for (const { sql, taken: said } of tries(one)) expect([sql, await taken(sql)]).toEqual([sql, said]);
    }
  }

  test("says of every view what the engine says", async () => {
    await db.exec(ddl);
    await compare(judge("postgresql", ddl));
  });

  test("says it of many shapes of views, and of views over them", async () => {
    const own = await PGlite.create();
    const tables = `${TABLES}\nCREATE SEQUENCE sq;`;
    await own.exec(tables);
    const { made, taken: count } = await make("postgresql", (sql) => own.exec(sql));
    expect(count).toBeGreaterThan(80);
    const wrong: string[] = [];
    for (const one of judge("postgresql", `${tables}\n${made.join("\n")}`)) {
      const { rows } = await own.query<{ bits: number }>(
        "SELECT pg_relation_is_updatable($1::regclass, true) AS bits",
        [one.view.name],
      );
      if ((one.through.insert !== null) !== (rows[0].bits & 8) > 0)
        wrong.push(`INSERT INTO ${one.view.name}: ${one.view.query}`);
      for (const { sql, taken: said } of tries(one))
        if ((await taken(sql.replaceAll(/(?<=SET | = )(\S+)/g, '"$1"'), own)) !== said)
          wrong.push(`${sql}: ${one.view.query}`);
    }
    expect(wrong).toEqual([]);
    await own.close();
  }, 60_000);

  test("says it of views with triggers, rules, and of materialized ones", async () => {
    const more = `
CREATE FUNCTION aside() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;
CREATE VIEW t1 AS SELECT boat_id, count(*) AS n FROM boat GROUP BY boat_id;
CREATE TRIGGER t1_aside INSTEAD OF UPDATE OR DELETE ON t1 FOR EACH ROW EXECUTE FUNCTION aside();
CREATE VIEW t2 AS SELECT boat_id FROM t1;
CREATE VIEW r1 AS SELECT DISTINCT sign FROM boat;
CREATE RULE r1_swallow AS ON DELETE TO r1 DO INSTEAD NOTHING;
CREATE VIEW r2 AS SELECT boat_id, sign FROM boat;
CREATE RULE r2_some AS ON DELETE TO r2 WHERE OLD.boat_id > 3 DO INSTEAD NOTHING;
CREATE MATERIALIZED VIEW m1 AS SELECT boat_id, sign FROM boat;
CREATE VIEW m2 AS SELECT boat_id FROM m1;`;
    await db.exec(more);
    const catalog = catalogFromDdl(`${ddl}\n${more}`, { dialect: "postgresql" });
    const found = [...catalog.objects("view")]
      .filter(({ name }) => /^[trm]\d$/.test(name))
      .map((view) => updatability(view, catalog, dialects.postgresql));
    expect(found.map(({ view, through }) => [view.name, through.insert, through.update, through.delete])).toEqual([
      ["t1", null, "trigger", "trigger"],
      ["t2", null, "view", "view"],
      ["r1", null, null, "rule"],
      ["r2", "view", "view", null],
      ["m1", null, null, null],
      ["m2", null, null, null],
    ]);
    // A rule under a condition: the catalogs of the engine call the view writable, and the write is refused.
    for (const one of found) {
      const sql = `DELETE FROM ${one.view.name}`;
      expect([sql, await taken(sql)]).toEqual([sql, one.through.delete !== null]);
    }
  });

  test("says it of generated views", async () => {
    const arbitrary = fc.record({
      items: fc.uniqueArray(
        fc.constantFrom("boat_id", "sign", "keeper_id AS k", "length_m * 2 AS twice", "coalesce(sign, '-') AS s"),
        { minLength: 1, maxLength: 4 },
      ),
      distinct: fc.boolean(),
      where: fc.constantFrom("", " WHERE length_m > 3", " WHERE sign IS NOT NULL"),
      tail: fc.constantFrom("", "", " LIMIT 3", " OFFSET 1", " ORDER BY 1"),
      outer: fc.constantFrom("", "SELECT * FROM ", "SELECT DISTINCT * FROM "),
    });
    let n = 0;
    await fc.assert(
      fc.asyncProperty(arbitrary, async ({ items, distinct, where, tail, outer }) => {
        const name = `g${n++}`;
        const inner = `CREATE VIEW ${name} AS SELECT ${distinct ? "DISTINCT " : ""}${items.join(", ")} FROM boat${where}${tail};`;
        const sql = outer === "" ? inner : `${inner}\nCREATE VIEW ${name}x AS ${outer}${name};`;
        await db.exec(sql);
        const catalog = catalogFromDdl(`${ddl}\n${sql}`, { dialect: "postgresql" });
        const made = [...catalog.objects("view")].filter((view) => view.name.startsWith(name));
        await compare(made.map((view) => updatability(view, catalog, dialects.postgresql)));
      }),
      { numRuns: 60 },
    );
  });
});

const maria = await mariadbUrl();

/** What MariaDB says of views that it does not write through. */
const REFUSED = [1288, 1348, 1395, 1393, 1443];

describe.runIf(maria)("mariadb", () => {
  test("says it of many shapes of views, and of views over them", async () => {
    const db = await mysql.createConnection({ uri: maria ?? "", multipleStatements: true });
    const own = `${database}_b`;
    try {
      await db.query(`DROP DATABASE IF EXISTS ${own}; CREATE DATABASE ${own}; USE ${own}; ${TABLES}`);
      const { made, taken } = await make("mariadb", (sql) => db.query(sql));
      expect(taken).toBeGreaterThan(65);
      const wrong: string[] = [];
      for (const one of judge("mariadb", `${TABLES}\n${made.join("\n")}`))
        for (const { sql, taken: said } of tries(one)) {
          await db.query("START TRANSACTION");
          const refused = await db.query(sql).then(
            () => false,
            (error: unknown) => error instanceof Error && "errno" in error && REFUSED.includes(Number(error.errno)),
          );
          await db.query("ROLLBACK");
          if (refused === said) wrong.push(`${sql}: ${one.view.query}`);
        }
      expect(wrong).toEqual([]);
    } finally {
      await db.query(`DROP DATABASE IF EXISTS ${own}`);
      await db.end();
    }
  }, 60_000);

  test("says of every view what the engine does", async () => {
    const db = await mysql.createConnection({ uri: maria ?? "", multipleStatements: true });
    try {
      await db.query(`DROP DATABASE IF EXISTS ${database}; CREATE DATABASE ${database}; USE ${database}`);
      const more = `CREATE ALGORITHM=TEMPTABLE VIEW x1 AS SELECT boat_id, sign FROM boat;
CREATE VIEW x2 AS SELECT boat_id, rand() AS r FROM boat;
CREATE VIEW x3 AS SELECT k.name, x1.sign FROM keeper k JOIN x1 ON x1.boat_id = k.keeper_id;`;
      await db.query(`${ddl}\n${more}`);
      const found = judge("mariadb", `${ddl}\n${more}`);
      const [flags] = await db.query<mysql.RowDataPacket[]>(
        `SELECT table_name AS name, is_updatable AS flag FROM information_schema.views WHERE table_schema = '${database}'`,
      );
      const flag = new Map(flags.map((row) => [String(row.name), row.flag === "YES"]));
      for (const one of found) {
        // The engine's own flag is kinder than the engine: it may say yes and refuse, never the other way round.
        if (one.through.update !== null)
          expect([one.view.name, flag.get(one.view.name)]).toEqual([one.view.name, true]);
        for (const { sql, taken } of tries(one)) {
          await db.query("START TRANSACTION");
          const refused = await db.query(sql).then(
            () => false,
            (error: unknown) =>
              error instanceof Error && "errno" in error && [1288, 1348, 1395, 1393].includes(Number(error.errno)),
          );
          await db.query("ROLLBACK");
          expect([sql, one.view.query, !refused]).toEqual([sql, one.view.query, taken]);
        }
      }
    } finally {
      await db.query(`DROP DATABASE IF EXISTS ${database}`);
      await db.end();
    }
  });
});
