import { readFileSync } from "node:fs";
import type { RowDataPacket } from "mysql2";
import { Failure } from "../failure.ts";
import { isUrl, shownSource } from "./database-url.ts";
import { connectPostgresql, reason } from "./postgresql.ts";
import { postgresqlDangers } from "./postgresql-dangers.ts";

/** A connection on which nothing can be written, and that gives up after a while. */
export interface ReadOnly {
  /** The one row of a query; a string says why there is none. */
  row(sql: string): Promise<Record<string, unknown> | string>;
  close(): Promise<void>;
}

/** Opens the database behind a URL, or an SQLite file, for reading only. */
export async function openReadOnly(source: string, seconds: number): Promise<ReadOnly> {
  if (/^postgres(?:ql)?:\/\//i.test(source)) return postgresql(source, seconds);
  if (/^(?:mysql|mariadb):\/\//i.test(source)) return mysql(source, seconds);
  if (isUrl(source))
    throw new Failure(`${shownSource(source)}: only postgres://, mysql:// and mariadb:// can be measured`);
  return sqlite(source);
}

async function postgresql(url: string, seconds: number): Promise<ReadOnly> {
  const client = await connectPostgresql(url, "cautela measure");
  const dangers = await postgresqlDangers(client).catch((error: unknown) => {
    throw new Failure(`what this database runs behind a query could not be asked: ${reason(error)}`);
  });
  await client.query(
    `BEGIN TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY; SET LOCAL statement_timeout = ${Math.round(seconds * 1000)}`,
  );
  return {
    async row(sql) {
      const why = dangers.in(sql);
      if (why !== null) return `not run: ${why}`;
      try {
        await client.query("SAVEPOINT one");
        const { rows } = await client.query(sql);
        return rows[0] ?? "no row came back";
      } catch (error) {
        await client.query("ROLLBACK TO one");
        return reason(error);
      }
    },
    close: () => client.end().catch(() => undefined),
  };
}

async function mysql(url: string, seconds: number): Promise<ReadOnly> {
  const { connectMysql } = await import("./mysql.ts");
  const connection = await connectMysql(url);
  const [[version]] = await connection.query<RowDataPacket[]>("SELECT version() AS v");
  const maria = String(version.v).toLowerCase().includes("mariadb");
  await connection.query(
    maria
      ? `SET SESSION max_statement_time = ${seconds}`
      : `SET SESSION max_execution_time = ${Math.round(seconds * 1000)}`,
  );
  await connection.query("START TRANSACTION READ ONLY");
  return {
    async row(sql) {
      try {
        const [rows] = await connection.query<RowDataPacket[]>(sql);
        return rows[0] ?? "no row came back";
      } catch (error) {
        return reason(error);
      }
    },
    async close() {
      connection.destroy();
    },
  };
}

/** The file is read into memory: what is measured there cannot reach it. */
async function sqlite(path: string): Promise<ReadOnly> {
  const { default: init } = await import("sql.js");
  const { Database } = await init();
  let database: InstanceType<typeof Database>;
  try {
    database = new Database(readFileSync(path));
    database.exec("PRAGMA query_only = ON");
  } catch (error) {
    throw new Failure(`${path} could not be read as an SQLite database: ${reason(error)}`);
  }
  return {
    async row(sql) {
      try {
        const [found] = database.exec(sql);
        return found
          ? Object.fromEntries(found.columns.map((name, i) => [name, found.values[0]?.[i]]))
          : "no row came back";
      } catch (error) {
        return reason(error);
      }
    },
    async close() {
      database.close();
    },
  };
}
