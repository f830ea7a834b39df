import type { Column } from "../../catalog/model.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Relation } from "../names/scope.ts";
import { type Constant, compared, constant, plainColumn } from "./constants.ts";
import { withoutNot } from "./negation.ts";
import { FALSE, TRUE } from "./outcomes.ts";

/** What is known of the columns in a condition. */
export interface Facts {
  /** A column of the changed table; null for anything else. */
  fact(expr: Expr): Fact | null;
  /** The other table whose column this is; `required`: only where the column is NULL in no row of it. */
  joined(expr: Expr, required?: boolean): Relation | null;
}

/** A column, and what is declared of it. */
export interface Fact {
  qualifier: string;
  name: string;
  column: Column | undefined;
}

export function isComparison(op: string): boolean {
  return (
    op === "=" || op === "<>" || op === "!=" || op === "<" || op === ">" || op === "<=" || op === ">=" || op === "<=>"
  );
}

/** What a condition on one column admits, against constants: `fee > 10`, `status NOT IN ('left')`. */
interface Bound {
  qualifier: string;
  name: string;
  /** `values` admits these and `others` all but these; a range is one of numbers or of moments. */
  is: "values" | "others" | "range" | "null" | "not null";
  values: readonly Constant[];
  low: End | null;
  high: End | null;
  nullable: boolean;
}

interface End {
  value: number;
  /** What is compared: numbers with numbers, and moments with moments that are written alike. */
  scale: string;
  /** The end itself is left out. */
  open: boolean;
}

/** Whether a comparison with a number holds for every whole number from 1 on: `> 0`, `>= 1`, `<> 0`. */
export function holdsFromOne(op: string, bound: number): boolean {
  return (op === ">" && bound <= 0) || (op === ">=" && bound <= 1) || ((op === "<>" || op === "!=") && bound === 0);
}

export const MIRRORED: Record<string, string> = {
  "<": ">",
  ">": "<",
  "<=": ">=",
  ">=": "<=",
  "=": "=",
  "<>": "<>",
  "!=": "<>",
};

/** Longer lists are not compared value by value. */
const LIST = 64;

const NO_VALUES: readonly Constant[] = [];

function boundOf(condition: Expr, truth: Facts): Bound | null {
  const expr = withoutNot(condition);
  const on = (column: Expr, is: Bound["is"], values: readonly Constant[], low: End | null, high: End | null) => {
    const fact = truth.fact(column);
    if (!fact || values.some(({ type }) => type === "null")) return null;
    const { qualifier, name } = fact;
    const nullable = is === "null" || is === "not null" || !fact.column?.required;
    return { qualifier, name, is, values, low, high, nullable };
  };
  switch (expr.kind) {
    case "is":
      if (expr.test !== "null") return null;
      return on(expr.operand, expr.negated ? "not null" : "null", NO_VALUES, null, null);
    case "binary": {
      if (!isComparison(expr.op) || expr.op === "<=>") return null;
      const right = constant(expr.right) ?? pointOf(expr.right);
      const value = constant(right ? expr.right : expr.left);
      const column = right ? expr.left : expr.right;
      const op = right ? MIRRORED[MIRRORED[expr.op]] : MIRRORED[expr.op];
      if (op === "=" || op === "<>") return value && on(column, op === "=" ? "values" : "others", [value], null, null);
      const point = pointOf(right ? expr.right : expr.left);
      if (!point) return null;
      const end = { ...point, open: op === "<" || op === ">" };
      const upper = op === "<" || op === "<=";
      return on(column, "range", NO_VALUES, upper ? null : end, upper ? end : null);
    }
    case "in": {
      const { items } = expr;
      if (!items || items.length === 0 || items.length > LIST) return null;
      const values: Constant[] = [];
      for (const item of items) {
        const value = constant(item);
        if (!value) return null;
        values.push(value);
      }
      return on(expr.operand, expr.negated ? "others" : "values", values, null, null);
    }
    case "between": {
      if (expr.negated) return null;
      const low = pointOf(expr.low);
      const high = pointOf(expr.high);
      if (!low || !high) return null;
      return on(expr.operand, "range", NO_VALUES, { ...low, open: false }, { ...high, open: false });
    }
    default:
      return null;
  }
}

/** Where a constant stands on the scale that its kind has; null: it has none that every engine reads alike. */
export function pointOf(expr: Expr, american = true): { value: number; scale: string } | null {
  if (expr.kind === "literal" && expr.type === "date") return momentOf(expr.value, american);
  if (expr.kind === "cast" && /^(?:date|timestamp|datetime)/i.test(expr.type.name)) {
    const { operand } = expr;
    return operand.kind === "literal" && operand.type === "string" ? momentOf(operand.value, false) : null;
  }
  const value = constant(expr);
  return value && scaled(value);
}

function scaled(value: Constant): { value: number; scale: string } | null {
  if (value.type === "number") return { value: value.value, scale: "number" };
  return value.type === "string" ? momentOf(value.value, false) : null;
}

