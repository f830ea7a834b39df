import type { Column, View } from "../../catalog/model.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { ShapeSource, ViewShape } from "./shape.ts";

export type WriteAction = "insert" | "update" | "delete";

/** Why an engine refuses writes through a view, by action; null where it takes them. */
export interface Refusals extends Record<WriteAction, string | null> {
  /** Sources of a join whose columns cannot be written, with the reason. */
  sealedSources: Map<ShapeSource, string>;
  /** The answer depends on keys of tables that are not known: nothing is refused, and nothing is sure. */
  unsure?: boolean;
  /** Only a write through the view itself, or one that reads nothing else, is refused; a join above it takes it. */
  alone?: boolean;
  /** An INSERT through a join is refused also for a view beside the written table that takes none. */
  wholeJoin?: boolean;
}

/** What an engine says of writing through its views. */
export interface ViewRules {
  /** Why it refuses, from the view and the shape of its query. */
  refusals(view: View, shape: ViewShape): Refusals;
  /** Columns that every table has and nobody writes, in lower case. */
  systemColumns: ReadonlySet<string>;
  /** Whether a relation that the catalog lacks is a view of the engine itself, by its schema and name. */
  isOwnView(schema: string, name: string): boolean;
  /** Whether it is a table of the engine itself that takes changes. */
  isOwnTable(schema: string, name: string): boolean;
  /** The expression inside one that the engine sees through, so that its column can be written; null for any other. */
  sees(expr: Expr, column: (expr: Expr) => Column | undefined): Expr | null;
}

/** An engine of whose own relations nothing is said. */
export const NO_RELATIONS: Omit<ViewRules, "refusals"> = {
  systemColumns: new Set(),
  isOwnView: () => false,
  isOwnTable: () => false,
  sees: () => null,
};

/** The same answer to every action. */
export function refused(reason: string | null): Refusals {
  return { insert: reason, update: reason, delete: reason, sealedSources: new Map() };
}

/** What makes the rows of a query other rows than those of its tables, in any engine. */
export function condensed(shape: ViewShape): string | null {
  if (shape.setOperation) return "it puts several queries together (UNION and its like)";
  if (!shape.select && shape.sources.length === 0) return "it lists constant rows and reads no table";
  if (shape.distinct) return "DISTINCT makes one row of several";
  if (shape.grouped) return "GROUP BY makes one row of several";
  if (shape.having) return "HAVING makes it a query over groups";
  if (shape.aggregate) return "it counts or sums over rows";
  if (shape.window) return "it uses a window function";
  return null;
}

/** Whether the rows of a view are worked out first, and then read as a table of their own (mysql, mariadb). */
export function isCopy(view: View, shape: ViewShape): boolean {
  return condensed(shape) !== null || shape.limited || view.algorithm === "temptable";
}

/** Why a computed column cannot be written. */
export function computedReason(expr: Expr | null): string {
  return expr ? `it is computed${computedBy(expr)}` : "it is not a plain column";
}

function computedBy(expr: Expr): string {
  switch (expr.kind) {
    case "call":
      return ` by ${expr.name.parts[expr.name.parts.length - 1].text.toUpperCase()}`;
    case "case":
      return " by a CASE";
    case "subquery":
      return " by a subquery";
    case "literal":
      return " (a constant)";
    case "binary":
      return ` with ${expr.op}`;
    case "cast":
      return " by a cast";
    default:
      return "";
  }
}
