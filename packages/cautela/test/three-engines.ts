import { PGlite } from "@electric-sql/pglite";
import type { DialectId } from "cautela";
import mysql from "mysql2/promise";
import initSqlite from "sql.js";
import { mariadbUrl } from "./engines.ts";

/** An engine with a database of its own. */
export interface Engine {
  readonly dialect: DialectId;
  /** Empties the database. */
  reset(): Promise<void>;
  run(sql: string): Promise<void>;
  rows(sql: string): Promise<Record<string, unknown>[]>;
  close(): Promise<void>;
}

/** How PostgreSQL, SQLite and, where a server answers, MariaDB are reached; `database` is MariaDB's. */
export async function threeEngines(database: string): Promise<[DialectId, () => Promise<Engine>][]> {
  const maria = await mariadbUrl();
  const engines: [DialectId, () => Promise<Engine>][] = [
    ["postgresql", postgres],
    ["sqlite", sqlite],
  ];
  if (maria) engines.push(["mariadb", () => mariadb(maria, database)]);
  return engines;
}

/** The code by which an engine says what is wrong: five characters, a number, or its words where it has no code. */
export function errorCode(error: unknown): string {
  if (!(error instanceof Error)) return "";
  if ("errno" in error && typeof error.errno === "number") return String(error.errno);
  return "code" in error ? String(error.code) : error.message;
}

async function postgres(): Promise<Engine> {
  const db = await PGlite.create();
  return {
    dialect: "postgresql",
    reset: async () =>
      void (await db.exec("ROLLBACK; DROP SCHEMA public CASCADE; CREATE SCHEMA public; SET search_path = public;")),
    run: async (sql) => void (await db.exec(sql)),
    rows: async (sql) => (await db.query<Record<string, unknown>>(sql)).rows,
    close: () => db.close(),
  };
}

async function sqlite(): Promise<Engine> {
  const { Database } = await initSqlite();
  let db = new Database();
  return {
    dialect: "sqlite",
    async reset() {
      db.close();
      db = new Database();
    },
    run: async (sql) => void db.exec(sql),
    rows: async (sql) =>
      db
        .exec(sql)
        .flatMap(({ columns, values }) =>
          values.map((row) => Object.fromEntries(columns.map((name, i) => [name, row[i]]))),
        ),
    close: async () => db.close(),
  };
}

async function mariadb(url: string, database: string): Promise<Engine> {
  const db = await mysql.createConnection({ uri: url, multipleStatements: true });
  return {
    dialect: "mariadb",
    reset: async () =>
      void (await db.query(
        `ROLLBACK; SET sql_mode = DEFAULT; DROP DATABASE IF EXISTS ${database}; CREATE DATABASE ${database}; USE ${database}`,
      )),
    run: async (sql) => void (await db.query(sql)),
    rows: async (sql) => (await db.query<mysql.RowDataPacket[]>(sql))[0],
    async close() {
      await db.query(`DROP DATABASE IF EXISTS ${database}`);
      await db.end();
    },
  };
}
