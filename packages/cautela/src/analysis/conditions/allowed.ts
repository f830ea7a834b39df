import type { Catalog } from "../../catalog/catalog.ts";
import { enumeration, setMembers } from "../../catalog/enumeration.ts";
import type { Column, Table } from "../../catalog/model.ts";
import { conditionTree } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { conjuncts } from "../changes/reach.ts";
import { storedConstant } from "../changes/stored-constant.ts";
import { type ConstantValue, sameValue } from "./conditions.ts";
import { constant, plainColumn } from "./constants.ts";

/** Why a constant may not stand in a column: what is allowed, in words, or null when it may. */
export function refusal(given: ConstantValue, column: Column, table: Table, catalog: Catalog): string | null {
  const dialect = dialects[catalog.dialect];
  const stored = storedConstant(given, column, catalog, dialect);
  // What does not become a value of the column is another hazard's affair.
  if (stored.kind !== "kept" || stored.value.type === "null") return null;
  const { value } = stored;
  const list = enumeration(column, catalog);
  if (list && value.type === "string" && !list.some((one) => same(one, value.value, dialect))) {
    return `\`${column.name}\` takes ${list.map((one) => `'${one}'`).join(", ")}`;
  }
  const members = setMembers(column);
  if (members && value.type === "string" && value.value !== "") {
    const strange = value.value.split(",").find((part) => !members.some((one) => same(one, part, dialect)));
    if (strange !== undefined)
      return `\`${column.name}\` is put together of ${members.map((one) => `'${one}'`).join(", ")}`;
  }
  for (const check of table.checks) {
    if (!check.enabled) continue;
    const parsed = conditionTree(check, catalog.dialect);
    if (!parsed) continue;
    for (const part of conjuncts(parsed.tree)) {
      const broken = breaks(part, column.name, value, dialect);
      if (broken)
        return `CHECK ${check.name ? `\`${check.name}\` ` : ""}says ${parsed.text.slice(part.start, part.end)}`;
    }
  }
  return null;
}

function same(a: string, b: string, dialect: Dialect): boolean {
  // Enumerations of mysql compare without regard to case.
  return dialect.engine.exactEnumerations ? a === b : a.toLowerCase() === b.toLowerCase();
}

/** Whether one part of a CHECK is false for a constant in a column. */
export function breaks(part: Expr, column: string, value: ConstantValue, dialect: Dialect): boolean {
  const speaks = (expr: Expr): boolean => {
    const ref = expr.kind === "cast" ? plainColumn(expr.operand) : plainColumn(expr);
    return ref !== null && ref.path[ref.path.length - 1].text.toLowerCase() === column.toLowerCase();
  };
  const loose = dialect.engine.looseText;
  const equal = (one: ConstantValue): boolean =>
    sameValue(one, value) ||
    (loose &&
      one.type === "string" &&
      value.type === "string" &&
      one.value.toLowerCase() === value.value.toLowerCase());
  // A text that is kept in a column of numbers is greater than any number (sqlite.org/datatype3.html, 4.1).
  const above = dialect.engine.affinities && value.type === "string";
  switch (part.kind) {
    case "in": {
      if (part.negated || !part.items || !speaks(part.operand)) return false;
      const values = part.items.map(plain);
      if (above && values.every((one) => one?.type === "number")) return true;
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
      if (above && low?.type === "number" && high?.type === "number") return true;
      if (low?.type !== "number" || high?.type !== "number" || value.type !== "number") return false;
      return value.value < low.value || value.value > high.value;
    }
    case "binary": {
      const flipped = !speaks(part.left) && speaks(part.right);
      if (!flipped && !speaks(part.left)) return false;
      const bound = plain(flipped ? part.left : part.right);
      if (above && bound?.type === "number")
        return part.op === "=" || (flipped ? part.op === ">" || part.op === ">=" : part.op === "<" || part.op === "<=");
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
