import { tableKey } from "../../catalog/keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Query } from "../../sql/nodes/tree.ts";
import type { Change } from "../changes/change.ts";
import { conjuncts } from "../changes/reach.ts";
import type { Resolution } from "../names/resolution.ts";
import { filterParts, usedColumn } from "./conditions.ts";
import { asksFor } from "./nullable.ts";

/**
 * Whether a scalar subquery finds a row for every row of a change: it looks up the parent by a foreign key that holds, whose
 * columns are not NULL.
 *
 * @example
 * // UPDATE vessel SET phone = (SELECT o.phone FROM owner o WHERE o.owner_id = vessel.owner_id)
 */
export function findsParent({ body }: Query, change: Change, names: Resolution | null, dialect: Dialect): boolean {
  const { table } = change;
  // SQLite keeps no foreign keys unless it is told to.
  if (!table || !names || dialect.engine.pragmas || body.kind !== "select" || !body.where) return false;
  if (body.having || body.from.length !== 1 || body.from[0].kind !== "table") return false;
  const ties = new Map<string, string>();
  let parent: { schema: string; name: string; key: readonly string[] } | null = null;
  for (const part of conjuncts(body.where)) {
    if (part.kind !== "binary" || part.op !== "=") return false;
    const sides = [usedColumn(part.left, names), usedColumn(part.right, names)];
    const inner = sides.find((side) => side?.relation?.source === body.from[0]);
    const outer = sides.find((side) => side?.relation && side.relation.source === change.relation?.source);
    if (!inner?.relation?.table || !outer) return false;
    const { schema, name, primaryKey } = inner.relation.table;
    parent = { schema, name, key: primaryKey?.columns ?? [] };
    ties.set(outer.name, inner.name);
  }
  if (!parent) return false;
  const own = tableKey(parent.schema, parent.name);
  const { key } = parent;
  const parts = filterParts(change.conditions);
  const relation = names.scopes.get(change.statement)?.relations.find((one) => one.source === change.relation?.source);
  const filled = (name: string): boolean => {
    const column = table.columns.find((one) => one.name.toLowerCase() === name);
    if (column?.required || table.primaryKey?.columns.some((one) => one.toLowerCase() === name)) return true;
    return parts.some((part) => asksFor(part, { name, relation: relation ?? null }, names));
  };
  return table.foreignKeys.some(
    ({ columns, referenced, table: to, enabled, trusted }) =>
      to === own &&
      enabled &&
      trusted &&
      columns.length === ties.size &&
      columns.every(
        (column, i) =>
          ties.get(column.toLowerCase()) === (referenced[i] ?? key[i])?.toLowerCase() && filled(column.toLowerCase()),
      ),
  );
}
