import { closeSync, openSync, readSync, statSync } from "node:fs";
import {
  Catalog,
  type CatalogObject,
  CautelaError,
  catalogFromDdl,
  catalogFromDictionary,
  catalogFromSnapshot,
  type DialectId,
  type Dictionary,
  guessDialect,
} from "cautela";
import { tableKey } from "cautela/tools";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";
import { isUrl, shownSource } from "./live/database-url.ts";
import { catalogFromQueryResult } from "./live/query-result.ts";

/** A catalog and what of it could not be read. */
export interface LoadedCatalog {
  catalog: Catalog;
  problems: string[];
  /** A database gave it, or a snapshot of one: it holds what has run there. */
  current: boolean;
}

/**
 * Builds one catalog from its sources: database URLs, SQLite files, snapshots, the results of the dictionary queries, and
 * DDL files. They are merged in their order, later over earlier, with a line where two contradict each other.
 */
export async function loadCatalog(
  sources: readonly string[],
  given: DialectId | undefined,
): Promise<LoadedCatalog | undefined> {
  if (sources.length === 0) return undefined;
  const problems: string[] = [];
  const loaded: (Loaded & { source: string })[] = [];
  for (const source of sources) loaded.push({ source, ...(await load(source, problems)) });
  const dialect = dialectOf(loaded, given);
  let catalog = new Catalog(dialect);
  let first = true;
  /** Where each table and view comes from. */
  const origins = new Map<string, string>();
  for (const { source, text, made } of loaded) {
    const before = catalog;
    if (made) {
      // The search path is that of the first catalog with one.
      catalog = merged(first ? new Catalog(dialect, { searchPath: made.searchPath }) : catalog, made);
    } else if (text !== undefined)
      catalog = catalogFromDdl(text, { dialect, onto: catalog, path: shownSource(source) });
    problems.push(...contradictions(before, catalog, source, origins, text));
    first = false;
  }
  for (const { path, line, text } of catalog.unread)
    problems.push(`${path}:${line}: could not be read, so what it makes is not in the catalog: ${text}`);
  if (catalog.size === 0)
    throw new Failure(`no table was found in ${sources.map(shownSource).join(", ")}, read as ${dialect}`);
  return { catalog, problems, current: loaded.some(({ made }) => made !== undefined) };
}

/** What a source gives: the text of DDL, or a catalog of its own. */
interface Loaded {
  text?: string;
  made?: Catalog;
}

