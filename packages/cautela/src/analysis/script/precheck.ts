import type { Catalog } from "../../catalog/catalog.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Select, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { singleBlanks } from "../../text/blanks.ts";
import { type FilterFact, filterFacts } from "../conditions/filter-facts.ts";

/** A SELECT that looks at rows of one table: the author's check before a change. */
export interface Precheck {
  /** The key of the table, and its name as messages show it. */
  key: string;
  shown: string;
  filter: readonly FilterFact[];
  /** The columns that they refer to, in small letters. */
  columns: ReadonlySet<string>;
  text: string;
}

/** The table and the filter of a SELECT that looks at one table; null for other queries. */
export function precheckOf(
  tree: Statement,
  dialect: Dialect,
  catalog: Catalog | null,
  slice: (start: number, end: number) => string,
): Precheck | null {
  if (tree.kind !== "select" || tree.query.with || tree.query.body.kind !== "select") return null;
  const body: Select = tree.query.body;
  const [source] = body.from;
  if (body.from.length !== 1 || source.kind !== "table" || !body.where || body.into || body.groupBy.length > 0)
    return null;
  const { key, shown } = namedRelation(source.name, catalog, dialect);
  const { start, end } = body.where;
  return {
    key,
    shown,
    filter: filterFacts(body.where, slice),
    columns: columnsIn(body.where),
    text: singleBlanks(slice(start, end)),
  };
}

/** The columns that an expression refers to, in small letters. */
export function columnsIn(expr: Expr): ReadonlySet<string> {
  const columns = new Set<string>();
  walk(expr, (node) => {
    if (node.kind === "column") columns.add(node.path[node.path.length - 1].text.toLowerCase());
    return undefined;
  });
  return columns;
}
