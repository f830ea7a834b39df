import type { Catalog } from "../../catalog/catalog.ts";
import type { Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ColumnRef, Expr, Name, Query, SelectItem } from "../../sql/nodes/tree.ts";
import { plainColumn } from "../conditions/constants.ts";
import { innerSources, namedTable } from "../conditions/row-facts.ts";
import type { Change } from "./change.ts";
import { conjuncts } from "./reach.ts";

/**
 * The keys of the tables that hold the key of every row that a change meets: `WHERE mooring_id IN (SELECT mooring_id FROM
 * archive)`, `WHERE EXISTS (SELECT 1 FROM archive a WHERE a.mooring_id = mooring.mooring_id)`, `USING archive a WHERE
 * a.mooring_id = mooring.mooring_id`. What it deletes is in them.
 */
export function takenFrom(change: Change, catalog: Catalog | null, dialect: Dialect): readonly string[] {
  const { table, statement } = change;
  if (statement.kind === "truncate") return NONE;
  const found: string[] = [];
  const key = table?.primaryKey?.columns ?? null;
  if (statement.where && (!table || key?.length === 1))
    for (const part of conjuncts(statement.where)) {
      const source =
        part.kind === "in" ? listed(part, key?.[0] ?? null, dialect) : part.kind === "exists" ? only(part.query) : null;
      if (source && (part.kind === "in" || (table && key && ties(source.where, key[0], table, dialect))))
        found.push(relationKey(source.name, catalog, dialect));
    }
  return [...found, ...joinedBy(change, key, catalog, dialect)];
}

/** The tables that a joined change is tied to by its key; where no key is known, by a column of the same name. */
function joinedBy(
  { statement, relation, conditions }: Change,
  key: readonly string[] | null,
  catalog: Catalog | null,
  dialect: Dialect,
): readonly string[] {
  const target = relation ? namedTable(relation.source) : null;
  if (!target || statement.kind === "truncate") return NONE;
  const level = innerSources(
    statement.kind === "delete" ? [...statement.from, ...statement.using] : [...statement.target, ...statement.from],
  );
  if (!level) return NONE;
  const tied = new Map<string, Set<string>>();
  for (const part of conditions.flatMap(({ expr }) => conjuncts(expr))) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const [a, b] = [plainColumn(part.left), plainColumn(part.right)];
    const column = nameOf(a, dialect);
    if (!a || !b || column === null || column !== nameOf(b, dialect)) continue;
    const [one, other] = [qualifier(a), qualifier(b)];
    if (one === null || other === null || (one === target.alias) === (other === target.alias)) continue;
    const source = one === target.alias ? other : one;
    const columns = tied.get(source);
    if (columns) columns.add(column);
    else tied.set(source, new Set([column]));
  }
  return level.sources.flatMap((source) => {
    const columns = source.kind === "table" ? tied.get(namedTable(source)?.alias ?? "") : undefined;
    if (source.kind !== "table" || !columns || !(key ?? []).every((one) => columns.has(one))) return [];
    return [relationKey(source.name, catalog, dialect)];
  });
}

function qualifier({ path }: ColumnRef): string | null {
  return path.length > 1 ? path[path.length - 2].text.toLowerCase() : null;
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

/** `key IN (SELECT key FROM table …)`; where no key is known, a column of the same name. */
function listed(part: Extract<Expr, { kind: "in" }>, key: string | null, dialect: Dialect): Source | null {
  const own = nameOf(plainColumn(part.operand), dialect);
  if (part.negated || !part.query || own === null || (key !== null && own !== key)) return null;
  const source = only(part.query);
  const item = source?.items.length === 1 ? source.items[0].expr : null;
  return source && item && nameOf(plainColumn(item), dialect) === own ? source : null;
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
