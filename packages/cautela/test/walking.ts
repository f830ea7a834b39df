import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  type Catalog,
  catalogFromDdl,
  type DialectId,
  type Phase,
  type Policy,
  type Rehearsal,
  rehearse,
  review,
} from "cautela";
import { PHASES, rehearsalPhase } from "cautela/tools";
import { mariadbUrl, postgresUrl } from "./engines.ts";

// Walks a rehearsal as a person would: the files of its phases, run by the engine's own client program, exactly as they are
// printed. What counts is the state before and after: rows, structure, triggers.

/** A database that is walked, by its client program. */
export interface Client {
  dialect: DialectId;
  /** Begins again with what the text makes. */
  fresh(ddl: string): void;
  /** Runs a file's text; what it says when it fails, null when it went through. */
  run(text: string): string | null;
  /** Rows of every table and, if asked for, the structure, as texts that compare; copies are left out. */
  state(structure: boolean): Record<string, string>;
  close(): void;
}

/** What became of a walk. */
export interface Walk {
  rehearsal: Rehearsal;
  texts: Record<Phase, string | null>;
  /** The phase that failed, and what the client said. */
  failed: { phase: Phase; message: string } | null;
  before: Record<string, string>;
  changed: Record<string, string>;
  after: Record<string, string>;
}

const COPY = /_before_20261127|_image/i;
/** Only such a script is followed by a look at the structure before the restore, which takes long. */
export const CHANGES_STRUCTURE = /\b(?:create|alter|drop|rename)\b/i;
/** What tells what happened stays. */
const AUDIT = /(?:^|[_.])(?:log|audit|journal|history)$/i;

/**
 * Walks a script from the count to the restore. `meanwhile` is what others do between the checks and the restore. A change that
 * fails is followed by the restore all the same: it must do no harm.
 */
export function walk(client: Client, ddl: string, script: string, meanwhile = "", policy: Policy = {}): Walk {
  const { dialect } = client;
  const catalog: Catalog = catalogFromDdl(ddl, { dialect });
  const before = begin(client, ddl);
  const rehearsal = rehearse(review(script, { dialect, catalog, policy, path: "walk.sql" }), { date: "20261127" });
  const texts = Object.fromEntries(PHASES.map((phase) => [phase, rehearsalPhase(rehearsal, phase)])) as Walk["texts"];
  let failed: Walk["failed"] = null;
  let changed = before;
  for (const phase of PHASES) {
    const text = texts[phase];
    if (text === null) continue;
    if (phase === "after" && failed) continue;
    if (phase === "restore" && meanwhile !== "") {
      const message = client.run(meanwhile);
      if (message !== null) throw new Error(message);
    }
    const message = client.run(text);
    if (message !== null) {
      // The restore of a change that has failed may find nothing to undo.
      failed ??= { phase, message };
      if (phase !== "change") break;
    }
    if (phase === "change") changed = { structure: before.structure, ...client.state(CHANGES_STRUCTURE.test(script)) };
  }
  return { rehearsal, texts, failed, before, changed, after: client.state(true) };
}

const begun = new WeakMap<Client, { ddl: string; state: Record<string, string> }>();

/** Makes the database again, and tells its state: the same DDL makes the same state, which takes long to ask for. */
function begin(client: Client, ddl: string): Record<string, string> {
  client.fresh(ddl);
  const known = begun.get(client);
  const state = known?.ddl === ddl ? known.state : client.state(true);
  begun.set(client, { ddl, state });
  return { ...state };
}

/** The parts of two states that differ. */
export function differences(a: Record<string, string>, b: Record<string, string>): string[] {
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) => a[name] !== b[name]);
}

function program(file: string, args: readonly string[], input: string): string | null {
  const { status, stderr, error } = spawnSync(file, args, { input, encoding: "utf8", timeout: 60_000 });
  if (error) return String(error);
  return status === 0 ? null : stderr.trim() || `exit ${status}`;
}

