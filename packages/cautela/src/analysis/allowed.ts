import type { Catalog } from "../catalog/catalog.ts";
import type { Column, Table } from "../catalog/model.ts";
import { conditionTree } from "../catalog/trees.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Expr } from "../sql/tree.ts";
import { type ConstantValue, sameValue } from "./conditions.ts";
import { conjuncts } from "./reach.ts";
import { constant, plainColumn } from "./truth.ts";

/** Why a constant may not stand in a column: what is allowed, in words, or null when it may. */
export function refusal(value: ConstantValue, column: Column, table: Table, catalog: Catalog): string | null {
  if (value.type === "null") return null;
  const list = enumeration(column, catalog);
  if (list && value.type === "string" && !list.some((one) => same(one, value.value, catalog.dialect))) {
    return `\`${column.name}\` takes ${list.map((one) => `'${one}'`).join(", ")}`;
  }
  for (const check of table.checks) {
    if (!check.enabled) continue;
    const parsed = conditionTree(check, catalog.dialect);
    if (!parsed) continue;
    for (const part of conjuncts(parsed.tree)) {
      const broken = breaks(part, column.name, value, catalog.dialect);
      if (broken)
        return `CHECK ${check.name ? `\`${check.name}\` ` : ""}says ${parsed.text.slice(part.start, part.end)}`;
    }
  }
  return null;
}

function same(a: string, b: string, dialect: DialectId): boolean {
  // Enumerations of mysql compare without regard to case.
  return dialect === "postgresql" ? a === b : a.toLowerCase() === b.toLowerCase();
}

/** The values of an enumeration; null for any other type. */
export function enumeration(column: Column, catalog: Catalog): readonly string[] | null {
  if (column.type === "enum") return column.typeArgs.map((one) => one.replace(/^'(.*)'$/s, "$1").replaceAll("''", "'"));
  if (catalog.dialect !== "postgresql") return null;
  return catalog.type(column.type)?.enumeration ?? null;
}

/** Whether one part of a CHECK is false for a constant in a column. */
function breaks(part: Expr, column: string, value: ConstantValue, dialect: DialectId): boolean {
  const speaks = (expr: Expr): boolean => {
    const ref = expr.kind === "cast" ? plainColumn(expr.operand) : plainColumn(expr);
    return ref !== null && ref.path[ref.path.length - 1].text.toLowerCase() === column.toLowerCase();
  };
  const loose = dialect !== "postgresql" && dialect !== "sqlite" && dialect !== "plsql";
  const equal = (one: ConstantValue): boolean =>
    sameValue(one, value) ||
    (loose &&
      one.type === "string" &&
      value.type === "string" &&
      one.value.toLowerCase() === value.value.toLowerCase());
  switch (part.kind) {
    case "in": {
      if (part.negated || !part.items || !speaks(part.operand)) return false;
      const values = part.items.map(plain);
      return (
        values.every((one) => one !== null && one.type === value.type) &&
        !values.some((one) => one !== null && equal(one))
      );
    }
    case "logic": {
      // status = 'open' OR status = 'closed'
      if (part.op !== "or") return false;
      return part.items.every((item) => breaks(item, column, value, dialect));
    }
    case "quantified": {
      // PostgreSQL writes IN as = ANY (ARRAY[…]).
      if (part.op !== "=" || part.quantifier !== "any" || !part.operand || !speaks(part.left)) return false;
      const array = part.operand.kind === "cast" ? part.operand.operand : part.operand;
      if (array.kind !== "compound" || array.what !== "array") return false;
      const values = array.operands.map(plain);
      return (
        values.every((one) => one !== null && one.type === value.type) &&
        !values.some((one) => one !== null && equal(one))
      );
    }
    case "between": {
      if (part.negated || !speaks(part.operand)) return false;
      const low = plain(part.low);
      const high = plain(part.high);
      if (low?.type !== "number" || high?.type !== "number" || value.type !== "number") return false;
      return value.value < low.value || value.value > high.value;
    }
    case "binary": {
      const flipped = !speaks(part.left) && speaks(part.right);
      if (!flipped && !speaks(part.left)) return false;
      const bound = plain(flipped ? part.left : part.right);
      if (!bound || bound.type !== value.type || bound.type === "null" || value.type === "null") return false;
      if (part.op === "=") return !equal(bound);
      if (part.op === "<>" || part.op === "!=") return equal(bound);
      if (bound.type !== "number" || value.type !== "number") return false;
      const [a, b] = flipped ? [bound.value, value.value] : [value.value, bound.value];
      if (part.op === "<") return a >= b;
      if (part.op === "<=") return a > b;
      if (part.op === ">") return a <= b;
      if (part.op === ">=") return a < b;
      return false;
    }
    default:
      return false;
  }
}

function plain(expr: Expr): ConstantValue | null {
  return constant(expr.kind === "cast" ? expr.operand : expr);
}
