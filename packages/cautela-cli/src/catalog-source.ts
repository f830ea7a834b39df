import { closeSync, openSync, readSync, statSync } from "node:fs";
import {
  Catalog,
  catalogFromDdl,
  catalogFromDictionary,
  catalogFromSnapshot,
  type DialectId,
  type Dictionary,
  guessDialect,
  SnapshotError,
} from "cautela";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";
import { isUrl, shownSource } from "./live/database-url.ts";
import { catalogFromQueryResult } from "./live/query-result.ts";

/** A catalog and what of it could not be read. */
export interface LoadedCatalog {
  catalog: Catalog;
  problems: string[];
}

/**
 * Builds one catalog from its sources: database URLs, SQLite files, snapshots, the results of the
 * dictionary queries, and DDL files, each of which goes on from the ones before it.
 */
export async function loadCatalog(
  sources: readonly string[],
  given: DialectId | undefined,
): Promise<LoadedCatalog | undefined> {
  if (sources.length === 0) return undefined;
  const problems: string[] = [];
  let catalog: Catalog | undefined;
  const texts: string[] = [];
  for (const source of sources) {
    if (source === "-") throw new Failure("a catalog cannot come from standard input");
    const live = await liveDictionary(source);
    if (live) {
      problems.push(...live.problems);
      catalog = catalogFromDictionary(live);
      continue;
    }
    const { text } = await readText(source);
    if (/^\s*[[{]/.test(text)) catalog = fromJson(text, source);
    else texts.push(text);
  }
  const dialect = given ?? catalog?.dialect ?? guessDialect(texts.join("\n")).dialect;
  if (catalog && given && catalog.dialect !== given)
    throw new Failure(`the catalog is of dialect ${catalog.dialect}, and --dialect says ${given}`);
  catalog ??= new Catalog(dialect);
  for (const text of texts) catalog = catalogFromDdl(text, { dialect, onto: catalog });
  if (catalog.size === 0)
    throw new Failure(`no table was found in ${sources.map(shownSource).join(", ")}, read as ${dialect}`);
  return { catalog, problems };
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
    if (error instanceof SnapshotError) throw new Failure(`${source}: ${error.message}`);
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
