import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { PGlite } from "@electric-sql/pglite";
import { catalogFromDdl, type DialectId, readScript, review } from "cautela";
import fc from "fast-check";
import mysql from "mysql2/promise";
import initSqlite from "sql.js";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { mariadbUrl, ownName } from "./engines.ts";

const database = ownName("engines");

const demo = (path: string) => readFileSync(fileURLToPath(new URL(`../../../demo/${path}`, import.meta.url)), "utf8");
const maria = await mariadbUrl();

/** A database to ask: how many rows does a statement really touch? */
interface Engine {
  dialect: DialectId;
  run(sql: string): Promise<void>;
  /** The rows that a statement matches; nothing stays changed. */
  touched(sql: string): Promise<number>;
  rows(sql: string): Promise<number>;
  close(): Promise<void>;
}

async function postgres(): Promise<Engine> {
  const db = await PGlite.create();
  return {
    dialect: "postgresql",
    run: async (sql) => void (await db.exec(sql)),
    async touched(sql) {
      await db.exec("BEGIN");
      try {
        return (await db.query(sql)).affectedRows ?? 0;
      } finally {
        await db.exec("ROLLBACK");
      }
    },
    rows: async (sql) => Number(Object.values((await db.query<Record<string, unknown>>(sql)).rows[0])[0]),
    close: () => db.close(),
  };
}

async function sqlite(): Promise<Engine> {
  const { Database } = await initSqlite();
  const db = new Database();
  return {
    dialect: "sqlite",
    run: async (sql) => void db.exec(sql),
    async touched(sql) {
      db.exec("BEGIN");
      try {
        db.run(sql);
        return db.getRowsModified();
      } finally {
        db.exec("ROLLBACK");
      }
    },
    rows: async (sql) => Number(db.exec(sql)[0].values[0][0]),
    close: async () => db.close(),
  };
}

async function mariadb(url: string): Promise<Engine> {
  // FOUND_ROWS: count the rows matched, not only those whose values differ.
  const db = await mysql.createConnection({ uri: url, multipleStatements: true, flags: ["FOUND_ROWS"] });
  await db.query(`DROP DATABASE IF EXISTS ${database}; CREATE DATABASE ${database}; USE ${database}`);
  return {
    dialect: "mariadb",
    run: async (sql) => void (await db.query(sql)),
    async touched(sql) {
      await db.query("BEGIN");
      try {
        const [result] = await db.query(sql);
        return "affectedRows" in result ? result.affectedRows : 0;
      } finally {
        await db.query("ROLLBACK");
      }
    },
    rows: async (sql) => {
      const [rows] = await db.query<mysql.RowDataPacket[]>(sql);
      return Number(Object.values(rows[0])[0]);
    },
    async close() {
      await db.query(`DROP DATABASE ${database}`);
      await db.end();
    },
  };
}

const engines: [string, () => Promise<Engine>][] = [
  ["PostgreSQL", postgres],
  ["SQLite", sqlite],
];
if (maria) engines.push(["MariaDB", () => mariadb(maria)]);

/** The statements of a script as the engine's own client would send them. */
function sent(text: string, dialect: DialectId): string[] {
  return readScript(text, { dialect })
    .statements.filter((statement) => statement.kind !== "directive")
    .map(({ start, end }) => text.slice(start, end));
}

const DDL = `CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(20) NOT NULL UNIQUE, depth_m integer, quay varchar(20));
CREATE TABLE vessel (vessel_id integer NOT NULL PRIMARY KEY, berth_id integer, name varchar(40));`;
const ROWS = `INSERT INTO berth VALUES (1, 'a', 1, 'north'), (2, 'b', NULL, 'north'), (3, 'c', 3, NULL), (4, 'd', 0, 'south');
INSERT INTO vessel VALUES (1, 1, 'Tern'), (2, 1, 'Eider'), (3, NULL, NULL);`;

