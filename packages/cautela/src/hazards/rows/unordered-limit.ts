import { constant } from "../../analysis/conditions/constants.ts";
import { within } from "../../analysis/statement/node-index.ts";
import { foldName } from "../../catalog/names.ts";
import type { Expr, Limit, Query } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A number of rows without an order: which ones is the engine's whim.
 *
 * @example
 * DELETE FROM mooring WHERE status = 'left' LIMIT 10;
 */
export const unorderedLimit: Hazard = {
  id: "unordered-limit",
  family: "rows",
  weight: "ask",
  title: "A limit without an order",
  explanation:
    "LIMIT, TOP, ROWNUM and FETCH without ORDER BY take whichever rows come first. A second run, another plan or a copy of " +
    "the database gives other rows, and the SELECT that looked before showed others than the ones that are changed.",
  remedy: "Add an ORDER BY that settles the order, or pick the rows by their keys.",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, status varchar(20) NOT NULL);",
    dangerous: "DELETE FROM mooring WHERE status = 'left' LIMIT 10;",
    sound: "DELETE FROM mooring WHERE status = 'left' ORDER BY mooring_id LIMIT 10;",
  },
  check(context) {
    const { changes, tree, inLoop, dialect, found } = context;
    // Deleting in portions is done in a loop until nothing is left: there the order does not matter.
    if (inLoop) return [];
    const drafts: Draft[] = rowCountLeft(context);
    if (!found.limited && !dialect.engine.rownum) return drafts;
    const { show } = context;
    const said = (what: string, target: string): void => {
      drafts.push({
        message: `${what} takes whichever rows of \`${target}\` come first: there is no order.`,
        because: ["without ORDER BY the engine may give other rows at every run"],
        remedy: "Add ORDER BY and the primary key, or name the rows by their keys.",
      });
    };
    for (const { change, result, softener, target } of changes) {
      if (softener || change.action === "truncate" || result.filter === "dead") continue;
      const { statement } = change;
      if (statement.kind === "truncate") continue;
      // Where a key leaves no more rows than the limit takes, no order is needed.
      const count = statement.limit?.count ? constant(statement.limit.count) : null;
      const all = result.pinned !== undefined && count?.type === "number" && result.pinned <= count.value;
      if (!all && statement.limit?.count && statement.orderBy.length === 0 && !wholePortion(statement.limit)) {
        said(
          dialect.syntax.topInChanges ? `TOP ${show(statement.limit.count)}` : `LIMIT ${show(statement.limit.count)}`,
          target,
        );
        continue;
      }
      for (const { expr } of change.conditions) {
        const rows = rownum(expr);
        if (rows && dialect.engine.rownum) said(`\`${show(rows)}\``, target);
        for (const node of found.queries) {
          if (!within(node, expr)) continue;
          const limit = node.limit ?? (node.body.kind === "select" ? node.body.top : null);
          const one = limit?.count && constant(limit.count);
          if (limit?.count && dialect.engine.desktopRules && mayTie(node, context))
            drafts.push({
              message: `\`${show(node)}\` gives more rows than ${show(limit.count)} where several share the last place.`,
              because: ["TOP returns every row that is equal to the last one in the order"],
              remedy: "Add the primary key to ORDER BY.",
            });
          if (
            limit &&
            node.orderBy.length === 0 &&
            node.body.kind === "select" &&
            !(one?.type === "number" && one.value === 0)
          ) {
            said(`\`${show(node)}\``, target);
          }
        }
      }
    }
    // SET a = (SELECT … LIMIT 1): which of the values, nobody says.
    if (tree.kind === "update")
      for (const { value } of tree.assignments) {
        if (value.kind !== "subquery") continue;
        const { body, limit, orderBy } = value.query;
        const cut = limit ?? (body.kind === "select" ? body.top : null);
        if (cut?.count && orderBy.length === 0 && body.kind === "select" && body.from.length > 0)
          said(`\`${show(value.query)}\``, show(body.from[0]));
      }
    if (tree.kind === "insert" && tree.source) {
      const limit = tree.source.limit ?? (tree.source.body.kind === "select" ? tree.source.body.top : null);
      const source = tree.source.body.kind === "select" ? tree.source.body.from[0] : undefined;
      if (limit?.count && tree.source.orderBy.length === 0 && source?.kind === "table")
        said(`The limit of the SELECT`, show(source.name));
    }
    return drafts;
  },
};

/** Whether rows may be equal in the order of a query of one table (Access SQL, "ALL, DISTINCT, DISTINCTROW, TOP Predicates"). */
function mayTie({ body, orderBy }: Query, { catalog, dialect }: HazardContext): boolean {
  const source = body.kind === "select" && body.from.length === 1 ? body.from[0] : null;
  const table = source?.kind === "table" ? catalog?.resolve(source.name) : undefined;
  if (!table || orderBy.length === 0) return false;
  const ordered = new Set(
    orderBy.flatMap(({ expr }) => (expr.kind === "column" ? [foldName(expr.path[expr.path.length - 1], dialect)] : [])),
  );
  const keys = [...(table.primaryKey ? [table.primaryKey] : []), ...table.uniqueKeys];
  return keys.length > 0 && !keys.some(({ columns }) => columns.every((one) => ordered.has(one)));
}

/** SET ROWCOUNT cuts off every later statement, until it is 0 again (learn.microsoft.com, "SET ROWCOUNT"). */
function rowCountLeft({ changes, history }: HazardContext): Draft[] {
  const set = history.setting("rowcount");
  if (set === null || changes.length === 0 || !/^[1-9]\d*$/.test(set)) return [];
  return changes
    .filter(({ softener, result }) => softener === null && (result.pinned ?? Number.POSITIVE_INFINITY) > Number(set))
    .map(({ target }) => ({
      message: `SET ROWCOUNT ${set} is still on: this takes ${set} rows of \`${target}\` at most, whichever come first.`,
      because: ["it cuts off every statement until SET ROWCOUNT 0"],
      remedy: "Set it to 0 before, or write TOP with an order where portions are meant.",
      cause: `rowcount ${set}`,
      about: target,
      together: (tables) =>
        `SET ROWCOUNT ${set} is still on: changes of ${listed(tables)} are cut off at ${set} rows, whichever come first.`,
    }));
}

/** TOP (100) PERCENT is every row. */
function wholePortion(limit: Limit): boolean {
  const count = limit.count && constant(limit.count);
  return limit.percent && count?.type === "number" && count.value === 100;
}

function rownum(expr: Expr): Expr | null {
  if (expr.kind === "logic") return expr.items.map(rownum).find((one) => one !== null) ?? null;
  if (expr.kind === "unary") return rownum(expr.operand);
  if (expr.kind !== "binary") return null;
  const sides = [expr.left, expr.right];
  return sides.some((side) => side.kind === "column" && side.path.length === 1 && /^rownum$/i.test(side.path[0].text))
    ? expr
    : null;
}
