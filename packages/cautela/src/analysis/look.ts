import type { Catalog } from "../catalog/catalog.ts";
import type { Select, Statement } from "../sql/tree.ts";
import { conjuncts } from "./reach.ts";
import { filterKeys, type Timeline } from "./timeline.ts";

/** A SELECT that looks at rows of one table: the author's check before a change. */
export interface Look {
  /** The key of the table, and its name as messages show it. */
  key: string;
  shown: string;
  /** Its conditions, as keys that compare. */
  filter: ReadonlySet<string>;
  text: string;
}

/** The table and the filter of a SELECT that looks at one table; null for other queries. */
export function lookOf(
  tree: Statement,
  timeline: Timeline,
  catalog: Catalog | null,
  slice: (start: number, end: number) => string,
): Look | null {
  if (tree.kind !== "select" || tree.query.with || tree.query.body.kind !== "select") return null;
  const body: Select = tree.query.body;
  const [source] = body.from;
  if (body.from.length !== 1 || source.kind !== "table" || !body.where || body.into || body.groupBy.length > 0)
    return null;
  const { key, shown } = timeline.keyOf(source.name, catalog);
  const { start, end } = body.where;
  return {
    key,
    shown,
    filter: filterKeys(conjuncts(body.where), slice),
    text: slice(start, end),
  };
}
