import type { Expr, Query, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { conjuncts } from "../changes/reach.ts";
import { type ConstantValue, sameValue } from "../conditions/conditions.ts";
import { constant } from "../conditions/constants.ts";
import { expressionKey } from "../conditions/filter-facts.ts";
import type { Guard } from "./code-effects.ts";

/** What is known of the change that a trigger fires for. */
export interface FiredBy {
  event: "insert" | "update" | "delete" | "truncate";
  /** The columns that the statement assigns; null where any of them may differ. */
  columns: readonly string[] | null;
  /** New values that are the same for all rows, by column. */
  values: ReadonlyMap<string, ConstantValue>;
  /** How many triggers are at work where the question is asked: pg_trigger_depth(), TRIGGER_NESTLEVEL(). */
  depth: number;
}

/** True, false, or null where only the data can say. */
type Answer = boolean | null;

/**
 * Whether a piece of code runs: all of its guards hold. Decided are the questions for the event
 * (`TG_OP = 'DELETE'`, `INSERTING`, `UPDATE(fee)`), comparisons of OLD with NEW for columns that the change
 * leaves alone, and comparisons of NEW with constants where the statement sets one.
 */
export function runs(guards: readonly Guard[], by: FiredBy | null): Answer {
  let result: Answer = true;
  for (const { condition, holds } of guards) {
    const answer = condition ? decide(condition, by) : null;
    const own = answer === null ? null : answer === holds;
    if (own === false) return false;
    if (own === null) result = null;
  }
  return result;
}

/** Whether a condition over OLD and NEW holds for a change. */
export function decide(expr: Expr, by: FiredBy | null): Answer {
  switch (expr.kind) {
    case "logic": {
      if (expr.op === "xor") return null;
      const and = expr.op === "and";
      let result: Answer = and;
      for (const item of expr.items) {
        const answer = decide(item, by);
        if (answer === !and) return !and;
        if (answer === null) result = null;
      }
      return result;
    }
    case "unary":
      return expr.op === "not" ? negated(decide(expr.operand, by)) : null;
    case "literal":
      return expr.type === "boolean" ? expr.value === "true" : null;
    case "binary":
      return by ? compared(expr.left, expr.op, expr.right, by) : null;
    case "is":
      if (!by) return null;
      if (expr.test === "distinct" && expr.right) {
        // IS NOT DISTINCT FROM takes NULLs for equal, so unchanged columns are the same for sure.
        const same = unchanged(expr.operand, expr.right, by) ? true : equal(expr.operand, expr.right, by);
        return same === null ? null : same === expr.negated;
      }
      if (expr.test === "null") {
        const value = knownValue(expr.operand, by);
        return value === null ? null : (value.type === "null") !== expr.negated;
      }
      return null;
    case "in": {
      if (!by || !expr.items) return null;
      const answers = expr.items.map((item) => equal(expr.operand, item, by));
      if (answers.includes(true)) return !expr.negated;
      return answers.every((one) => one === false) ? expr.negated : null;
    }
    case "column":
      return by ? event(expr.path[expr.path.length - 1].text, by) : null;
    case "call": {
      const name = expr.name.parts[expr.name.parts.length - 1].text.toLowerCase();
      const [first] = expr.args;
      if (!by || (name !== "update" && name !== "updating")) return null;
      const column =
        first?.kind === "column"
          ? first.path[first.path.length - 1].text
          : first?.kind === "literal"
            ? first.value
            : null;
      if (column === null) return null;
      if (by.event === "insert") return name === "update";
      if (by.event !== "update") return false;
      return by.columns === null ? null : by.columns.some((one) => one.toLowerCase() === column.toLowerCase());
    }
    case "exists":
      return by ? pseudo(expr.query, by) : null;
    default:
      return null;
  }
}

function negated(answer: Answer): Answer {
  return answer === null ? null : !answer;
}

/** INSERTING, UPDATING, DELETING (plsql). */
function event(word: string, by: FiredBy): Answer {
  const events: Record<string, FiredBy["event"]> = { inserting: "insert", updating: "update", deleting: "delete" };
  const asked = events[word.toLowerCase()];
  return asked ? asked === by.event : null;
}

/** EXISTS (SELECT … FROM inserted): which of the two rowsets a change fills (tsql). */
function pseudo(query: Query, by: FiredBy): Answer {
  const { body } = query;
  if (body.kind !== "select" || body.where || body.from.length !== 1 || body.from[0].kind !== "table") return null;
  const { parts } = body.from[0].name;
  const name = parts[parts.length - 1].text.toLowerCase();
  // A change of no row fires the trigger too, with both of them empty.
  if (name === "inserted" && by.event === "delete") return false;
  if (name === "deleted" && by.event === "insert") return false;
  return null;
}

function compared(left: Expr, op: string, right: Expr, by: FiredBy): Answer {
  const same = equal(left, right, by);
  switch (op) {
    case "=":
      return same;
    case "<=>":
      return unchanged(left, right, by) ? true : same;
    case "<>":
    case "!=":
      // NULL <> NULL is not true either.
      return unchanged(left, right, by) ? false : negated(same);
    case "<":
    case ">":
    case "<=":
    case ">=": {
      if (unchanged(left, right, by) && (op === "<" || op === ">")) return false;
      const a = knownValue(left, by);
      const b = knownValue(right, by);
      if (a?.type !== "number" || b?.type !== "number") return null;
      const order = a.value - b.value;
      return op === "<" ? order < 0 : op === ">" ? order > 0 : op === "<=" ? order <= 0 : order >= 0;
    }
    default:
      return null;
  }
}

/** Whether two sides are equal: settled only where both are known. */
function equal(left: Expr, right: Expr, by: FiredBy): Answer {
  const a = knownValue(left, by);
  const b = knownValue(right, by);
  if (!a || !b) return null;
  if (a.type === "null" || b.type === "null") return false;
  if (a.type === "string" && b.type === "string" && a.value !== b.value)
    // Two spellings that a collation may take for one.
    return a.value.trim().toLowerCase() === b.value.trim().toLowerCase() ? null : false;
  if (a.type !== b.type) return null;
  return sameValue(a, b);
}

function knownValue(expr: Expr, by: FiredBy): ConstantValue | null {
  const known = constant(expr);
  if (known) return known;
  if (expr.kind === "column") {
    const name = expr.path[expr.path.length - 1].text.toLowerCase();
    if (expr.path.length === 1 && name === "tg_op") return { type: "string", value: by.event.toUpperCase() };
    if (rowOf(expr) !== "new") return null;
    for (const [column, value] of by.values) if (column.toLowerCase() === name) return value;
  }
  if (expr.kind === "call" && expr.args.length === 0) {
    const name = expr.name.parts[expr.name.parts.length - 1].text.toLowerCase();
    if (name === "pg_trigger_depth" || name === "trigger_nestlevel") return { type: "number", value: by.depth };
  }
  return null;
}

/** OLD or NEW, when an expression is a column of one of them. */
function rowOf(expr: Expr): "old" | "new" | null {
  if (expr.kind !== "column" && expr.kind !== "star") return null;
  if (expr.path.length === 0) return null;
  const qualifier = expr.path[0].text.toLowerCase().replace(/^:/, "");
  if (expr.kind === "column" && expr.path.length !== 2) return null;
  return qualifier === "old" || qualifier === "new" ? qualifier : null;
}

/** Whether two sides are OLD.x and NEW.x of a column that the UPDATE leaves alone. */
function unchanged(left: Expr, right: Expr, by: FiredBy): boolean {
  if (by.event !== "update" || by.columns === null) return false;
  const a = rowOf(left);
  const b = rowOf(right);
  if (!a || !b || a === b || left.kind !== "column" || right.kind !== "column") return false;
  const name = left.path[1].text.toLowerCase();
  if (name !== right.path[1].text.toLowerCase()) return false;
  return !by.columns.some((column) => column.toLowerCase() === name);
}

/**
 * Whether a refusal asks only for new values that the UPDATE leaves alone: what was allowed when the row was
 * written is allowed still.
 */
export function leavesAlone(guards: readonly Guard[], { event, columns }: FiredBy): boolean {
  if (event !== "update" || columns === null) return false;
  let asked = false;
  let touched = false;
  for (const { condition } of guards) {
    if (!condition) return false;
    walk(condition, (node) => {
      if (node.kind !== "column" || node.path.length !== 2) return undefined;
      const row = node.path[0].text.toLowerCase();
      if (row === "old") touched = true;
      if (row !== "new") return undefined;
      asked = true;
      const name = node.path[1].text.toLowerCase();
      if (columns.some((column) => column.toLowerCase() === name)) touched = true;
      return undefined;
    });
  }
  return asked && !touched;
}

/** New values as a key: two changes with the same values fire the same triggers. */
export function valuesKey(values: FiredBy["values"]): string {
  let key = "";
  for (const [column, value] of values)
    key += `\u0000${column}=${value.type === "null" ? "NULL" : String(value.value)}`;
  return key;
}

/**
 * Whether a statement runs only while a column differs from the value that it gives it: it ends the round that it began.
 *
 * @example
 * // IF NEW.total IS DISTINCT FROM NEW.fee * 2 THEN UPDATE mooring SET total = NEW.fee * 2 …
 */
export function endsItself(statement: Statement, guards: readonly Guard[]): boolean {
  if (statement.kind !== "update") return false;
  // What has no form of its own is like nothing else.
  let count = 0;
  const key = (expr: Expr): string => expressionKey(expr, () => `?${count++}`);
  const given = new Map<string, string>();
  for (const { targets, value, op } of statement.assignments)
    if (op === "=" && targets.length === 1) given.set(key(targets[0]), key(value));
  const asked = [
    ...guards.flatMap(({ condition, holds }) => (condition && holds ? conjuncts(condition) : [])),
    ...(statement.where ? conjuncts(statement.where) : []),
  ];
  const differs = (left: Expr, right: Expr): boolean =>
    given.get(key(left)) === key(right) || given.get(key(right)) === key(left);
  return asked.some((part) => {
    const plain = part.kind === "unary" && part.op === "not" ? part.operand : part;
    const turned = plain !== part;
    if (plain.kind === "binary") {
      const unequal = turned ? plain.op === "=" || plain.op === "<=>" : plain.op === "<>" || plain.op === "!=";
      return unequal && differs(plain.left, plain.right);
    }
    return (
      plain.kind === "is" &&
      plain.test === "distinct" &&
      plain.right !== null &&
      plain.negated === turned &&
      differs(plain.operand, plain.right)
    );
  });
}
