import { existsSync, readFileSync } from "node:fs";
import { homedir } from "node:os";
import { join } from "node:path";
import type { TableFacts } from "cautela";
import type { Connection } from "mysql2/promise";
import { Failure } from "../failure.ts";
import { databaseUrl, shownSource } from "./database-url.ts";
import { type LiveDictionary, type Progress, TIME_LIMIT } from "./live.ts";
import { reason } from "./postgresql.ts";

interface Client {
  query(sql: string, values?: unknown[]): Promise<unknown>;
}

/**
 * Reads the dictionary of a MySQL or MariaDB server: INFORMATION_SCHEMA and SHOW CREATE, in a read-only
 * transaction with a time limit. Row counts are the engine's estimates. What a user may not see is
 * listed and left out.
 */
export async function readMysql(url: string, progress: Progress): Promise<LiveDictionary> {
  const { database } = databaseUrl(url);
  if (database === "") throw new Failure("the URL names no database: mysql://user@host/database");
  const connection = await connectMysql(url);
  try {
    return await mysqlDictionary(connection, database, progress);
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure(`the dictionary could not be read: ${reason(error)}`);
  } finally {
    connection.destroy();
  }
}

/** Opens a connection, with the password of the environment where the URL has none. */
export async function connectMysql(url: string): Promise<Connection> {
  const { user, password, host, port, database, parameters } = databaseUrl(url);
  const mysql = await import("mysql2/promise");
  const ssl = parameters.get("ssl");
  const socketPath = parameters.get("socket") ?? parameters.get("socketPath");
  try {
    return await mysql.createConnection({
      host: host === "" ? "localhost" : host,
      port: port ?? 3306,
      user: user === "" ? undefined : user,
      password: password === "" ? storedPassword() : password,
      database: database === "" ? undefined : database,
      connectTimeout: 10_000,
      ...(ssl === "true" || ssl === "1" ? { ssl: {} } : {}),
      ...(socketPath ? { socketPath } : {}),
      ...(parameters.has("charset") ? { charset: parameters.get("charset") } : {}),
    });
  } catch (error) {
    throw new Failure(`cannot connect to ${shownSource(url)}: ${reason(error)}`);
  }
}