async function load(source: string, problems: string[]): Promise<Loaded> {
  if (source === "-") throw new Failure("a catalog cannot come from standard input");
  const live = await liveDictionary(source);
  if (live) {
    problems.push(...live.problems.map((problem) => `${shownSource(source)}: ${problem}`));
    return { made: catalogFromDictionary(live) };
  }
  const { text } = await readText(source);
  return /^\s*[[{]/.test(text) ? { made: fromJson(text, source) } : { text };
}

/** The language of all sources together. */
function dialectOf(loaded: readonly (Loaded & { source: string })[], given: DialectId | undefined): DialectId {
  let known: { dialect: DialectId; source: string } | undefined;
  for (const { source, made } of loaded) {
    if (!made) continue;
    if (known && known.dialect !== made.dialect)
      throw new Failure(
        `${shownSource(known.source)} is of ${known.dialect}, and ${shownSource(source)} of ${made.dialect}: the catalog of one review is of one engine`,
      );
    known ??= { dialect: made.dialect, source };
  }
  if (known && given && known.dialect !== given)
    throw new Failure(`the catalog is of dialect ${known.dialect}, and --dialect says ${given}`);
  return given ?? known?.dialect ?? guessDialect(loaded.map(({ text }) => text ?? "").join("\n")).dialect;
}

const KINDS = ["table", "view", "trigger", "rule", "routine", "sequence", "synonym", "type"] as const;

/** A catalog with everything of another one over it. */
function merged(base: Catalog, over: Catalog): Catalog {
  const catalog = base.fork();
  for (const kind of KINDS) for (const object of over.objects(kind)) catalog.put(object);
  for (const unread of over.unread) catalog.lacks(unread);
  return catalog;
}

/** The tables and views that two sources define differently; estimates may differ. */
function contradictions(
  before: Catalog,
  after: Catalog,
  source: string,
  origins: Map<string, string>,
  ddl: string | undefined,
): string[] {
  const said: string[] = [];
  for (const kind of ["table", "view"] as const) {
    for (const object of after.objects(kind)) {
      const key = `${kind}\u0000${tableKey(object.schema, object.name)}`;
      const old = before.object(kind, tableKey(object.schema, object.name));
      const origin = origins.get(key);
      if (old && old !== object && origin !== undefined && shapeOf(old) !== shapeOf(object)) {
        // A file of DDL may go on from what an earlier one has made; only making it again contradicts.
        const again =
          ddl === undefined ||
          new RegExp(`\\bcreate\\b[^;]{0,80}\\b${kind}\\b[^;(]{0,80}\\b${escaped(object.name)}\\b`, "i").test(ddl);
        if (again)
          said.push(
            `${kind} ${shownName(object)} is another one in ${shownSource(source)} than in ${shownSource(origin)}; the later counts`,
          );
      }
      if (!old || old !== object) origins.set(key, source);
    }
  }
  return said;
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}

/** What an object is, without estimates, spellings and comments. */
function shapeOf(object: CatalogObject): string {
  return JSON.stringify(object, (key, value) =>
    ["rows", "distinct", "nulls", "written", "spelling", "comment"].includes(key)
      ? undefined
      : key === "query" && typeof value === "string"
        ? value.replace(/\s+/g, " ").trim()
        : value,
  );
}

function shownName({ schema, name }: { schema: string; name: string }): string {
  return schema === "" || schema === "main" ? name : `${schema}.${name}`;
}

/** Whether a source is a database that answers queries: a URL, or an SQLite file. */
export function isDatabase(source: string): boolean {
  return isUrl(source) || isSqliteFile(source);
}

async function liveDictionary(source: string): Promise<(Dictionary & { problems: string[] }) | null> {
  if (/^postgres(?:ql)?:\/\//i.test(source))
    return (await import("./live/postgresql.ts")).readPostgresql(source, progress(source));
  if (/^(?:mysql|mariadb):\/\//i.test(source))
    return (await import("./live/mysql.ts")).readMysql(source, progress(source));
  if (isUrl(source))
    throw new Failure(
      `${shownSource(source)}: only postgres://, mysql:// and mariadb:// can be read live; cautela catalog --query prints a query for other engines`,
    );
  if (isSqliteFile(source)) return (await import("./live/sqlite.ts")).readSqlite(source);
  return null;
}

/** Whether a file begins like an SQLite database (its manual, "Database File Format", 1.2). */
function isSqliteFile(path: string): boolean {
  if (!statSync(path, { throwIfNoEntry: false })?.isFile()) return false;
  const head = Buffer.alloc(16);
  try {
    const file = openSync(path, "r");
    readSync(file, head);
    closeSync(file);
  } catch {
    return false;
  }
  return head.toString("latin1") === "SQLite format 3\0";
}

function fromJson(text: string, source: string): Catalog {
  try {
    const json: unknown = JSON.parse(text);
    const result = catalogFromQueryResult(json);
    return result ?? catalogFromSnapshot(json);
  } catch (error) {
    if (error instanceof CautelaError) throw new Failure(`${source}: ${error.message}`);
    if (error instanceof SyntaxError) throw new Failure(`${source}: the file is damaged: ${error.message}`);
    throw error;
  }
}

/** A line on the terminal while a large database is read. */
function progress(source: string): (done: number, all: number) => void {
  let last = 0;
  return (done, all) => {
    if (!process.stderr.isTTY || all < 200) return;
    const now = Date.now();
    if (now - last < 200 && done < all) return;
    last = now;
    process.stderr.write(`\r${shownSource(source)}: ${done} of ${all} objects${done === all ? "\n" : ""}`);
  };
}
