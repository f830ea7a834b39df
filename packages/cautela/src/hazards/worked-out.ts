import { calledName, constant } from "../analysis/conditions/constants.ts";
import { isAggregate } from "../analysis/conditions/links.ts";
import { partedName } from "../catalog/columns.ts";
import type { ColumnRef, Expr } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import type { JudgedChange, Weight } from "./hazard.ts";

// Values that are worked out from what is still there: they can be worked out again, so every row of them is less of a loss.

/** Sums and counts of rows that are still there, what a search index holds: it can be worked out again at any time. */
export function recomputed({ change: { statement } }: JudgedChange): { weight: Weight; why: string } | null {
  if (statement.kind !== "update") return null;
  const values = statement.assignments.map(({ value }) => value);
  if (values.every((value) => isDerived(value)))
    return { weight: "ask", why: "the values are worked out from rows that are still there, and can be again" };
  if (values.every((value) => isIndexed(value)))
    return { weight: "ask", why: "what is searched for is worked out from other columns, and can be again" };
  return null;
}

/** What is nested deeper is not taken for worked out. */
const DEEPEST = 100;

/** A subquery of an aggregate, EXISTS, or a constant chosen by one; also inside COALESCE and the like. */
function isDerived(value: Expr, depth = 0): boolean {
  if (depth > DEEPEST) return false;
  const below = (expr: Expr): boolean => isDerived(expr, depth + 1);
  switch (value.kind) {
    case "subquery": {
      const { body } = value.query;
      return body.kind === "select" && body.items.length > 0 && body.items.every(({ expr }) => holdsAggregate(expr));
    }
    case "exists":
      return true;
    case "case":
      return (
        (value.operand ? below(value.operand) : value.whens.every(({ when }) => below(when))) &&
        [...value.whens.map(({ result }) => result), ...(value.otherwise ? [value.otherwise] : [])].every(
          (result) => constant(result) !== null || below(result),
        )
      );
    // IF(EXISTS (…), 1, 0)
    case "call":
      return value.args.length > 0 && below(value.args[0]);
    case "cast":
    case "unary":
      return below(value.operand);
    case "binary":
      return (
        (below(value.left) && (constant(value.right) !== null || below(value.right))) ||
        (constant(value.left) !== null && below(value.right))
      );
    default:
      return false;
  }
}

/** Columns that say where a row stands among the others. */
const PLACES = /(?:^|_)(?:order|position|pos|sort|rank|rang|seq|sequence|ordinal|ordering|idx|index|line|row)(?:_|$)/i;

function isPlace(column: string): boolean {
  const name = partedName({ name: column });
  return PLACES.test(name) && !/(?:^|_)id$/i.test(name);
}

/** The rows are numbered again: by a counter, by a window, by their key. */
export function renumbered({ change: { statement } }: JudgedChange): { weight: Weight; why: string } | null {
  if (statement.kind !== "update") return null;
  const windows = new Set<string>();
  for (const { body } of statement.with?.tables ?? [])
    walk(body, (node) => {
      if (node.kind === "select" && "items" in node)
        for (const { expr, alias } of node.items)
          if (alias && expr.kind === "call" && expr.over) windows.add(alias.text.toLowerCase());
      return true;
    });
  const numbers = statement.assignments.every(
    ({ targets, value }) =>
      targets.length === 1 &&
      targets[0].kind === "column" &&
      isPlace(lastName(targets[0])) &&
      isNumbering(value, windows),
  );
  return numbers ? { weight: "ask", why: "the rows are numbered again, and an order that people made is lost" } : null;
}

function isNumbering(value: Expr, windows: ReadonlySet<string>): boolean {
  if (value.kind === "column") return isPlaceOf(lastName(value), windows);
  if (value.kind !== "binary") return false;
  // (@n := @n + 1), @n + 1
  if (value.op === ":=" || value.left.kind === "variable") return true;
  return /^[-+*]$/.test(value.op) && constant(value.right) !== null && isNumbering(value.left, windows);
}

function lastName({ path }: ColumnRef): string {
  return path[path.length - 1].text;
}

function isPlaceOf(name: string, windows: ReadonlySet<string>): boolean {
  return /^(?:rownum|id|.*_id)$/i.test(name) || windows.has(name.toLowerCase());
}

/** What makes of a value something that is only searched by: words, a sound, a place. */
const INDEXES = /^(?:to_tsvector|array_to_tsvector|soundex|d?metaphone|st_\w+|point)$/i;

function isIndexed(value: Expr, depth = 0): boolean {
  if (depth > DEEPEST) return false;
  if (value.kind === "binary")
    return value.op === "||" && isIndexed(value.left, depth + 1) && isIndexed(value.right, depth + 1);
  if (value.kind === "cast") return isIndexed(value.operand, depth + 1);
  if (value.kind !== "call") return false;
  if (/^(?:setweight|strip|coalesce)$/i.test(calledName(value)))
    return value.args.length > 0 && isIndexed(value.args[0], depth + 1);
  return INDEXES.test(calledName(value)) && columnsIn(value).length > 0;
}

function holdsAggregate(expr: Expr): boolean {
  return isAggregate(expr) || (expr.kind === "call" && expr.args.some(holdsAggregate));
}

/** The columns that stand in a value, as written; none where it reads from elsewhere. */
export function columnsIn(value: Expr): string[] {
  const columns: string[] = [];
  let elsewhere = false;
  walk(value, (node) => {
    if (node.kind === "query") elsewhere = true;
    else if (node.kind === "column") columns.push(node.path[node.path.length - 1].text);
    return !elsewhere;
  });
  return elsewhere ? [] : columns;
}
