import type { DialectId } from "../sql/dialects/dialect.ts";
import { executed } from "../sql/executed.ts";
import { ScriptReader } from "../sql/script.ts";
import type { Statement } from "../sql/tree.ts";
import { Catalog } from "./catalog.ts";
import { replay, type Slice } from "./replay.ts";

/**
 * Builds a catalog by replaying DDL, statement by statement. Statements that change no structure
 * are passed; a table's rows are counted where the text itself inserts them.
 *
 * @param text the DDL: a file of CREATE statements, a schema dump, or a dump with its data
 * @param options.dialect the language of the text
 * @param options.onto the catalog to go on from; it is not changed
 *
 * @example
 * const catalog = catalogFromDdl("CREATE TABLE berth (berth_id integer PRIMARY KEY)", { dialect: "postgresql" });
 * catalog.get("public", "berth")?.primaryKey?.columns // ["berth_id"]
 */
export function catalogFromDdl(text: string, options: { dialect: DialectId; onto?: Catalog }): Catalog {
  const catalog = options.onto?.fork() ?? new Catalog(options.dialect);
  const slice: Slice = (start, end) => text.slice(start, end);
  new ScriptReader(options.dialect).push(text, true, ({ tree, rows }) => {
    replay(catalog, tree, slice);
    for (const inner of executed(tree)) replay(catalog, inner, slice);
    countRows(catalog, tree, rows);
  });
  return catalog;
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
