import type { Column, Table } from "../../catalog/model.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ColumnDefinition } from "../../sql/nodes/tree.ts";

/** Whether an INSERT has to give a column a value: it must not be NULL, and nothing else fills it. */
export function mustBeGiven(column: Column, table: Table, dialect: Dialect): boolean {
  if (!column.required || column.default !== null || column.generated || column.identity) return false;
  // The row's number (sqlite), the counter of a Jet file.
  const key = table.primaryKey?.columns;
  if (dialect.engine.rowidKey && column.type === "integer" && key?.length === 1 && key[0] === column.name) return false;
  // Yes/No is No where nothing is given (Jet).
  if (dialect.engine.desktopRules && /^(?:yesno|bit|boolean|logical)/.test(column.type)) return false;
  if (column.type === "counter" || (dialect.engine.rowversion && column.type === "timestamp")) return false;
  return !(dialect.engine.stampsTimestamps && column.type === "timestamp");
}

/** Whether rows that give a new column no value have one all the same: a default, a computed value, a number. */
export function fillsItself({ default: given, generated, identity, autoincrement, type }: ColumnDefinition): boolean {
  return given !== null || generated !== null || identity !== null || autoincrement || /serial/i.test(type?.name ?? "");
}
