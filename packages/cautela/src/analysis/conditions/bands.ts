import type { Expr } from "../../sql/nodes/tree.ts";
import { calledName, constant } from "./constants.ts";
import type { FilterFact } from "./filter-facts.ts";

/** The numbers that a filter admits in one column: an interval. */
export interface Band {
  low: number;
  high: number;
  /** The end itself is not in it. */
  lowOpen: boolean;
  highOpen: boolean;
}

/** The numbers that all conditions of a filter on a column admit; null where one of them is not about numbers, or none is there. */
export function bandOf(facts: readonly FilterFact[], column: string): Band | null {
  let band: Band | null = null;
  for (const fact of facts) {
    if (fact.column !== column) continue;
    const own = ownBand(fact);
    if (!own) return null;
    band = band ? within(band, own) : own;
  }
  return band;
}

function ownBand({ values, low, high }: FilterFact): Band | null {
  if (values) {
    const numbers = values.map((shown) => (shown.startsWith("#") ? Number(shown.slice(1)) : Number.NaN));
    if (numbers.length !== 1 || Number.isNaN(numbers[0])) return null;
    return { low: numbers[0], high: numbers[0], lowOpen: false, highOpen: false };
  }
  if ((!low && !high) || [low, high].some((end) => end && typeof end.value !== "number")) return null;
  return {
    low: low ? Number(low.value) : Number.NEGATIVE_INFINITY,
    high: high ? Number(high.value) : Number.POSITIVE_INFINITY,
    lowOpen: low?.open ?? false,
    highOpen: high?.open ?? false,
  };
}

function within(a: Band, b: Band): Band {
  const fromA = a.low > b.low || (a.low === b.low && a.lowOpen);
  const toA = a.high < b.high || (a.high === b.high && a.highOpen);
  return {
    low: fromA ? a.low : b.low,
    lowOpen: fromA ? a.lowOpen : b.lowOpen,
    high: toA ? a.high : b.high,
    highOpen: toA ? a.highOpen : b.highOpen,
  };
}

/** Whether a number is in both. */
export function overlap(a: Band, b: Band): boolean {
  const { low, high, lowOpen, highOpen } = within(a, b);
  return low < high || (low === high && !lowOpen && !highOpen);
}

/** What a change does to the number that it starts from: `n * 1.1`, `n + 5`, or another number for all. */
export interface Step {
  op: "+" | "*" | "=";
  by: number;
}

/** The step that an assignment is for a column, which `isOwn` tells; null: it is not the same for all rows. */
export function stepOf(assigns: string, value: Expr, isOwn: (expr: Expr) => boolean): Step | null {
  const known = constant(value);
  if (known) return known.type === "number" ? stepBy(assigns.replace(/=$/, "") || "=", known.value) : null;
  if (assigns !== "=") return null;
  if (value.kind === "call" && /^round$/i.test(calledName(value)) && value.args.length > 0)
    return stepOf(assigns, value.args[0], isOwn);
  if (value.kind !== "binary") return null;
  const [left, right] = [constant(value.left), constant(value.right)];
  if (right?.type === "number" && isOwn(value.left)) return stepBy(value.op, right.value);
  const turns = value.op === "+" || value.op === "*";
  return turns && left?.type === "number" && isOwn(value.right) ? stepBy(value.op, left.value) : null;
}

function stepBy(op: string, by: number): Step | null {
  switch (op) {
    case "=":
    case "+":
      return { op, by };
    case "-":
      return { op: "+", by: -by };
    case "*":
      return by > 0 ? { op, by } : null;
    case "/":
      return by > 0 ? { op: "*", by: 1 / by } : null;
    default:
      return null;
  }
}

/** Where the numbers of a band are after a step. */
export function stepped(band: Band, { op, by }: Step): Band {
  if (op === "=") return { low: by, high: by, lowOpen: false, highOpen: false };
  const of = (end: number): number => (op === "+" ? end + by : end * by);
  return { ...band, low: of(band.low), high: of(band.high) };
}
