import type { Between, Binary, Expr, Logic } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { conjuncts } from "../changes/reach.ts";
import { boolean } from "./conditions.ts";
import { type Constant, constant, plainColumn } from "./constants.ts";
import { withoutNot } from "./negation.ts";

/** One condition of a filter, in a form that does not depend on how it is written. */
export interface FilterFact {
  /** Two conditions that mean the same have the same key. */
  key: string;
  /** The column that it is about, in small letters, when it compares one with constants; else null. */
  column: string | null;
  /** The values that it admits: `= 3`, `IN (3, 4)`. */
  values: readonly string[] | null;
  /** The values that it leaves out: `<> 3`, `NOT IN (3, 4)`. */
  others: readonly string[] | null;
  /** The ends of the range that it admits, as they compare. */
  low: End | null;
  high: End | null;
  /** The branches of an OR, each with its own conditions; null where it is none, or one of many. */
  any: readonly (readonly FilterFact[])[] | null;
}

interface End {
  value: string | number;
  /** The end itself is not in it. */
  open: boolean;
}

/**
 * The conditions of a filter, one for each part that a row must meet; `BETWEEN` is two. Aliases, quotes,
 * parentheses, comments, the order of the two sides and of a list do not matter.
 *
 * @example
 * // m.status IN ('left') AND (9 > "day")   and   day < 9 AND 'left' = status   give the same facts
 */
export function filterFacts(where: Expr, slice: (start: number, end: number) => string): readonly FilterFact[] {
  const facts: FilterFact[] = [];
  for (const part of conjuncts(where)) addFacts(part, slice, facts);
  return facts;
}

/** Whether rows that meet all of the facts meet this one as well. */
export function implied(fact: FilterFact, by: readonly FilterFact[]): boolean {
  return (
    by.some(
      (one) =>
        one.key === fact.key ||
        (one.column !== null &&
          // What compares with a constant is not NULL.
          ((one.column === fact.column && within(one, fact)) || fact.key === `(${one.column} is not null)`)) ||
        // Whichever branch a row meets, it meets this.
        (one.any?.every((branch) => implied(fact, branch)) ?? false),
    ) ||
    (fact.any?.some((branch) => branch.every((one) => implied(one, by))) ?? false)
  );
}

/** Whether two filters are the same. */
export function sameFacts(a: readonly FilterFact[], b: readonly FilterFact[]): boolean {
  const among = (list: readonly FilterFact[], key: string): boolean => list.some((one) => one.key === key);
  return a.every(({ key }) => among(b, key)) && b.every(({ key }) => among(a, key));
}

function within(one: FilterFact, wider: FilterFact): boolean {
  if (wider.values) return one.values?.every((value) => wider.values?.includes(value)) ?? false;
  if (wider.others) return wider.others.every((value) => leavesOut(one, value));
  const { low, high } = wider;
  if (!low && !high) return false;
  if (one.values) {
    return one.values.every((text) => {
      const value = endOf(text);
      if (value === null) return false;
      return (!high || before({ value, open: false }, high)) && (!low || behind({ value, open: false }, low));
    });
  }
  if (high && !(one.high && before(one.high, high))) return false;
  if (low && !(one.low && behind(one.low, low))) return false;
  return true;
}

/** Whether a condition admits no row with a value. */
export function leavesOut({ values, others, low, high }: FilterFact, value: string): boolean {
  if (others) return others.includes(value);
  if (values) return values.every((one) => areOther(one, value));
  const at = endOf(value);
  if (at === null) return false;
  const past = (end: End | null, over: (one: string | number, other: string | number) => boolean): boolean =>
    end !== null && typeof end.value === typeof at && (over(at, end.value) || (end.open && end.value === at));
  return past(high, (one, other) => one > other) || past(low, (one, other) => one < other);
}

