import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Name, Query, Source } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { isCopy } from "./refusals.ts";
import { shapeOf } from "./shape.ts";

/** This many tables and views are looked through. */
const MOST = 300;

/**
 * The tables that a name stands for, through views whose query takes the place of their name; a view that is a copy of its
 * rows (grouped, limited, TEMPTABLE) is left closed.
 *
 * MySQL: reference manual, "View Processing Algorithms".
 *
 * @example
 * // CREATE VIEW open_berth AS SELECT * FROM berth WHERE is_open
 * tablesBehind(openBerth, catalog, dialect, "rows") // the table berth
 */
export function tablesBehind(
  name: Name,
  catalog: Catalog,
  dialect: Dialect,
  /** `rows`: those that its rows come from; `subqueries`: those that the conditions and lists of the views read. */
  which: "rows" | "subqueries" | "all",
): Set<RelationObject> {
  const found = new Set<RelationObject>();
  const seen = { true: new Set<RelationObject>(), false: new Set<RelationObject>() };
  const relation = catalog.resolveRelation(name);
  if (relation) open(relation, which !== "subqueries");
  return found;

  function open(one: RelationObject, counts: boolean): void {
    const before = seen[`${counts}`];
    if (before.has(one) || before.size > MOST) return;
    before.add(one);
    if (one.object === "table") {
      if (counts) found.add(one);
      return;
    }
    const query = viewQuery(one, dialect.id)?.tree;
    const shape = query ? shapeOf(one, catalog, dialect) : null;
    if (!query || !shape || isCopy(one, shape) || query.body.kind !== "select") return;
    for (const source of query.body.from) through(source, counts);
    if (which !== "rows") for (const inner of readAtOnce(query)) reads(inner);
  }

  function through(source: Source, counts: boolean): void {
    if (source.kind === "joined")
      for (const one of [source.first, ...source.joins.map((join) => join.source)]) through(one, counts);
    const below = source.kind === "table" ? catalog.resolveRelation(source.name) : undefined;
    if (below) open(below, counts);
  }

  function reads({ body }: Query): void {
    if (body.kind === "select") for (const source of body.from) through(source, true);
  }
}

/** The subqueries of a statement or query, but not those inside a derived table or WITH, which are worked out first. */
export function readAtOnce(tree: Parameters<typeof walk>[0]): Query[] {
  const queries: Query[] = [];
  walk(tree, (node) => {
    if (node.kind === "derived") return false;
    if ((node.kind === "subquery" || node.kind === "exists") && node.query) queries.push(node.query);
    if ((node.kind === "in" || node.kind === "quantified") && node.query) queries.push(node.query);
    return undefined;
  });
  return queries;
}