const column = fc.constantFrom("berth_id", "depth_m");
const text = fc.constantFrom("code", "quay");
const number = fc.constantFrom("0", "1", "3", "NULL", "2 - 1");
const simple = fc.oneof(
  fc
    .tuple(column, fc.constantFrom("=", "<>", "<", ">", "<=", ">="), fc.oneof(number, column))
    .map((parts) => parts.join(" ")),
  fc
    .tuple(text, fc.constantFrom("=", "<>"), fc.constantFrom("'a'", "'north'", "NULL", "quay"))
    .map((parts) => parts.join(" ")),
  fc.tuple(fc.oneof(column, text), fc.constantFrom("IS NULL", "IS NOT NULL")).map((parts) => parts.join(" ")),
  fc
    .tuple(column, fc.constantFrom("IN", "NOT IN"), fc.array(number, { minLength: 1, maxLength: 3 }))
    .map(([c, op, list]) => `${c} ${op} (${list.join(", ")})`),
  fc
    .tuple(column, fc.constantFrom("BETWEEN", "NOT BETWEEN"), number, number)
    .map(([c, op, low, high]) => `${c} ${op} ${low} AND ${high}`),
  fc
    .tuple(text, fc.constantFrom("LIKE", "NOT LIKE"), fc.constantFrom("'%'", "'a%'", "'no_th'"))
    .map((parts) => parts.join(" ")),
  fc.constantFrom(
    "1 = 1",
    "1 = 2",
    "'a' = 'a'",
    "EXISTS (SELECT 1 FROM vessel v WHERE v.berth_id = berth.berth_id)",
    "berth_id IN (SELECT v.berth_id FROM vessel v)",
    "berth_id = (SELECT max(v.vessel_id) FROM vessel v)",
  ),
);
const filter = fc.letrec<{ any: string }>((tie) => ({
  any: fc.oneof(
    { maxDepth: 3 },
    simple,
    fc.tuple(tie("any"), fc.constantFrom("AND", "OR"), tie("any")).map(([a, op, b]) => `(${a} ${op} ${b})`),
    fc.tuple(tie("any"), fc.constantFrom("AND", "OR"), tie("any")).map(([a, op, b]) => `${a} ${op} ${b}`),
    tie("any").map((one) => `NOT (${one})`),
  ),
})).any;

