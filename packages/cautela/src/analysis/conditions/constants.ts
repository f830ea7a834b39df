import type { Call, ColumnRef, Expr } from "../../sql/nodes/tree.ts";
import { bool, NULL, type Outcomes } from "./outcomes.ts";

/** A value that does not depend on the row. */
export type Constant =
  | { type: "number"; value: number }
  | { type: "string"; value: string }
  | { type: "boolean"; value: boolean }
  | { type: "null" };

/** The column a plain expression is; casts and parentheses around it do not matter. */
export function plainColumn(expr: Expr): ColumnRef | null {
  let at = expr;
  while (at.kind === "compound" && at.what === "collate") at = at.operands[0];
  return at.kind === "column" ? at : null;
}

function numeral(text: string): number {
  return Number(text.includes("_") ? text.replaceAll("_", "") : text);
}

/** Chains of operators are followed this far; the value of a longer one is not known. */
const DEEPEST = 200;

export function isPlainConstant(expr: Expr): boolean {
  const type = constant(expr)?.type;
  return type === "number" || type === "string";
}

/** The value of an expression of constants; null when it depends on anything else. */
export function constant(expr: Expr, depth = 0): Constant | null {
  if (depth > DEEPEST) return null;
  switch (expr.kind) {
    case "literal":
      switch (expr.type) {
        case "number":
          return { type: "number", value: numeral(expr.value) };
        case "string":
          return { type: "string", value: expr.value };
        case "boolean":
          return { type: "boolean", value: expr.value === "true" };
        case "null":
          return { type: "null" };
        default:
          return null;
      }
    case "unary": {
      const value = constant(expr.operand, depth + 1);
      if (value?.type === "number" && (expr.op === "-" || expr.op === "+")) {
        return { type: "number", value: expr.op === "-" ? -value.value : value.value };
      }
      return null;
    }
    case "binary": {
      const left = constant(expr.left, depth + 1);
      const right = left?.type === "number" ? constant(expr.right, depth + 1) : null;
      if (left?.type !== "number" || right?.type !== "number") return null;
      if (expr.op === "+") return { type: "number", value: left.value + right.value };
      if (expr.op === "-") return { type: "number", value: left.value - right.value };
      if (expr.op === "*") return { type: "number", value: left.value * right.value };
      return null;
    }
    case "cast":
      return constant(expr.operand, depth + 1)?.type === "null" ? { type: "null" } : null;
    default:
      return null;
  }
}

/** The outcome of comparing two constants; null when it depends on rules of the engine. */
export function compared(a: Constant, op: string, b: Constant): Outcomes | null {
  if (a.type === "null" || b.type === "null") return NULL;
  if (a.type !== b.type) return null;
  if (a.type === "string" && b.type === "string" && a.value !== b.value) {
    // Whether 'A' equals 'a', or 'a ' equals 'a', is the collation's to say.
    if (op !== "=" && op !== "<>" && op !== "!=") return null;
    if (a.value.trim().toLowerCase() === b.value.trim().toLowerCase()) return null;
  }
  const x = a.value;
  const y = b.type === a.type ? b.value : a.value;
  switch (op) {
    case "=":
      return bool(x === y);
    case "<>":
    case "!=":
      return bool(x !== y);
    case "<":
      return bool(x < y);
    case ">":
      return bool(x > y);
    case "<=":
      return bool(x <= y);
    case ">=":
      return bool(x >= y);
    default:
      return null;
  }
}

/** COALESCE and its like: the first of their arguments that is not NULL. */
const STANDS_IN = /^(?:coalesce|ifnull|isnull|nvl|nz)$/i;

/** Whether a call puts another value in the place of NULL. */
export function standsIn(call: Call): boolean {
  return STANDS_IN.test(calledName(call));
}

/** The name of what is called, without its schema. */
export function calledName({ name }: Call): string {
  return name.parts[name.parts.length - 1].text;
}
