import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Binary, Call, Expr } from "../../sql/nodes/tree.ts";
import type { Resolution } from "../names/resolution.ts";
import { type UsedColumn, usedColumn } from "./conditions.ts";
import { calledName, constant, standsIn } from "./constants.ts";
import { withoutNot } from "./negation.ts";

/** Functions that are NULL when any of their arguments is (PostgreSQL 15 manual, STRICT; tried in each engine here). */
const PASSES =
  /^(?:regexp_replace|substr|substring|mid|upper|lower|ucase|lcase|trim|ltrim|rtrim|btrim|lpad|rpad|round|abs|jsonb_set|left|right|overlay|stuff|instr|mod|power|date_add|date_sub|dateadd|add_months)$/i;

const NO_ARGS: readonly Expr[] = [];

/** The pieces of an expression through which NULL reaches the whole: the sides of an operator, arguments of a call. */
export function nullPasses(expr: Expr, dialect: Dialect): readonly Expr[] {
  if (expr.kind === "call") return passingArgs(expr, dialect);
  return expr.kind === "binary" && operatorPassesNull(expr, dialect) ? [expr.left, expr.right] : NO_ARGS;
}

function passingArgs(call: Call, { engine }: Dialect): readonly Expr[] {
  const name = calledName(call).toLowerCase();
  if (name === "concat") return engine.concatBlanks ? call.args : NO_ARGS;
  // Oracle removes the piece where the third argument is NULL; JSON_SET sets a null.
  if (name === "json_set" || (engine.emptyIsNull && /^(?:replace|translate|regexp_replace)$/.test(name)))
    return call.args.slice(0, 1);
  return name === "replace" || name === "translate" || PASSES.test(name) ? call.args : NO_ARGS;
}

/** Whether an operator gives NULL where one of its sides is NULL. */
function operatorPassesNull({ op }: Binary, { engine, grammar }: Dialect): boolean {
  if (op === "||") return !engine.emptyIsNull && !grammar.pipesAreOr;
  if (op === "&") return !engine.ampersandSkipsNull;
  return /^[-+*/%]$/.test(op);
}

/** What decides whether a column may be NULL where an expression is worked out. */
export interface NullContext {
  readonly names: Resolution | null;
  readonly dialect: Dialect;
  /** The conditions that every row meets. */
  readonly parts: readonly Expr[];
}

const DEEPEST = 100;

/**
 * The column that makes an expression NULL where it is NULL itself, with its place; null: none that is known.
 *
 * @example
 * // REPLACE(code, 'a', light): light, where the table declares it without NOT NULL and no condition asks for it
 */
export function nullableIn(expr: Expr, context: NullContext, depth = 0): { used: UsedColumn; at: Expr } | null {
  if (depth > DEEPEST) return null;
  const below = (one: Expr): ReturnType<typeof nullableIn> => nullableIn(one, context, depth + 1);
  switch (expr.kind) {
    case "column": {
      const used = usedColumn(expr, context.names);
      return used && isNullable(used) && !context.parts.some((part) => asksFor(part, used, context.names))
        ? { used, at: expr }
        : null;
    }
    case "cast":
    case "unary":
      return below(expr.operand);
    case "binary":
      return first(nullPasses(expr, context.dialect), below);
    case "call": {
      // Of COALESCE the last argument is what is left.
      if (standsIn(expr)) {
        let last: ReturnType<typeof nullableIn> = null;
        for (const arg of expr.args) {
          last = below(arg);
          if (!last) return null;
        }
        return last;
      }
      return first(nullPasses(expr, context.dialect), below);
    }
    case "case": {
      if (expr.operand) return first([...expr.whens.map(({ result }) => result), ...rest(expr.otherwise)], below);
      // What a branch before has taken, or this one asks for, is settled.
      let settled = context.parts;
      for (const { when: written, result } of expr.whens) {
        const when = withoutNot(written);
        const found = nullableIn(result, { ...context, parts: [...settled, when] }, depth + 1);
        if (found) return found;
        if (when.kind === "is" && when.test === "null") settled = [...settled, { ...when, negated: !when.negated }];
      }
      return expr.otherwise ? nullableIn(expr.otherwise, { ...context, parts: settled }, depth + 1) : null;
    }
    default:
      return null;
  }
}

function first<T>(list: readonly Expr[], find: (one: Expr) => T | null): T | null {
  for (const one of list) {
    const found = find(one);
    if (found) return found;
  }
  return null;
}

function rest(otherwise: Expr | null): Expr[] {
  return otherwise ? [otherwise] : [];
}

/** Whether the catalog says that a column may hold NULL, as far as declarations and statistics go. */
export function isNullable({ offered, relation }: UsedColumn): boolean {
  const column = offered?.column;
  // A query in FROM may leave those rows out.
  if (relation?.source?.kind !== "table" || !relation.table) return false;
  if (!column || column.required || column.generated || column.identity !== null || column.nulls === 0) return false;
  return !(relation.table.primaryKey?.columns.includes(column.name) ?? false);
}

/** Whether a condition lets no row through in which a column is NULL. */
export function asksFor(
  part: Expr,
  { name, relation }: Pick<UsedColumn, "name" | "relation">,
  names: Resolution | null,
): boolean {
  const is = (one: Expr): boolean => {
    const used = usedColumn(one, names);
    return used?.name === name && used.relation === relation;
  };
  switch (part.kind) {
    case "binary":
      return (
        /^(?:[<>]=?|=|<>|!=)$/.test(part.op) &&
        constant(part.left)?.type !== "null" &&
        (is(part.left) || is(part.right))
      );
    case "is":
      return part.test === "null" && part.negated && is(part.operand);
    case "in":
    case "between":
    case "like":
      return is(part.operand);
    case "logic":
      return part.op === "and" && part.items.some((one) => asksFor(one, { name, relation }, names));
    default:
      return false;
  }
}