/** Whether two constants are not the same to any engine: texts that differ in case or blanks alone may be. */
function areOther(one: string, other: string): boolean {
  const plain = (shown: string): string => shown.toLowerCase().replace(/ {1,99}'$/, "'");
  return one[0] === other[0] && plain(one) !== plain(other);
}

/** Whether a range that ends here ends no later than the other one. */
function before(end: End, other: End): boolean {
  if (typeof end.value !== typeof other.value) return false;
  return end.value < other.value || (end.value === other.value && (end.open || !other.open));
}

function behind(end: End, other: End): boolean {
  if (typeof end.value !== typeof other.value) return false;
  return end.value > other.value || (end.value === other.value && (end.open || !other.open));
}

/** A value that compares: a number, or a date written year first, with the time or without. */
function endOf(shown: string): string | number | null {
  if (shown.startsWith("#")) return Number(shown.slice(1));
  const parts = /^'(\d{4})(-?)(\d\d)\2(\d\d)(?:[T ](\d\d:\d\d:\d\d))?'$/.exec(shown);
  if (!parts) return null;
  const [, year, , month, day, time] = parts;
  return `${year}-${month}-${day}${time === undefined || time === "00:00:00" ? "" : ` ${time}`}`;
}

const COMPARES = new Set(["=", "<>", "<", "<=", ">", ">="]);

/** A condition; where no column is given, only its key is known. */
export function factOf(
  key: string,
  column: string | null = null,
  { values = null, others = null, low = null, high = null, any = null }: Partial<FilterFact> = NOTHING,
): FilterFact {
  return { key, column, values, others, low, high, any };
}

const NOTHING: Partial<FilterFact> = {};

/** `column = value`; null where the value is NULL, to which nothing is equal. */
export function equalFact(column: string, value: Constant): FilterFact | null {
  const shown = shownFixed(value);
  return shown === null ? null : factOf(`(${column} = ${shown})`, column, { values: [shown] });
}

/** An OR of more branches, or in more of them, is not taken apart. */
const BRANCHES = 6;
const NESTED = 2;

function addFacts(part: Expr, slice: Slice, into: FilterFact[], depth = 0): void {
  switch (part.kind) {
    case "binary": {
      const keys = [keyOf(part.left, slice, 1), keyOf(part.right, slice, 1)] as const;
      const { flip, op } = turned(part, keys);
      const column = columnName(flip ? part.right : part.left);
      const value = fixedValue(flip ? part.left : part.right);
      const key = comparisonKey(part, keys);
      if (column === null || value === null || !COMPARES.has(op)) into.push(factOf(key));
      else if (op === "=") into.push(factOf(key, column, { values: [value] }));
      else if (op === "<>") into.push(factOf(key, column, { others: [value] }));
      else into.push(factOf(key, column, rangeOf(op, value)));
      return;
    }
    case "in": {
      const column = columnName(part.operand);
      const listed = part.items?.map(fixedValue) ?? [];
      const plain = column !== null && listed.length > 0 && listed.every((one) => one !== null);
      const key = keyOf(part, slice, 0);
      const values = listed as string[];
      into.push(plain ? factOf(key, column, part.negated ? { others: values } : { values }) : factOf(key));
      return;
    }
    case "logic": {
      const items = part.op === "or" && depth < NESTED ? part.items : [];
      if (items.length < 2 || items.length > BRANCHES) break;
      const any = items.map((item) => {
        const facts: FilterFact[] = [];
        for (const one of conjuncts(item)) addFacts(one, slice, facts, depth + 1);
        return facts;
      });
      into.push(factOf(keyOf(part, slice, 0), null, { any }));
      return;
    }
    case "between": {
      if (part.negated) break;
      for (const half of asComparisons(part).items) addFacts(half, slice, into, depth);
      return;
    }
    default: {
      const truth = boolean(part);
      const column = truth ? columnName(truth.of) : null;
      if (truth && column !== null) {
        const values = [String(truth.value)];
        const key = `(${column} = ${values[0]})`;
        into.push(factOf(key, column, { values }));
        return;
      }
    }
  }
  into.push(factOf(keyOf(part, slice, 0)));
}

function rangeOf(op: string, shown: string): { low: End | null; high: End | null } {
  const value = endOf(shown);
  const end = value === null ? null : { value, open: op === "<" || op === ">" };
  return { low: op === ">" || op === ">=" ? end : null, high: op === "<" || op === "<=" ? end : null };
}

const MIRRORED: Partial<Record<string, string>> = { "<": ">", ">": "<", "<=": ">=", ">=": "<=" };
const SYMMETRIC = new Set(["=", "<>", "<=>", "+", "*"]);

type Keys = readonly [left: string, right: string];

/**
 * Whether the sides of a comparison change places, so that its constant stands on the right, and of two columns the one whose
 * name comes first on the left. The keys of the sides are given: each is made once, however deep they are.
 */
function turned(expr: Binary, [left, right]: Keys): { flip: boolean; op: string } {
  const op = expr.op === "!=" ? "<>" : expr.op;
  const mirrored = SYMMETRIC.has(op) ? op : MIRRORED[op];
  if (mirrored === undefined) return { flip: false, op };
  const leftFixed = fixedValue(expr.left) !== null;
  const rightFixed = fixedValue(expr.right) !== null;
  const flip = leftFixed === rightFixed ? left > right : leftFixed && !rightFixed;
  return { flip, op: flip ? mirrored : op };
}

function comparisonKey(expr: Binary, keys: Keys): string {
  const { flip, op } = turned(expr, keys);
  return flip ? `(${keys[1]} ${op} ${keys[0]})` : `(${keys[0]} ${op} ${keys[1]})`;
}

function columnName(expr: Expr): string | null {
  const ref = plainColumn(expr);
  return ref ? ref.path[ref.path.length - 1].text.toLowerCase() : null;
}

/** A constant as it compares: `#3` for 3 and 3.0, `'left'`; null for anything else, and for NULL. */
function fixedValue(expr: Expr): string | null {
  const value = constant(expr);
  return value && shownFixed(value);
}

/** A value as facts hold it, see `FilterFact`; null: it is NULL. */
export function shownFixed(value: Constant): string | null {
  switch (value.type) {
    case "null":
      return null;
    case "number":
      return `#${value.value}`;
    case "string":
      return `'${value.value}'`;
    default:
      return String(value.value);
  }
}

/** An expression in a form that does not depend on how it is written, see `filterFacts`. */
export function expressionKey(expr: Expr, slice: Slice): string {
  return keyOf(expr, slice, 0);
}

/** Nested deeper than this, the text stands for itself. */
const DEEP = 60;

/** The operand of a BETWEEN that is longer than this, in characters, is not written out twice. */
const LONG = 200;

function keyOf(expr: Expr, slice: Slice, depth: number): string {
  const of = (one: Expr): string => keyOf(one, slice, depth + 1);
  if (depth > DEEP) return textKey(slice(expr.start, expr.end));
  const value = fixedValue(expr);
  if (value !== null) return value;
  switch (expr.kind) {
    case "column":
      return expr.path[expr.path.length - 1].text.toLowerCase();
    case "literal":
      return `${expr.type} ${expr.value.toLowerCase()}`;
    case "binary":
      return comparisonKey(expr, [of(expr.left), of(expr.right)]);
    case "logic": {
      if (expr.op === "xor") return `(${expr.items.map(of).join(" xor ")})`;
      return chained(expr, expr.op, of);
    }
    case "unary": {
      const plain = withoutNot(expr);
      return plain === expr ? `${expr.op} ${of(expr.operand)}` : of(plain);
    }
    case "is":
      return `(${of(expr.operand)} is${expr.negated ? " not" : ""} ${expr.test}${expr.right ? ` ${of(expr.right)}` : ""})`;
    case "in": {
      if (!expr.items) break;
      if (expr.items.length === 1) return `(${of(expr.operand)} ${expr.negated ? "<>" : "="} ${of(expr.items[0])})`;
      const items = [...new Set(expr.items.map(of))].sort();
      return `(${of(expr.operand)}${expr.negated ? " not" : ""} in ${items.join(", ")})`;
    }
    case "between":
      return chained(expr, expr.negated ? "or" : "and", of);
    case "like":
      return `(${of(expr.operand)}${expr.negated ? " not" : ""} ${expr.op} ${of(expr.pattern)}${expr.escape ? ` ${of(expr.escape)}` : ""})`;
    case "call":
      if (expr.opaque || expr.over || expr.filter || expr.orderBy || expr.argNames) break;
      return `${expr.name.parts.map(({ text }) => text.toLowerCase()).join(".")}(${expr.distinct ? "distinct " : ""}${expr.star ? "*" : expr.args.map(of).join(", ")})`;
    default:
  }
  return textKey(slice(expr.start, expr.end));
}

/** BETWEEN as the two comparisons that it is short for. */
function asComparisons({ operand, low, high, negated, start, end }: Between): Logic {
  const half = (op: string, right: Expr): Binary => ({ kind: "binary", op, left: operand, right, start, end });
  const items = negated ? [half("<", low), half(">", high)] : [half(">=", low), half("<=", high)];
  return { kind: "logic", op: negated ? "or" : "and", items, parenthesised: true, start, end };
}

/** The key of a chain of one connective: the order of its operands, and what stands twice, do not matter. */
function chained(expr: Expr, op: Logic["op"], of: (one: Expr) => string): string {
  const operands: string[] = [];
  addOperands(expr, op, of, operands);
  const keys = [...new Set(operands)].sort();
  return keys.length === 1 ? keys[0] : `(${keys.join(` ${op} `)})`;
}

/** The keys of the operands of a chain of one connective, nested chains taken apart. */
function addOperands(expr: Expr, op: Logic["op"], of: (one: Expr) => string, into: string[]): void {
  const plain = withoutNot(expr);
  if (plain.kind === "logic" && plain.op === op) for (const item of plain.items) addOperands(item, op, of, into);
  else if (plain.kind === "between" && (plain.negated ? "or" : "and") === op) {
    const operand = of(plain.operand);
    const halves = asComparisons(plain).items as Binary[];
    // Its operand stands in both halves: nested in itself it would grow twofold at each level.
    if (operand.length > LONG)
      into.push(
        `(${operand}${plain.negated ? " not" : ""} between ${halves.map(({ right }) => of(right)).join(" and ")})`,
      );
    else for (const half of halves) into.push(comparisonKey(half, [operand, of(half.right)]));
  } else into.push(of(plain));
}

/** A text without comments, blanks, quotes of names and case; what stands inside strings stays as it is. */
function textKey(text: string): string {
  let key = "";
  for (let i = 0; i < text.length; i++) {
    const char = text[i];
    if (char === "'") {
      const end = text.indexOf("'", i + 1);
      const to = end < 0 ? text.length : end;
      key += text.slice(i, to + 1);
      i = to;
    } else if (char === "-" && text[i + 1] === "-") {
      const end = text.indexOf("\n", i);
      i = end < 0 ? text.length : end;
    } else if (char === "/" && text[i + 1] === "*") {
      const end = text.indexOf("*/", i + 2);
      i = end < 0 ? text.length : end + 1;
    } else if (char > " " && !'"`[]'.includes(char)) key += char.toLowerCase();
  }
  return key;
}
