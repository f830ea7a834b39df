import type { Assignment, Expr, Statement, UpdateStatement } from "../../sql/nodes/tree.ts";
import { conjuncts } from "../changes/reach.ts";
import type { Binding, BoundRelation, OfferedColumn, Resolution } from "../names/resolution.ts";
import { constant, plainColumn } from "./constants.ts";

/** Whether a condition ties one column to another. */
export function isTie(part: Expr): boolean {
  return (
    part.kind === "binary" && part.op === "=" && plainColumn(part.left) !== null && plainColumn(part.right) !== null
  );
}

/** A value that is the same for every row, with its type. */
export type ConstantValue = NonNullable<ReturnType<typeof constant>>;

/** A column as a condition or an assignment refers to it. */
export interface UsedColumn {
  /** The folded name. */
  name: string;
  relation: BoundRelation | null;
  offered: OfferedColumn | null;
  binding: Binding | null;
}

/** The column that an expression is, with what it is bound to; null when it is anything else. */
export function usedColumn(expr: Expr, names: Resolution | null): UsedColumn | null {
  const ref = plainColumn(expr);
  if (!ref) return null;
  const binding = names?.bindings.get(ref) ?? null;
  return {
    name: ref.path[ref.path.length - 1].text.toLowerCase(),
    relation: binding?.relation ?? null,
    offered: binding?.offered ?? null,
    binding,
  };
}

/** Every part of a filter that a row must meet, conditions of inner joins included. */
export function filterParts(conditions: readonly { expr: Expr }[]): Expr[] {
  return conditions.length === 1 ? conjuncts(conditions[0].expr) : conditions.flatMap(({ expr }) => conjuncts(expr));
}

/** What a condition compares: the two sides, or the one that is asked of; none where it is put together of others. */
export function comparedIn(part: Expr): readonly Expr[] {
  switch (part.kind) {
    case "binary":
      return [part.left, part.right];
    case "is":
    case "in":
    case "between":
    case "like":
      return [part.operand];
    default:
      return [];
  }
}

/** A column that a filter pins: every row that meets it has one of these values there. */
export interface PinnedColumn {
  column: UsedColumn;
  values: ConstantValue[];
}

/** The columns of a filter that are pinned to constants: `status = 'lying'`, `class IN ('sail', 'motor')`. */
export function pinnedConstants(parts: readonly Expr[], names: Resolution | null): PinnedColumn[] {
  const list: PinnedColumn[] = [];
  for (const part of parts) {
    if (part.kind === "binary" && part.op === "=") {
      const left = usedColumn(part.left, names);
      const right = usedColumn(part.right, names);
      const value = left ? constant(part.right) : right ? constant(part.left) : null;
      const column = left ?? right;
      if (column && value && value.type !== "null") list.push({ column, values: [value] });
    } else if (part.kind === "in" && !part.negated && part.items) {
      const column = usedColumn(part.operand, names);
      const values = part.items.map(constant);
      if (column && values.length > 0 && values.every((one) => one !== null && one.type !== "null")) {
        list.push({ column, values: values as ConstantValue[] });
      }
    } else {
      const truth = boolean(part);
      const column = truth ? usedColumn(truth.of, names) : null;
      if (truth && column) list.push({ column, values: [{ type: "boolean", value: truth.value }] });
    }
  }
  return list;
}

/** `done`, `NOT done`, `done IS FALSE`: what is true or false where the condition holds; null for other conditions. */
export function boolean(part: Expr): { of: Expr; value: boolean } | null {
  if (part.kind === "column") return { of: part, value: true };
  if (part.kind === "unary" && part.op === "not" && part.operand.kind === "column")
    return { of: part.operand, value: false };
  if (part.kind !== "is" || part.negated || (part.test !== "true" && part.test !== "false")) return null;
  return { of: part.operand, value: part.test === "true" };
}

/** The columns that the conditions of a change pin to constants. */
export function pinsOf(conditions: readonly { expr: Expr }[], names: Resolution | null): readonly PinnedColumn[] {
  // A handful of hazards ask for the same change's, one after the other.
  return names
    ? names.memo.once(pinsOf, conditions, () => pinnedConstants(filterParts(conditions), names))
    : pinnedConstants(filterParts(conditions), names);
}

/** A constant as messages show it. */
export function shownValue(value: ConstantValue): string {
  switch (value.type) {
    case "null":
      return "NULL";
    case "string":
      return `'${value.value}'`;
    default:
      return String(value.value);
  }
}

export function sameValue(a: ConstantValue, b: ConstantValue): boolean {
  if (a.type === "null" || b.type === "null") return a.type === b.type;
  // TRUE is 1 where booleans are numbers, and compares with nothing else where they are not.
  if (a.type === b.type) return a.value === b.value;
  if (a.type !== "boolean" && b.type !== "boolean") return false;
  return a.type !== "string" && b.type !== "string" && Number(a.value) === Number(b.value);
}

/** One assignment of one column, for statements that assign. */
export interface AssignedColumn {
  target: Expr;
  column: UsedColumn;
  value: Expr;
  assignment: Assignment;
}

/** The plain assignments of a statement, those of upserts and MERGE included; `(a, b) = (1, 2)` is taken apart. */
export function assignedIn(statement: Statement, names: Resolution | null): AssignedColumn[] {
  // Every hazard of values asks for the same statement's, one after the other.
  return names
    ? names.memo.once(readAssigned, statement, () => readAssigned(statement, names))
    : readAssigned(statement, names);
}

const NO_ASSIGNED: AssignedColumn[] = [];

function readAssigned(statement: Statement, names: Resolution | null): AssignedColumn[] {
  if (statement.kind === "update") {
    const result: AssignedColumn[] = [];
    addAssigned(statement.assignments, names, result);
    return result;
  }
  if (statement.kind !== "merge" && (statement.kind !== "insert" || statement.conflicts.length === 0))
    return NO_ASSIGNED;
  const result: AssignedColumn[] = [];
  if (statement.kind === "merge") for (const when of statement.whens) addAssigned(when.assignments, names, result);
  else for (const conflict of statement.conflicts) addAssigned(conflict.assignments, names, result);
  return result;
}

function addAssigned(list: readonly Assignment[], names: Resolution | null, result: AssignedColumn[]): void {
  for (const assignment of list) {
    const { targets } = assignment;
    const values = assignment.value.kind === "row" ? assignment.value.items : null;
    if (targets.length > 1 && !values) continue;
    for (let i = 0; i < targets.length; i++) {
      const column = usedColumn(targets[i], names);
      if (!column) continue;
      const value = values ? values[i] : assignment.value;
      if (value) result.push({ target: targets[i], column, value, assignment });
    }
  }
}

/** The WHERE of an update, and whether it has one at all. */
export function whereParts(statement: UpdateStatement | { where: Expr | null }): Expr[] {
  return statement.where ? conjuncts(statement.where) : [];
}
