import type { Catalog } from "../../catalog/catalog.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { DeleteStatement, Ident, Query, Statement, With } from "../../sql/nodes/tree.ts";
import { constant } from "../conditions/constants.ts";
import { isAggregate } from "../conditions/links.ts";
import { changesOf } from "./change.ts";
import { type Reach, reachOf } from "./reach.ts";

/** The reach of an INSERT: the rows inserted; null for other statements. */
export function insertReach(tree: Statement, catalog: Catalog | null, dialect: Dialect): Reach | null {
  if (tree.kind !== "insert") return null;
  if (tree.set || tree.defaults) return { bound: "one", rows: 1 };
  if (!tree.source) return { bound: "unknown" };
  return queryReach(tree.source, tree.with, catalog, dialect);
}

function sameName(a: Ident, b: Ident, dialect: Dialect): boolean {
  return foldName(a, dialect) === foldName(b, dialect);
}

/** At most how many rows a table of WITH gives: those that its DELETE or UPDATE meets (postgresql). */
function returnedReach(body: Statement | Query, whole: boolean, catalog: Catalog | null, dialect: Dialect): Reach {
  if (body.kind === "query") return { bound: "some" };
  const [change, ...others] = changesOf(body, catalog, dialect);
  if (!change || others.length > 0) return { bound: "some" };
  const { reach } = reachOf(change);
  return !whole && reach.bound === "every" ? { bound: "some" } : reach;
}

/** At most how many rows a query gives. */
function queryReach(query: Query, outer: With | null, catalog: Catalog | null, dialect: Dialect): Reach {
  const { body } = query;
  if (body.kind === "values")
    return body.rowCount === 1 ? { bound: "one", rows: 1 } : { bound: "few", rows: body.rowCount };
  if (body.kind === "query") return queryReach(body, outer, catalog, dialect);
  if (body.kind !== "select") return { bound: "some" };
  const limit = query.limit ?? body.top;
  const cap = limit?.count && !limit.percent && !limit.withTies ? constant(limit.count) : null;
  const capped = (reach: Reach): Reach => {
    if (cap?.type !== "number" || (reach.bound !== "some" && reach.rows !== undefined && reach.rows <= cap.value))
      return reach;
    if (cap.value === 0) return { bound: "none", rows: 0 };
    return cap.value === 1 ? { bound: "one", rows: 1 } : { bound: "few", rows: cap.value };
  };
  if (body.from.length === 0 || (body.groupBy.length === 0 && body.items.some(({ expr }) => isAggregate(expr))))
    return { bound: "one", rows: 1 };
  // With several sources the rows are what the join makes of them.
  if (body.from.length > 1 || body.from[0].kind !== "table" || query.with) return capped({ bound: "some" });
  const [{ name }] = body.from;
  const own = outer?.tables.find((one) => name.parts.length === 1 && sameName(one.name, name.parts[0], dialect));
  if (own) return capped(returnedReach(own.body, body.where === null, catalog, dialect));
  // The rows that a DELETE with the same filter would meet.
  const same: DeleteStatement = {
    kind: "delete",
    with: null,
    named: [],
    from: body.from,
    using: [],
    where: body.where,
    currentOf: null,
    orderBy: [],
    limit: null,
    returning: null,
    ignore: false,
    distinctRows: false,
    history: null,
    start: body.start,
    end: body.end,
  };
  const [change] = changesOf(same, catalog, dialect);
  if (!change) return capped({ bound: "some" });
  const { reach } = reachOf(change);
  const fewer = body.distinct || body.groupBy.length > 0;
  return capped(reach.bound === "some" || (fewer && reach.bound === "every") ? { bound: "some" } : reach);
}
