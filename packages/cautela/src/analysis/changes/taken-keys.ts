import { assignedColumns } from "./assigned-columns.ts";
import type { Change } from "./change.ts";

/** Whether an UPDATE OR REPLACE writes a key, and so deletes the rows that have its new value (sqlite.org/lang_conflict.html). */
export function takesKeys({ statement, table }: Change): boolean {
  if (statement.kind !== "update" || !statement.replaces || !table) return false;
  const written = new Set(assignedColumns(statement.assignments).map((one) => one.toLowerCase()));
  const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
  return keys.some(({ columns }) => columns.some((column) => written.has(column.toLowerCase())));
}
