import type { DialectId } from "../../sql/dialects/dialect.ts";
import { dialectOf } from "../../sql/dialects/index.ts";
import type { Statement } from "../../sql/nodes/tree.ts";
import { executed } from "../../sql/reading/executed.ts";
import { ScriptReader } from "../../sql/reading/script.ts";
import { LineMap } from "../../text/lines.ts";
import type { Slice } from "../../text/slice.ts";
import { Catalog } from "../catalog.ts";
import { replay } from "./apply.ts";

/**
 * Builds a catalog by replaying DDL, statement by statement. Statements that change no structure
 * are passed; a table's rows are counted where the text itself inserts them.
 *
 * @param text the DDL: a file of CREATE statements, a schema dump, or a dump with its data
 * @param options.dialect the language of the text
 * @param options.onto the catalog to go on from; it is not changed
 * @param options.path the name of the file; what of it could not be read is listed under it (`catalog.unread`)
 *
 * @example
 * const catalog = catalogFromDdl("CREATE TABLE berth (berth_id integer PRIMARY KEY)", { dialect: "postgresql" });
 * catalog.get("public", "berth")?.primaryKey?.columns // ["berth_id"]
 */
export function catalogFromDdl(text: string, options: { dialect: DialectId; onto?: Catalog; path?: string }): Catalog {
  dialectOf(options.dialect);
  const catalog = options.onto?.fork() ?? new Catalog(options.dialect);
  const slice: Slice = (start, end) => text.slice(start, end);
  let lines: LineMap | null = null;
  new ScriptReader(options.dialect).push(text, true, ({ tree, rows }) => {
    if (isLacking(tree)) {
      lines ??= new LineMap(text);
      const words = slice(tree.start, Math.min(tree.end, tree.start + 200)).replace(/\s+/g, " ");
      catalog.lacks({
        path: options.path ?? "",
        line: lines.at(tree.start).line,
        text: words.length > 60 ? `${words.slice(0, 59)}…` : words,
      });
    }
    replay(catalog, tree, slice);
    for (const inner of executed(tree)) replay(catalog, inner.tree, slice);
    countRows(catalog, tree, rows);
  });
  return catalog;
}

/** Whether a statement makes something, or may, that the catalog does not get. */
function isLacking(tree: Statement): boolean {
  if (tree.kind === "unread") return true;
  if (tree.kind !== "opaque" || tree.verb !== "create") return false;
  return tree.object === "" || tree.object === "table" || tree.object === "view";
}

/** Adds the rows that a statement of a dump brings to its table's estimate. */
function countRows(catalog: Catalog, tree: Statement, dataRows: number): void {
  if (tree.kind === "insert" && tree.target.kind === "table" && tree.source?.body.kind === "values") {
    const table = catalog.resolve(tree.target.name);
    if (table) catalog.put({ ...table, rows: (table.rows ?? 0) + tree.source.body.rowCount });
  } else if (tree.kind === "copy" && tree.direction === "in" && tree.table && dataRows > 0) {
    const table = catalog.resolve(tree.table);
    if (table) catalog.put({ ...table, rows: (table.rows ?? 0) + dataRows });
  }
}
