import type { Expr } from "../../sql/nodes/tree.ts";
import { type Constant, calledName, compared, constant, standsIn } from "./constants.ts";
import { ANY, and, bool, FALSE, NULL, negated, type Outcomes, or, TRUE } from "./outcomes.ts";

/** The value that is asked about where an expression is the column that has it; null for every other expression. */
export type Given = (expr: Expr) => Constant | null;

/** What is nested deeper is not known. */
const DEEPEST = 100;

/**
 * The value of an expression in a row whose column has a given value; null: it depends on something else.
 *
 * @example
 * // COALESCE(state, 'new'), where state is NULL: 'new'
 */
function valueFor(expr: Expr, given: Given, depth = 0): Constant | null {
  if (depth > DEEPEST) return null;
  const known = given(expr) ?? constant(expr);
  if (known) return known;
  if (expr.kind !== "call") return null;
  const [first, ...rest] = expr.args;
  const value = first ? valueFor(first, given, depth + 1) : null;
  if (standsIn(expr) && value)
    return value.type !== "null" || rest.length !== 1 ? value : valueFor(rest[0], given, depth + 1);
  const name = calledName(expr).toLowerCase();
  if (rest.length > 0 || value?.type !== "string") return null;
  if (name === "lower") return { type: "string", value: value.value.toLowerCase() };
  if (name === "upper") return { type: "string", value: value.value.toUpperCase() };
  return null;
}

/**
 * The outcomes of a condition in a row whose column has a given value, by three-valued logic.
 *
 * @example
 * // NOT active, where active is FALSE: TRUE
 */
export function outcomesFor(condition: Expr, given: Given, depth = 0): Outcomes {
  if (depth > DEEPEST) return ANY;
  const below = (expr: Expr): Outcomes => outcomesFor(expr, given, depth + 1);
  const flip = (outcomes: Outcomes, not: boolean): Outcomes => (not ? negated(outcomes) : outcomes);
  switch (condition.kind) {
    case "logic":
      if (condition.op === "xor") return ANY;
      return condition.op === "and"
        ? condition.items.map(below).reduce(and, TRUE)
        : condition.items.map(below).reduce(or, FALSE);
    case "unary":
      return condition.op === "not" ? negated(below(condition.operand)) : ANY;
    case "binary":
      return outcomesOf(condition.left, condition.op, condition.right, given);
    case "between": {
      const { operand, low, high } = condition;
      return flip(
        and(outcomesOf(operand, ">=", low, given), outcomesOf(operand, "<=", high, given)),
        condition.negated,
      );
    }
    case "in": {
      const { items, operand } = condition;
      if (!items) return ANY;
      return flip(items.map((item) => outcomesOf(operand, "=", item, given)).reduce(or, FALSE), condition.negated);
    }
    case "is": {
      const value = valueFor(condition.operand, given);
      if (value && condition.test === "null") return flip(bool(value.type === "null"), condition.negated);
      const wanted = condition.test === "true" || condition.test === "false";
      return value && wanted
        ? flip(bool(truthOf(value) === (condition.test === "true" ? TRUE : FALSE)), condition.negated)
        : ANY;
    }
    case "literal":
    case "column": {
      const value = valueFor(condition, given);
      return value ? truthOf(value) : ANY;
    }
    default:
      return ANY;
  }
}

function outcomesOf(left: Expr, op: string, right: Expr, given: Given): Outcomes {
  const [a, b] = [valueFor(left, given), valueFor(right, given)];
  return a && b ? (compared(asNumber(a, b), op, asNumber(b, a)) ?? ANY) : ANY;
}

/** TRUE beside a number, where booleans are numbers. */
function asNumber(value: Constant, other: Constant): Constant {
  return value.type === "boolean" && other.type === "number" ? { type: "number", value: Number(value.value) } : value;
}

function truthOf(value: Constant): Outcomes {
  if (value.type === "null") return NULL;
  return value.type === "string" ? ANY : bool(Boolean(value.value));
}