function randomName(): string {
  return `cautela_walk_${process.pid}_${Math.random().toString(36).slice(2, 8)}`;
}

async function psql(): Promise<Client | null> {
  const url = await postgresUrl();
  if (!url) return null;
  const name = randomName();
  const admin = (sql: string): void => {
    execFileSync("psql", [url, "-qXc", sql], { stdio: "ignore" });
  };
  const own = new URL(url);
  own.pathname = `/${name}`;
  admin(`CREATE DATABASE ${name}`);
  const run = (text: string): string | null => {
    const said = program("psql", [own.href, "-qX", "-o", "/dev/null"], text);
    return said;
  };
  const query = (sql: string): string =>
    execFileSync("psql", [own.href, "-qXAtc", sql], { encoding: "utf8", maxBuffer: 1 << 26 });
  return {
    dialect: "postgresql",
    fresh(ddl) {
      run(
        "DO $$ DECLARE s text; BEGIN FOR s IN SELECT nspname FROM pg_namespace WHERE nspname NOT LIKE 'pg\\_%' AND nspname <> 'information_schema' LOOP EXECUTE format('DROP SCHEMA %I CASCADE', s); END LOOP; END $$; CREATE SCHEMA public;",
      );
      const said = run(`\\set ON_ERROR_STOP on\n${ddl}`);
      if (said) throw new Error(said);
    },
    run,
    state(structure) {
      const tables = query(
        "SELECT n.nspname || '.' || c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE relkind = 'r' AND nspname NOT LIKE 'pg\\_%' AND nspname <> 'information_schema' ORDER BY 1",
      )
        .split("\n")
        .filter((one) => one !== "" && !COPY.test(one));
      const parts = tables
        .filter((one) => !AUDIT.test(one))
        .map((one) => {
          const [schema, table] = one.split(".");
          return `SELECT '${one}' || chr(1) || coalesce(string_agg(t::text, chr(2) ORDER BY t::text), '') FROM ONLY "${schema}"."${table.replaceAll('"', '""')}" t`;
        });
      const state: Record<string, string> = {};
      if (parts.length > 0)
        for (const line of query(parts.join(" UNION ALL ")).split("\n")) {
          const [table, rows] = line.split("\u0001");
          // Times of the run itself are others at every run.
          if (rows !== undefined) state[table] = rows.replace(/\d\d:\d\d:\d\d\.\d+/g, "now");
        }
      if (!structure) return state;
      const dump = execFileSync("pg_dump", ["-s", "-T", "*.*_before_20261127*", own.href], { encoding: "utf8" });
      state.structure = dump
        .split("\n")
        .filter((line) => !/^(?:--|\\|SET |SELECT pg_catalog\.set_config)/.test(line) && line !== "")
        .join("\n");
      return state;
    },
    close: () => admin(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`),
  };
}

async function mariadb(): Promise<Client | null> {
  const url = await mariadbUrl();
  if (!url) return null;
  const { hostname, port, username, password } = new URL(url);
  const name = randomName();
  const account = ["-h", hostname, "-P", port || "3306", "-u", decodeURIComponent(username)];
  if (password !== "") account.push(`-p${decodeURIComponent(password)}`);
  const query = (sql: string, database = name): string =>
    execFileSync("mariadb", [...account, "-N", "-B", "-r", ...(database ? [database] : []), "-e", sql], {
      encoding: "utf8",
      stdio: ["ignore", "pipe", "ignore"],
      maxBuffer: 1 << 26,
    });
  const run = (text: string): string | null => program("mariadb", [...account, name], text);
  return {
    dialect: "mariadb",
    fresh(ddl) {
      query(`DROP DATABASE IF EXISTS ${name}; CREATE DATABASE ${name}`, "");
      const said = run(ddl);
      if (said) throw new Error(said);
    },
    run,
    state(structure) {
      const columns = new Map<string, string[]>();
      const today = new RegExp(`${new Date().toISOString().slice(0, 10)} \\d\\d:\\d\\d:\\d\\d`, "g");
      for (const line of query(
        `SELECT c.table_name, c.column_name FROM information_schema.columns c JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name WHERE c.table_schema = '${name}' AND t.table_type = 'BASE TABLE' ORDER BY c.table_name, c.ordinal_position`,
      ).split("\n")) {
        const [table, column] = line.split("\t");
        if (column !== undefined && !COPY.test(table)) columns.set(table, [...(columns.get(table) ?? []), column]);
      }
      const parts = [...columns]
        .filter(([table]) => !AUDIT.test(table))
        .map(([table, list]) => {
          const values = list.map((one) => `\`${one.replaceAll("`", "``")}\``).join(", ");
          return `SELECT '${table}', JSON_ARRAY(${values}) FROM \`${table}\``;
        });
      const state: Record<string, string> = {};
      for (const table of columns.keys()) if (!AUDIT.test(table)) state[table] = "";
      if (parts.length > 0)
        for (const line of query(parts.join(" UNION ALL ")).split("\n").sort()) {
          const [table, row] = line.split("\t");
          // Times of the run itself are others at every run.
          if (row !== undefined) state[table] += `${row.replace(today, "now")}\u0002`;
        }
      if (!structure) return state;
      const copies = query("SHOW TABLES")
        .split("\n")
        .filter((one) => COPY.test(one))
        .map((one) => `--ignore-table=${name}.${one}`);
      const dump = execFileSync(
        "mariadb-dump",
        [...account, "--no-data", "--skip-comments", "--triggers", "--routines", ...copies, name],
        {
          encoding: "utf8",
        },
      );
      // Counters go on.
      state.structure = dump.replace(/ AUTO_INCREMENT=\d+/g, "");
      return state;
    },
    close: () => void query(`DROP DATABASE IF EXISTS ${name}`, ""),
  };
}

