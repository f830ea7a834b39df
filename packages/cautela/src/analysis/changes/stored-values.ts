import type { Catalog } from "../../catalog/catalog.ts";
import type { Table } from "../../catalog/model.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { assignedIn } from "../conditions/conditions.ts";
import type { Resolution } from "../names/resolution.ts";
import { insertedRows } from "./inserted.ts";

/** A value that a statement writes into a column of a known table. */
export interface StoredValue {
  table: Table;
  /** The name of the column in small letters. */
  column: string;
  value: Expr;
}

/** What a statement writes where: assignments, rows of VALUES, and the columns of INSERT … SELECT by position. */
export function storedValues(
  tree: Statement,
  names: Resolution,
  catalog: Catalog | null,
  dialect: Dialect,
): StoredValue[] {
  return names.memo.once(readStored, tree, () => readStored(tree, names, catalog, dialect));
}

function readStored(tree: Statement, names: Resolution, catalog: Catalog | null, dialect: Dialect): StoredValue[] {
  const list: StoredValue[] = [];
  for (const { column, value } of assignedIn(tree, names)) {
    const table = column.relation?.table;
    if (table) list.push({ table, column: column.name, value });
  }
  if (tree.kind !== "insert" && tree.kind !== "merge") return list;
  const inserted = insertedRows(tree, catalog, dialect);
  if (!inserted?.table || !inserted.names) return list;
  const { table } = inserted;
  const columns = inserted.names.map((one) => one.toLowerCase());
  const put = (row: readonly Expr[]): void => {
    if (row.length !== columns.length) return;
    for (const [i, value] of row.entries()) list.push({ table, column: columns[i], value });
  };
  for (const row of inserted.rows) put(row);
  if (tree.kind === "insert" && tree.source?.body.kind === "select") {
    const items = tree.source.body.items.map(({ expr }) => expr);
    if (!items.some(({ kind }) => kind === "star")) put(items);
  }
  return list;
}