describe.each(engines)("%s", (_name, open) => {
  let engine: Engine;
  beforeAll(async () => {
    engine = await open();
  });
  afterAll(() => engine.close());

  test("takes the harbour database as it is written", async () => {
    for (const file of ["schema", "data"]) {
      for (const statement of sent(demo(`${file}/${engine.dialect}.sql`), engine.dialect)) await engine.run(statement);
    }
    expect(await engine.rows("SELECT count(*) FROM mooring")).toBe(240);
    expect(await engine.rows("SELECT count(*) FROM moored_now")).toBe(20);
  });

  test("never touches more rows than the reach, and every row where it says every", async () => {
    await engine.run("DROP TABLE IF EXISTS probe");
    const ddl = DDL.replaceAll("berth (", "b_berth (").replaceAll("vessel (", "b_vessel (");
    const named = (sql: string) => sql.replace(/\bberth\b(?!_)/g, "b_berth").replace(/\bvessel\b(?!_)/g, "b_vessel");
    for (const statement of sent(`${ddl}\n${named(ROWS)}`, engine.dialect)) await engine.run(statement);
    const catalog = catalogFromDdl(`${ddl}\n${named(ROWS)}`, { dialect: engine.dialect });
    await fc.assert(
      fc.asyncProperty(filter, fc.boolean(), async (where, deletes) => {
        const sql = named(deletes ? `DELETE FROM berth WHERE ${where}` : `UPDATE berth SET quay = 'x' WHERE ${where}`);
        const { reach } = review(sql, { dialect: engine.dialect, catalog }).statements[0];
        const touched = await engine.touched(sql);
        switch (reach?.bound) {
          case "none":
            expect(touched).toBe(0);
            break;
          case "one":
          case "few":
            expect(touched).toBeLessThanOrEqual(reach.rows ?? 0);
            break;
          case "every":
            expect(touched).toBe(4);
            break;
          default:
            expect(reach?.bound).toBe("some");
        }
      }),
      { numRuns: 400 },
    );
  });

  test("the same through joins, subqueries, limits, views and INSERT … SELECT", async () => {
    const dialect = engine.dialect;
    const mysql = dialect === "mariadb";
    for (const table of ["c_copy", "c_vessel", "c_berth"]) await engine.run(`DROP TABLE IF EXISTS ${table}`);
    const ddl = `CREATE TABLE c_berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(20) NOT NULL UNIQUE, depth_m integer, quay varchar(20));
CREATE TABLE c_vessel (vessel_id integer NOT NULL PRIMARY KEY, berth_id integer, name varchar(40));
CREATE TABLE c_copy (berth_id integer, code varchar(20));
CREATE VIEW c_deep AS SELECT berth_id, depth_m FROM c_berth WHERE depth_m > 0;`;
    const rows = `INSERT INTO c_berth VALUES (1, 'a', 1, 'north'), (2, 'b', NULL, 'north'), (3, 'c', 3, NULL), (4, 'd', 0, 'south');
INSERT INTO c_vessel VALUES (1, 1, 'Tern'), (2, 1, 'Eider'), (3, NULL, NULL), (4, 3, 'Knot');`;
    for (const statement of sent(`${ddl}\n${rows}`, dialect)) await engine.run(statement);
    const catalog = catalogFromDdl(`${ddl}\n${rows}`, { dialect });
    const qualified = (where: string) =>
      where
        .replace(/(?<![.\w])(berth_id|depth_m|code|quay)\b/g, "c_berth.$1")
        .replace(/\bvessel v\b/g, "c_vessel v")
        .replace(/(?<!_)\bberth\.berth_id/g, "c_berth.berth_id");
    const tie = fc.constantFrom(
      "w.berth_id = c_berth.berth_id",
      "w.vessel_id = c_berth.berth_id",
      "w.vessel_id = 1",
      "c_berth.berth_id = 2",
    );
    const shapes = (where: string, on: string): string[] => [
      mysql
        ? `UPDATE c_berth JOIN c_vessel w ON ${on} SET c_berth.quay = 'x' WHERE ${where}`
        : `UPDATE c_berth SET quay = 'x' FROM c_vessel w WHERE ${on} AND (${where})`,
      mysql
        ? `DELETE c_berth FROM c_berth JOIN c_vessel w ON ${on} WHERE ${where}`
        : dialect === "postgresql"
          ? `DELETE FROM c_berth USING c_vessel w WHERE ${on} AND (${where})`
          : `DELETE FROM c_berth WHERE ${where}`,
      `DELETE FROM c_berth WHERE berth_id IN (SELECT w.berth_id FROM c_vessel w) AND (${where})`,
      `DELETE FROM c_berth WHERE EXISTS (SELECT 1 FROM c_vessel w WHERE ${on}) AND (${where})`,
      `INSERT INTO c_copy (berth_id, code) SELECT c_berth.berth_id, c_berth.code FROM c_berth WHERE ${where}`,
      `INSERT INTO c_copy (berth_id) SELECT c_berth.berth_id FROM c_berth JOIN c_vessel w ON ${on} WHERE ${where}`,
      `INSERT INTO c_copy (berth_id) SELECT max(c_berth.berth_id) FROM c_berth WHERE ${where}`,
      ...(mysql
        ? [
            `DELETE FROM c_berth WHERE ${where} ORDER BY berth_id LIMIT 2`,
            `DELETE c_berth FROM c_berth LEFT JOIN c_vessel w ON w.berth_id = c_berth.berth_id AND ${on} WHERE w.vessel_id IS NULL`,
            `UPDATE c_berth LEFT JOIN c_vessel w ON w.berth_id = c_berth.berth_id SET c_berth.quay = 'x' WHERE w.name = 'Tern' OR (${where})`,
            `DELETE c_berth FROM c_berth LEFT JOIN c_vessel w ON w.berth_id = c_berth.berth_id WHERE w.name = 'Tern'`,
          ]
        : []),
      ...(dialect === "sqlite" ? [] : ["UPDATE c_deep SET depth_m = 2", "DELETE FROM c_deep WHERE berth_id = 3"]),
    ];
    await fc.assert(
      fc.asyncProperty(filter, tie, fc.nat(20), async (where, on, which) => {
        const list = shapes(qualified(where), on);
        const sql = list[which % list.length];
        const { reach } = review(sql, { dialect, catalog }).statements[0];
        const touched = await engine.touched(sql);
        const whole = 4;
        switch (reach?.bound) {
          case "none":
            expect({ sql, touched }).toEqual({ sql, touched: 0 });
            break;
          case "one":
          case "few":
            expect({ sql, within: touched <= (reach.rows ?? 0) }).toEqual({ sql, within: true });
            break;
          case "every":
            expect({ sql, touched }).toEqual({ sql, touched: whole });
            break;
          case "some":
            expect({ sql, within: touched <= whole }).toEqual({ sql, within: true });
            break;
          default:
            expect(reach?.bound).toBe("multiplied");
        }
      }),
      { numRuns: 500 },
    );
  });
});
