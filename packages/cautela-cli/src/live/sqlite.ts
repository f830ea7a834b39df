import { readFileSync } from "node:fs";
import type { TableFacts } from "cautela";
import { Failure } from "../failure.ts";
import type { LiveDictionary } from "./live.ts";
import { reason } from "./postgresql.ts";

interface Database {
  exec(sql: string): { values: unknown[][] }[];
}

/** Reads the schema of an SQLite file, which is opened as a copy in memory and never written. */
export async function readSqlite(path: string): Promise<LiveDictionary> {
  const { default: init } = await import("sql.js");
  const { Database } = await init();
  const database = new Database(readFileSync(path));
  try {
    return sqliteDictionary(database);
  } catch (error) {
    throw new Failure(`${path} could not be read as an SQLite database: ${reason(error)}`);
  } finally {
    database.close();
  }
}

/** Reads the schema of an open database: its own texts, and the row counts of the last ANALYZE. */
export function sqliteDictionary(database: Database): LiveDictionary {
  const rows = (sql: string): unknown[][] => database.exec(sql)[0]?.values ?? [];
  const order = "CASE type WHEN 'table' THEN 1 WHEN 'index' THEN 2 WHEN 'view' THEN 3 ELSE 4 END, rowid";
  const texts = rows(
    `SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY ${order}`,
  );
  const facts: TableFacts[] = [];
  if (rows("SELECT 1 FROM sqlite_master WHERE name = 'sqlite_stat1'").length > 0) {
    const seen = new Set<string>();
    for (const [table, stat] of rows("SELECT tbl, stat FROM sqlite_stat1") as [string, string][]) {
      if (seen.has(table)) continue;
      seen.add(table);
      facts.push({ schema: "main", name: table, rows: Number.parseInt(stat, 10) });
    }
  }
  return { dialect: "sqlite", ddl: texts.map(([sql]) => `${String(sql)};`), facts, problems: [] };
}