function sqlite(): Client | null {
  if (spawnSync("sqlite3", ["--version"]).status !== 0) {
    if (process.env.CI === "true") throw new Error("there is no sqlite3 program (Debian's package sqlite3)");
    console.log("there is no sqlite3 program: the walks by it are skipped");
    return null;
  }
  const folder = mkdtempSync(join(tmpdir(), "cautela-walk-"));
  const file = join(folder, "walk.db");
  const query = (sql: string): string =>
    execFileSync("sqlite3", ["-json", file, sql], { encoding: "utf8", maxBuffer: 1 << 26 });
  const rows = (sql: string): Record<string, unknown>[] => JSON.parse(query(sql) || "[]");
  const run = (text: string): string | null => {
    const script = join(folder, "run.sql");
    writeFileSync(script, text);
    // Keys are off unless somebody asks for them; the walk is one where they count.
    return program("sqlite3", [file], `PRAGMA foreign_keys = ON;\n.read ${script}\n`);
  };
  return {
    dialect: "sqlite",
    fresh(ddl) {
      rmSync(file, { force: true });
      const said = run(`.bail on\n${ddl}`);
      if (said) throw new Error(said);
    },
    run,
    state(structure) {
      const state: Record<string, string> = {};
      const objects = rows(
        "SELECT type, name, sql FROM sqlite_master WHERE name NOT LIKE 'sqlite_%' ORDER BY type, name",
      );
      const own = objects.filter(({ name }) => !COPY.test(String(name)));
      for (const { type, name } of own)
        if (type === "table" && !AUDIT.test(String(name)))
          state[String(name)] = query(`SELECT * FROM "${String(name).replaceAll('"', '""')}"`)
            .split("\n")
            .map((line) => line.replace(/^\[|[\],]+$/g, ""))
            .sort()
            .join("\n");
      if (structure) state.structure = own.map(({ sql }) => String(sql).trim()).join(";\n");
      return state;
    },
    close: () => rmSync(folder, { recursive: true, force: true }),
  };
}

/** The client programs of the engines that run here. */
export async function clients(): Promise<Client[]> {
  return [await psql(), await mariadb(), sqlite()].filter((one) => one !== null);
}