/** The password of MYSQL_PWD, or of the [client] section of ~/.my.cnf; empty without either. */
function storedPassword(): string {
  if (process.env.MYSQL_PWD) return process.env.MYSQL_PWD;
  const file = join(homedir(), ".my.cnf");
  if (!existsSync(file)) return "";
  let section = "";
  for (const line of readFileSync(file, "utf8").split("\n")) {
    const head = /^\s*\[([^\]]+)\]/.exec(line);
    if (head) section = head[1];
    const password = section === "client" ? /^\s*password\s*=\s*(.*?)\s*$/.exec(line)?.[1] : undefined;
    if (password !== undefined) return password.replace(/^(["'])(.*)\1$/, "$2");
  }
  return "";
}

/** Reads one database over a connection that takes queries. */
export async function mysqlDictionary(
  client: Client,
  database: string,
  progress: Progress = () => undefined,
): Promise<LiveDictionary> {
  const problems: string[] = [];
  const rows = async (sql: string, values: unknown[] = []): Promise<Record<string, unknown>[]> => {
    const [result] = (await client.query(sql, values)) as [Record<string, unknown>[]];
    return result;
  };
  const version = String((await rows("SELECT VERSION() AS v"))[0].v);
  const [dialect, limit] = /mariadb/i.test(version)
    ? (["mariadb", `max_statement_time = ${TIME_LIMIT}`] as const)
    : (["mysql", `max_execution_time = ${TIME_LIMIT * 1000}`] as const);
  await rows(`SET SESSION ${limit}`).catch(() => undefined);
  await rows("SET SESSION TRANSACTION READ ONLY");
  await rows("START TRANSACTION READ ONLY");
  const show = async (what: string, name: string, column: string): Promise<string | null> => {
    try {
      const [row] = await rows(
        `SHOW CREATE ${what} \`${database.replaceAll("`", "``")}\`.\`${name.replaceAll("`", "``")}\``,
      );
      const text = row?.[column];
      if (typeof text === "string") return `${text};`;
      problems.push(`the definition of ${what.toLowerCase()} ${name} may not be read`);
    } catch (error) {
      problems.push(`${what.toLowerCase()} ${name}: ${reason(error)}`);
    }
    return null;
  };
  problems.push(...(await unseen(rows, database)));
  const relations = await rows(
    "SELECT TABLE_NAME AS name, TABLE_TYPE AS kind, TABLE_ROWS AS `rows`, TABLE_COMMENT AS comment FROM information_schema.TABLES WHERE TABLE_SCHEMA = ? ORDER BY TABLE_NAME",
    [database],
  );
  const triggers = await rows(
    "SELECT TRIGGER_NAME AS name FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = ? ORDER BY EVENT_OBJECT_TABLE, ACTION_ORDER",
    [database],
  );
  const routines = await rows(
    "SELECT ROUTINE_NAME AS name, ROUTINE_TYPE AS kind FROM information_schema.ROUTINES WHERE ROUTINE_SCHEMA = ? ORDER BY ROUTINE_NAME",
    [database],
  );
  const all = relations.length + triggers.length + routines.length;
  let done = 0;
  const tables: string[] = [];
  const views: string[] = [];
  const code: string[] = [];
  const facts: TableFacts[] = [];
  const step = (): void => progress(++done, all);
  for (const { name, kind, rows: count, comment } of relations as {
    name: string;
    kind: string;
    rows: number | null;
    comment: string;
  }[]) {
    step();
    if (/view/i.test(kind)) {
      const text = await show("VIEW", name, "Create View");
      if (text) views.push(text);
      continue;
    }
    if (/sequence/i.test(kind)) {
      tables.push(`CREATE SEQUENCE \`${name.replaceAll("`", "``")}\`;`);
      continue;
    }
    const text = await show("TABLE", name, "Create Table");
    if (!text) continue;
    tables.push(text);
    facts.push({ schema: "", name, rows: count === null ? null : Number(count), comment: comment || null });
  }
  for (const { name } of triggers as { name: string }[]) {
    step();
    const text = await show("TRIGGER", name, "SQL Original Statement");
    if (text) code.push(text);
  }
  for (const { name, kind } of routines as { name: string; kind: string }[]) {
    step();
    // The text of a package stands under its kind, as that of a function does.
    const column = `Create ${kind.toLowerCase().replace(/(?:^| )[a-z]/g, (letter) => letter.toUpperCase())}`;
    const text = await show(kind, name, column);
    if (text) code.push(text);
  }
  await rows("ROLLBACK");
  // Definitions name their own database or none: it is the one that is looked at.
  const own = new RegExp(`\`${database.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}\`\\.(?=\`)`, "g");
  const lists = [tables.join("\n"), inOrder(views).join("\n"), ...code].map((text) => text.replace(own, ""));
  return { dialect, ddl: lists.filter((text) => text !== ""), facts, problems };
}

/** What the user's rights keep from sight: the dictionary leaves it out without a word. */
async function unseen(rows: (sql: string) => Promise<Record<string, unknown>[]>, database: string): Promise<string[]> {
  const grants = await rows("SHOW GRANTS").catch(() => null);
  if (grants === null) return ["the user's own rights may not be read, so what they hide is not known"];
  /** The rights on the whole server or the whole database. */
  const rights = new Set<string>();
  let roles = false;
  for (const row of grants) {
    const text = String(Object.values(row)[0]);
    const match = /^GRANT (.*?) ON (\S+) TO /i.exec(text);
    if (!match) {
      roles ||= /^GRANT /i.test(text);
      continue;
    }
    const place = match[2].replaceAll("`", "").replaceAll("\\", "");
    if (place !== "*.*" && place.toLowerCase() !== `${database}.*`.toLowerCase()) continue;
    for (const right of match[1].split(",")) rights.add(right.trim().toUpperCase());
  }
  if (rights.has("ALL PRIVILEGES") || roles) return [];
  const problems: string[] = [];
  const lacks = (...names: string[]): boolean => !names.some((name) => rights.has(name));
  if (lacks("SELECT", "INSERT", "UPDATE", "DELETE", "CREATE", "ALTER", "DROP"))
    problems.push(`only the tables that this user has a right to are seen: others of ${database} are missing`);
  if (lacks("TRIGGER"))
    problems.push("triggers cannot be seen without the right TRIGGER: what they write is not followed");
  if (lacks("EXECUTE", "CREATE ROUTINE", "ALTER ROUTINE", "SHOW CREATE ROUTINE"))
    problems.push("routines cannot be seen without the right EXECUTE: what they write is not followed");
  if (lacks("SHOW VIEW")) problems.push("the queries of views cannot be seen without the right SHOW VIEW");
  return problems;
}

/** Views that read other views come after them, as far as their texts tell. */
function inOrder(views: readonly string[]): string[] {
  const named = new Map<string, string>();
  for (const text of views) {
    const name = /\bVIEW\s+(?:`[^`]*`\.)?`([^`]*)`/i.exec(text)?.[1];
    if (name !== undefined) named.set(name, text);
  }
  const done = new Set<string>();
  const list: string[] = [];
  const visit = (name: string, depth: number): void => {
    const text = named.get(name);
    if (text === undefined || done.has(name) || depth > 30) return;
    done.add(name);
    for (const [, other] of text.matchAll(/`([^`]*)`/g))
      if (other !== name && named.has(other)) visit(other, depth + 1);
    list.push(text);
  };
  for (const name of named.keys()) visit(name, 0);
  return list;
}
