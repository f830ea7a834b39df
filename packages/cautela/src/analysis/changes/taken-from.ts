import { type Catalog, relationKey } from "../../catalog/catalog.ts";
import type { Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ColumnRef, Expr, Name, Query, SelectItem } from "../../sql/nodes/tree.ts";
import { plainColumn } from "../conditions/truth.ts";
import type { Change } from "./change.ts";
import { conjuncts } from "./reach.ts";

/**
 * The keys of the tables that hold the key of every row that a change meets: `WHERE mooring_id IN (SELECT mooring_id FROM
 * archive)`, `WHERE EXISTS (SELECT 1 FROM archive a WHERE a.mooring_id = mooring.mooring_id)`. What it deletes is in them.
 */
export function takenFrom(change: Change, catalog: Catalog | null, dialect: Dialect): readonly string[] {
  const { table, statement } = change;
  if (statement.kind === "truncate" || !statement.where || !table?.primaryKey) return NONE;
  const { columns } = table.primaryKey;
  if (columns.length !== 1) return NONE;
  const found: string[] = [];
  for (const part of conjuncts(statement.where)) {
    const key =
      part.kind === "in" ? listed(part, columns[0], dialect) : part.kind === "exists" ? only(part.query) : null;
    if (key && (part.kind === "in" || ties(key.where, columns[0], table, dialect)))
      found.push(relationKey(key.name, catalog, dialect));
  }
  return found;
}

const NONE: readonly string[] = [];

interface Source {
  name: Name;
  where: Expr | null;
  items: readonly SelectItem[];
}

/** The one table that a query reads, with its filter. */
function only(query: Query): Source | null {
  const { body } = query;
  if (body.kind !== "select" || body.from.length !== 1) return null;
  const [source] = body.from;
  return source.kind === "table" ? { name: source.name, where: body.where, items: body.items } : null;
}

/** `key IN (SELECT key FROM table …)`. */
function listed(part: Extract<Expr, { kind: "in" }>, key: string, dialect: Dialect): Source | null {
  if (part.negated || !part.query || nameOf(plainColumn(part.operand), dialect) !== key) return null;
  const source = only(part.query);
  const item = source?.items.length === 1 ? source.items[0].expr : null;
  return source && item && nameOf(plainColumn(item), dialect) === key ? source : null;
}

/** Whether a condition of a subquery is that its key is the one of the changed row, which is named by its table. */
function ties(where: Expr | null, key: string, table: Table, dialect: Dialect): boolean {
  if (!where) return false;
  return conjuncts(where).some((part) => {
    if (part.kind !== "binary" || part.op !== "=") return false;
    const sides = [plainColumn(part.left), plainColumn(part.right)];
    return (
      sides.every((side) => nameOf(side, dialect) === key) &&
      sides.filter(
        (side) => side && side.path.length > 1 && foldName(side.path[side.path.length - 2], dialect) === table.name,
      ).length === 1
    );
  });
}

function nameOf(column: ColumnRef | null, dialect: Dialect): string | null {
  return column ? foldName(column.path[column.path.length - 1], dialect) : null;
}
