import { type Catalog, type DialectId, dialects, toSnapshot } from "cautela";
import { visible } from "cautela/tools";
import { loadCatalog } from "./catalog-source.ts";
import { Failure } from "./failure.ts";
import { DICTIONARY_QUERIES } from "./live/query-result.ts";
import { print, writeText } from "./output.ts";
import { terminalStyle } from "./style.ts";

export interface CatalogFlags {
  dialect?: DialectId;
  output?: string;
  query?: DialectId;
}

/** `cautela catalog`: what a database holds, as a snapshot; without --output and on a terminal, in a few lines. */
export async function catalogCommand(sources: readonly string[], flags: CatalogFlags): Promise<number> {
  if (flags.query !== undefined) {
    const query = DICTIONARY_QUERIES[flags.query];
    if (query === undefined)
      throw new Failure(
        `there is a dictionary query for ${Object.keys(DICTIONARY_QUERIES).join(" and ")}; ${flags.query} is read live or from DDL`,
      );
    await print(`${query.trimEnd()}\n`);
    return 0;
  }
  const loaded = await loadCatalog(sources, flags.dialect);
  if (!loaded) throw new Failure("a source is needed: DDL files, a database URL, an SQLite file or a snapshot");
  for (const problem of loaded.problems) console.error(`cautela: ${problem}`);
  const text = `${JSON.stringify(toSnapshot(loaded.catalog), null, 1)}\n`;
  if (flags.output !== undefined) {
    writeText(flags.output, text, sources);
    await print(`${visible(flags.output)}: ${summary(loaded.catalog)}\n`);
  } else await print(process.stdout.isTTY ? overview(loaded.catalog) : text);
  return 0;
}

function counted(count: number, one: string): string {
  return `${count} ${one}${count === 1 ? "" : "s"}`;
}

function summary(catalog: Catalog): string {
  const kinds = [
    ["table", "table"],
    ["view", "view"],
    ["trigger", "trigger"],
    ["rule", "rule"],
    ["routine", "routine"],
  ] as const;
  const parts = kinds
    .map(([kind, word]) => [[...catalog.objects(kind)].length, word] as const)
    .filter(([count]) => count > 0);
  return `${dialects[catalog.dialect].title}, ${parts.map(([count, word]) => counted(count, word)).join(", ")}`;
}

/** The tables with what a reviewer looks for, for people. */
function overview(catalog: Catalog): string {
  const style = terminalStyle(process.stdout);
  const lines = [style("strong", summary(catalog))];
  const tables = [...catalog.tables()].sort((a, b) => (a.name < b.name ? -1 : 1));
  const width = Math.max(...tables.map((table) => table.name.length));
  for (const table of tables) {
    const key = table.primaryKey ? table.primaryKey.columns.join(", ") : "no primary key";
    const rows = table.rows === null ? "" : `, about ${table.rows} rows`;
    lines.push(
      `  ${visible(table.name.padEnd(width))}  ${style("dim", `${counted(table.columns.length, "column")}, key ${key}${rows}`)}`,
    );
  }
  lines.push(style("dim", "--output FILE writes the snapshot."));
  return `${lines.join("\n")}\n`;
}