/** ISO 8601, with the time or without; as a text it has the same order. `american`: `12/31/2026`, between the marks of a date (jet). */
function momentOf(text: string, american: boolean): { value: number; scale: string } | null {
  const slashes = american ? /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/.exec(text) : null;
  const iso = slashes
    ? `${slashes[3]}-${slashes[1].padStart(2, "0")}-${slashes[2].padStart(2, "0")}`
    : text.replace(/^(\d{4})(\d\d)(\d\d)$/, "$1-$2-$3");
  if (!/^\d{4}-\d\d-\d\d(?:[ T]\d\d:\d\d(?::\d\d)?)?$/.test(iso)) return null;
  const value = Date.parse(`${iso.replace(" ", "T")}${iso.length > 10 ? "Z" : ""}`);
  return Number.isNaN(value) ? null : { value, scale: `moment ${slashes ? 10 : text.length}` };
}

/**
 * A condition on a table whose row is missing, as `key IS NULL` behind a LEFT JOIN says; null: none.
 *
 * @example
 * // LEFT JOIN oven o ON … WHERE o.oven_id IS NULL AND o.heat > 6
 */
export function absentRow(items: readonly Expr[], truth: Facts): Expr | null {
  for (const item of items) {
    if (item.kind !== "is" || item.test !== "null" || item.negated) continue;
    const gone = truth.joined(item.operand);
    if (!gone) continue;
    for (const one of items) {
      if (one === item) continue;
      const other = withoutNot(one);
      const operand =
        other.kind === "binary" && isComparison(other.op) && other.op !== "<=>"
          ? ([other.left, other.right].find((side) => plainColumn(side)) ?? null)
          : other.kind === "between" || other.kind === "like" || (other.kind === "in" && !other.negated)
            ? other.operand
            : null;
      if (operand && truth.joined(operand, false) === gone) return other;
    }
  }
  return null;
}

/** Whether two conditions of an AND rule each other out. */
export function contradicts(items: readonly Expr[], truth: Facts): boolean {
  return pairOf(items, truth, excludes) !== null;
}

/** Of this many conditions any two are compared; of more only those on one column, and a handful of those. */
const FEW = 12;

/** The later of two conditions on one column of which either `holds` of the other; null where there are none. */
function pairOf(items: readonly Expr[], truth: Facts, holds: (one: Bound, other: Bound) => boolean): Bound | null {
  if (items.length <= FEW) {
    const bounds: Bound[] = [];
    for (const item of items) {
      const bound = boundOf(item, truth);
      if (!bound) continue;
      for (const other of bounds)
        if (
          other.name === bound.name &&
          other.qualifier === bound.qualifier &&
          (holds(bound, other) || holds(other, bound))
        )
          return bound;
      bounds.push(bound);
    }
    return null;
  }
  const seen = new Map<string, Bound[]>();
  for (const item of items) {
    const bound = boundOf(item, truth);
    if (!bound) continue;
    const key = `${bound.qualifier}\u0000${bound.name}`;
    const others = seen.get(key) ?? [];
    for (const other of others) if (holds(bound, other) || holds(other, bound)) return bound;
    // A handful tells; a list of thousands of conditions on one column need not be squared.
    if (others.length < 16) others.push(bound);
    seen.set(key, others);
  }
  return null;
}

/** No row meets both; asked in both orders. */
function excludes(a: Bound, b: Bound): boolean {
  if (a.is === "null") return b.is !== "null";
  if (a.is === "range") return b.is === "range" && endsBefore(a.high, b.low);
  if (a.is !== "values") return false;
  switch (b.is) {
    case "values":
      return a.values.every((one) => b.values.every((other) => compared(one, "=", other) === FALSE));
    case "others":
      return a.values.every((one) => b.values.some((other) => compared(one, "=", other) === TRUE));
    case "range":
      return a.values.every((one) => {
        const at = scaled(one);
        if (!at) return false;
        const point = { ...at, open: false };
        return endsBefore(b.high, point) || endsBefore(point, b.low);
      });
    default:
      return false;
  }
}

/** Whether what ends at `high` lies wholly before what begins at `low`. */
function endsBefore(high: End | null, low: End | null): boolean {
  if (!high || !low || high.scale !== low.scale) return false;
  return high.value < low.value || (high.value === low.value && (high.open || low.open));
}

/** Two conditions of an OR that between them are met by every value. */
export function covers(items: readonly Expr[], truth: Facts): { nullable: boolean } | null {
  const bound = pairOf(items, truth, complete);
  return bound && { nullable: bound.is !== "null" && bound.is !== "not null" && bound.nullable };
}

/** Every value meets one of the two; asked in both orders. */
function complete(a: Bound, b: Bound): boolean {
  if (a.is === "null") return b.is === "not null";
  if (a.is === "range" && b.is === "range") {
    if (a.low || b.high || !a.high || !b.low || a.high.scale !== b.low.scale) return false;
    return a.high.value > b.low.value || (a.high.value === b.low.value && !(a.high.open && b.low.open));
  }
  if (b.is !== "others") return false;
  if (a.is === "values") return b.values.every((one) => a.values.some((other) => compared(one, "=", other) === TRUE));
  if (a.is === "others") return a.values.every((one) => b.values.every((other) => compared(one, "=", other) === FALSE));
  return false;
}
