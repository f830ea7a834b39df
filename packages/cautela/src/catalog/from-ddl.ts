import type { DialectId } from "../sql/dialects/dialect.ts";
import { executed } from "../sql/executed.ts";
import { readScript } from "../sql/script.ts";
import { Catalog } from "./catalog.ts";
import { replay } from "./replay.ts";

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
  const slice = (start: number, end: number): string => text.slice(start, end);
  for (const { tree } of readScript(text, { dialect: options.dialect }).statements) {
    replay(catalog, tree, slice);
    for (const inner of executed(tree)) replay(catalog, inner, slice);
    if (tree.kind === "insert" && tree.target.kind === "table" && tree.source?.body.kind === "values") {
      const table = catalog.resolve(tree.target.name);
      if (table) catalog.put({ ...table, rows: (table.rows ?? 0) + tree.source.body.rowCount });
    }
  }
  return catalog;
}
