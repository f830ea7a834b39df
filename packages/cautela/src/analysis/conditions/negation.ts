import type { Expr, Logic } from "../../sql/nodes/tree.ts";

const OPPOSITE: Partial<Record<string, string>> = {
  "=": "<>",
  "<>": "=",
  "!=": "=",
  "<": ">=",
  ">=": "<",
  ">": "<=",
  "<=": ">",
};

/**
 * A condition without NOT in front, where there is another way to write it: it has the same outcome for
 * every row, NULL included. The parts keep the place of the whole, which is what a reader has to see.
 *
 * @example
 * // NOT (status = 'left')          status <> 'left'
 * // NOT (a IS NULL OR b IN (1))    a IS NOT NULL AND b NOT IN (1)
 */
export function withoutNot(expr: Expr): Expr {
  if (expr.kind !== "unary" || expr.op !== "not") return expr;
  return opposite(expr.operand, expr) ?? expr;
}

function opposite(operand: Expr, { start, end }: { start: number; end: number }): Expr | null {
  switch (operand.kind) {
    case "unary":
      return operand.op === "not" ? withoutNot(operand.operand) : null;
    case "binary": {
      const op = OPPOSITE[operand.op];
      return op === undefined ? null : { ...operand, op, start, end };
    }
    case "is":
    case "in":
    case "like":
    case "between":
      return { ...operand, negated: !operand.negated, start, end };
    case "logic": {
      if (operand.op === "xor") return null;
      const items = operand.items.map(
        (item): Expr => opposite(item, { start, end }) ?? { kind: "unary", op: "not", operand: item, start, end },
      );
      const turned: Logic = {
        kind: "logic",
        op: operand.op === "and" ? "or" : "and",
        items,
        parenthesised: true,
        start,
        end,
      };
      return turned;
    }
    default:
      return null;
  }
}
