import { PGlite } from "@electric-sql/pglite";
import { type DialectId, readScript } from "cautela";
import mysql from "mysql2/promise";
import initSqlite from "sql.js";
import { mariadbUrl, ownName } from "./engines.ts";

export type Row = Record<string, unknown>;

export interface Engine {
  tables: string[];
  /** What stands before a table's name to leave out the tables that inherit from it. */
  only: string;
  /** Begins again with the database as the schema makes it. */
  fresh(): Promise<void>;
  rows(sql: string): Promise<Row[]>;
  /** Runs a statement; the number of rows that it changed. */
  run(sql: string): Promise<number>;
  /** What is run between these two is taken back. */
  begin(): Promise<void>;
  rollback(): Promise<void>;
  /** Runs a query where nothing can be written. */
  look(sql: string): Promise<Row[]>;
  close(): Promise<void>;
}

async function postgres(ddl: string): Promise<Engine> {
  const db = await PGlite.create();
  await db.exec(ddl);
  const { rows } = await db.query<{ name: string }>(
    "SELECT relname AS name FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY 1",
  );
  await db.exec("BEGIN");
  return {
    tables: rows.map(({ name }) => name),
    only: "ONLY ",
    fresh: async () => void (await db.exec("ROLLBACK; BEGIN")),
    rows: async (sql) => (await db.query<Row>(sql)).rows,
    run: async (sql) => (await db.exec(sql)).reduce((sum, one) => sum + (one.affectedRows ?? 0), 0),
    async look(sql) {
      await db.exec("SAVEPOINT look; SET LOCAL transaction_read_only = on");
      try {
        return (await db.query<Row>(sql)).rows;
      } finally {
        await db.exec("ROLLBACK TO look");
      }
    },
    begin: async () => void (await db.exec("SAVEPOINT trial")),
    rollback: async () => void (await db.exec("ROLLBACK TO trial")),
    close: () => db.close(),
  };
}

async function sqlite(ddl: string): Promise<Engine> {
  const { Database } = await initSqlite();
  let db = new Database();
  const fresh = async (): Promise<void> => {
    db.close();
    db = new Database();
    db.exec("PRAGMA foreign_keys = ON");
    db.exec(ddl);
  };
  await fresh();
  const rows = async (sql: string): Promise<Row[]> => {
    const [found] = db.exec(sql);
    return found ? found.values.map((row) => Object.fromEntries(found.columns.map((name, i) => [name, row[i]]))) : [];
  };
  const tables = (await rows("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY 1")).map(({ name }) =>
    String(name),
  );
  return {
    tables,
    only: "",
    fresh,
    rows,
    async run(sql) {
      db.exec(sql);
      // Those of the statement itself, without what its triggers changed.
      return Number(db.exec("SELECT changes()")[0].values[0][0]);
    },
    begin: async () => void db.exec("BEGIN"),
    rollback: async () => void db.exec("ROLLBACK"),
    async look(sql) {
      db.exec("PRAGMA query_only = ON");
      try {
        return await rows(sql);
      } finally {
        db.exec("PRAGMA query_only = OFF");
      }
    },
    close: async () => db.close(),
  };
}

async function mariadb(url: string, ddl: string, name: string): Promise<Engine> {
  const db = await mysql.createConnection({ uri: url, multipleStatements: true, decimalNumbers: true });
  const fresh = async (): Promise<void> => {
    await db.query(`DROP DATABASE IF EXISTS ${name}; CREATE DATABASE ${name}; USE ${name}`);
    for (const sql of statementsOf(ddl, "mariadb")) await db.query(sql);
  };
  await fresh();
  const [found] = await db.query<mysql.RowDataPacket[]>("SHOW FULL TABLES WHERE Table_type = 'BASE TABLE'");
  const rows = async (sql: string): Promise<Row[]> => (await db.query<mysql.RowDataPacket[]>(sql))[0];
  return {
    tables: found.map((row) => String(Object.values(row)[0])),
    only: "",
    fresh,
    rows,
    begin: async () => void (await db.query("START TRANSACTION")),
    rollback: async () => void (await db.query("ROLLBACK")),
    async run(sql) {
      const [result] = await db.query(sql);
      return "affectedRows" in result ? Number(result.affectedRows) : 0;
    },
    async look(sql) {
      await db.query("START TRANSACTION READ ONLY");
      try {
        return await rows(sql);
      } finally {
        await db.query("ROLLBACK");
      }
    },
    async close() {
      await db.query(`DROP DATABASE IF EXISTS ${name}`);
      await db.end();
    },
  };
}

/** The statements of a text, as the engine takes them. */
export function statementsOf(text: string, dialect: DialectId): string[] {
  return readScript(text, { dialect })
    .statements.filter(({ kind }) => kind !== "directive")
    .map(({ start, end }) => text.slice(start, end));
}

/** Runs a statement and takes it back; the number of rows that it changed. */
export async function undone(engine: Engine, sql: string): Promise<number> {
  await engine.begin();
  try {
    return await engine.run(sql);
  } finally {
    await engine.rollback();
  }
}

/** Runs a statement and takes it back; why the engine refuses it, or null when it does not. */
export async function refusal(engine: Engine, sql: string): Promise<string | null> {
  return undone(engine, sql).then(
    () => null,
    (error: Error) => error.message,
  );
}

/** Opens a database with a schema on each engine that answers. */
export async function openEngines(): Promise<[DialectId, (ddl: string) => Promise<Engine>][]> {
  const maria = await mariadbUrl();
  const engines: [DialectId, (ddl: string) => Promise<Engine>][] = [
    ["postgresql", postgres],
    ["sqlite", sqlite],
  ];
  if (maria) engines.push(["mariadb", (ddl) => mariadb(maria, ddl, ownName("engine"))]);
  return engines;
}
