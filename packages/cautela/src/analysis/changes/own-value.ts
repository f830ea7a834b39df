import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { type AssignedColumn, assignedIn, usedColumn } from "../conditions/conditions.ts";
import { plainColumn } from "../conditions/constants.ts";
import type { Resolution } from "../names/resolution.ts";
import type { JudgedChange } from "./judged-change.ts";

/** What an assignment stands in. */
export interface Assigning {
  readonly names: Resolution | null;
  readonly changes: readonly JudgedChange[];
  readonly dialect: Dialect;
}

/**
 * Whether an assignment writes the value that is there already.
 *
 * @example
 * // UPDATE vessel SET name = name
 */
export function keepsValue({ column, target, value }: AssignedColumn, { names, changes, dialect }: Assigning): boolean {
  const other = usedColumn(value, names);
  if (!other || other.name !== column.name) return false;
  return column.relation && other.relation
    ? column.relation === other.relation
    : pathOf(target) === pathOf(value) || isTargets(target, value, changes, dialect);
}

/** Whether an UPDATE writes nothing but the values that are there: it loses none, and fires triggers all the same. */
export function keepsAllValues(statement: Statement, assigning: Assigning): boolean {
  if (statement.kind !== "update") return false;
  const assigned = assignedIn(statement, assigning.names);
  return (
    assigned.length === statement.assignments.length &&
    assigned.every((assignment) => keepsValue(assignment, assigning))
  );
}

/** `fee = mooring.fee`: what follows SET without an alias is the target's, and so is what has the target's name in front. */
function isTargets(target: Expr, value: Expr, changes: Assigning["changes"], dialect: Dialect): boolean {
  const [own, from] = [plainColumn(target), plainColumn(value)];
  if (own?.path.length !== 1 || from?.path.length !== 2 || changes.length !== 1 || dialect.grammar.joinedUpdate)
    return false;
  return from.path[0].text.toLowerCase() === changes[0].change.relation?.name.toLowerCase();
}

/** A column as written, in small letters: the text itself may be one of dynamic SQL. */
function pathOf(expr: Expr): string {
  return (
    plainColumn(expr)
      ?.path.map(({ text }) => text.toLowerCase())
      .join(".") ?? ""
  );
}
