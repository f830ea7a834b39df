import { columnLike } from "../../catalog/columns.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Binary, Call, Case, Expr, InsertStatement, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { type ConstantValue, sameValue, usedColumn } from "../conditions/conditions.ts";
import { type Constant, calledName, constant, plainColumn } from "../conditions/constants.ts";
import { type Given, outcomesFor } from "../conditions/for-value.ts";
import { TRUE } from "../conditions/outcomes.ts";
import type { Assigning } from "./own-value.ts";

/** What a value is assigned in. */
interface AssigningTree extends Assigning {
  readonly tree: Statement;
}

const DEEPEST = 300;

/** What passes on what goes on below it. */
const PASSES_ON =
  /^(?:round|ceil|ceiling|floor|trunc|truncate|coalesce|ifnull|nvl|isnull|greatest|least|abs|cast|convert|nz|lower|upper|trim|ltrim|rtrim|btrim)$/;

/** What adds to a value, or makes another one of it, each time it is applied. */
const GOES_ON =
  /^(?:concat|concat_ws|date_add|date_sub|dateadd|timestampadd|adddate|subdate|addtime|subtime|add_months|array_append|array_prepend|array_cat|json_array_append|reverse|strreverse)$/;

/** What makes a code of a value, and another code of that. */
const ENCODES =
  /^(?:md5|sha|sha1|sha2|sha224|sha256|sha384|sha512|hash|hashbytes|standard_hash|ora_hash|digest|hmac|crypt|encrypt|des_encrypt|aes_encrypt|pgp_sym_encrypt|password|old_password|hex|to_hex|rawtohex|unhex|to_base64|from_base64|encode|decode_base64|quote|quote_literal|compress)$/;

/** JSON that is set to what it holds and something more. */
const SETS_JSON = /^(?:json_set|json_replace|jsonb_set|json_modify|jsonb_insert)$/;

/**
 * Whether a value goes on from the column's own, so that a second run makes another one of the first run's: arithmetic,
 * concatenation, a code of it, a part that is cut off.
 *
 * @example
 * // SET fee = fee * 1.05; SET code = SUBSTR(code, 2); SET state = CASE state WHEN 1 THEN 2 WHEN 2 THEN 3 ELSE state END
 */
export function isRelative(value: Expr, column: string, context: AssigningTree, depth = 0): boolean {
  // What a longer chain of operators does with the column is not followed.
  if (depth > DEEPEST) return false;
  const below = (expr: Expr): boolean => isRelative(expr, column, context, depth + 1);
  const own = (expr: Expr): boolean => isOwn(expr, column, context);
  const opposite = negatedIn(value);
  if (opposite) return turnsAgain(opposite, column, context, below);
  switch (value.kind) {
    case "cast":
      return below(value.operand);
    // A switch that is turned over.
    case "unary":
      return (value.op === "not" || value.op === "~") && (own(value.operand) || below(value.operand));
    case "case":
      return (
        mapsOn(value, column, context) ||
        value.whens.some(
          ({ when, result }) =>
            below(result) &&
            !(value.operand === null && (tells(when, column, context) || asksSign(when, result, column, context))),
        ) ||
        (value.otherwise !== null && below(value.otherwise))
      );
    case "call":
      return callGoesOn(value, column, context, below);
    case "binary":
      return operatorGoesOn(value, column, context, below);
    default:
      return false;
  }
}

function callGoesOn(value: Call, column: string, context: AssigningTree, below: (expr: Expr) => boolean): boolean {
  const { args } = value;
  const name = calledName(value).toLowerCase();
  const own = (expr: Expr | undefined): boolean => expr !== undefined && isOwn(expr, column, context);
  const carried = (expr: Expr | undefined): boolean => expr !== undefined && carries(expr, column, context);
  // Without its sign, -n is what n is.
  if (name === "abs" && args.length === 1) return below(negatedIn(args[0]) ?? args[0]);
  if (PASSES_ON.test(name)) return args.some((arg) => arg.kind !== "column" && below(arg));
  if (GOES_ON.test(name)) return !(/^concat/.test(name) && isPutTogether(args, column, context)) && args.some(carried);
  if (ENCODES.test(name)) return args.some(carried);
  if (SETS_JSON.test(name)) {
    const [first, ...rest] = args;
    return own(first) && rest.some((arg) => reckonsWith(arg, column, context));
  }
  if (/^(?:if|iif)$/.test(name) && args.length === 3)
    return (
      (below(args[1]) && !tells(args[0], column, context) && !asksSign(args[0], args[1], column, context)) ||
      below(args[2]) ||
      choosesAgain([{ when: args[0], result: args[1] }], args[2], column, context)
    );
  if (name === "decode" && args.length > 2)
    return (
      args.slice(1).some((arg, i) => (i % 2 === 1 || i === args.length - 2) && below(arg)) ||
      decodesOn(args, column, context)
    );
  // date(day, '+1 year') (sqlite)
  if (/^(?:date|time|datetime|julianday)$/.test(name) && carried(args[0]))
    return args.slice(1).some((arg) => /^\s*[-+\d]/.test(textOf(arg) ?? ""));
  const [first] = args;
  return (carried(first) && cutsAgain(name, args, column, context)) || (first !== undefined && below(first));
}

/** Whether a function of texts, applied to the column, changes its own result once more. */
function cutsAgain(name: string, [, ...rest]: readonly Expr[], column: string, context: AssigningTree): boolean {
  const [from, length, by] = rest;
  const reckons = (expr: Expr | undefined): boolean => expr !== undefined && reckonsWith(expr, column, context);
  switch (name) {
    case "substr":
    case "substring":
    case "mid": {
      const start = from ? constant(from) : null;
      return start?.type === "number" ? start.value > 1 : reckons(from) || reckons(length);
    }
    case "left":
    case "right":
    case "lpad":
    case "rpad":
      return reckons(from);
    case "stuff":
    case "insert": {
      const [taken, put] = [length ? constant(length) : null, by ? textOf(by) : null];
      return taken?.type === "number" && put !== null && taken.value !== put.length;
    }
    case "replace": {
      const [sought, put] = [from && textOf(from), length && textOf(length)];
      return !!sought && !!put && put !== sought && put.includes(sought);
    }
    default:
      return false;
  }
}

function operatorGoesOn(
  value: Binary,
  column: string,
  context: AssigningTree,
  below: (expr: Expr) => boolean,
): boolean {
  // A mask gives the same when it is applied again; in Jet & puts texts together.
  const operators = context.dialect.engine.ampersandSkipsNull ? /^(?:[-+*/%^&]|\|\|)$/ : /^(?:[-+*/%^#]|\|\||<<|>>)$/;
  if (!operators.test(value.op)) return false;
  const sides = [value.left, value.right];
  // With a NULL nothing is left of the old value, or (Oracle) all of it.
  if (sides.some((side) => constant(side)?.type === "null")) return false;
  if (isNeutral(value)) return sides.some(below);
  // What is left of a remainder is left of it again.
  if (value.op === "%" && constant(value.right)) return below(value.left);
  if (settlesJson(value, column, context) || roundsTo(value, column, context)) return false;
  if (/^(?:\+|&|\|\|)$/.test(value.op) && isPutTogether(operandsOf(value), column, context)) return false;
  return sides.some((side) => carries(side, column, context));
}

/** What an expression is the opposite of: -n, n * -1, 0 - n; null: of nothing. */
function negatedIn(expr: Expr): Expr | null {
  if (expr.kind === "unary") return expr.op === "-" && !constant(expr.operand) ? expr.operand : null;
  if (expr.kind !== "binary") return null;
  const { op, left, right } = expr;
  const is = (side: Expr, value: number): boolean => {
    const given = constant(side);
    return given?.type === "number" && given.value === value;
  };
  if ((op === "*" || op === "/") && is(right, -1)) return left;
  return (op === "*" && is(left, -1)) || (op === "-" && is(left, 0)) ? right : null;
}

/** Whether the opposite of a value is another one at each run: not that of ABS(n), nor the opposite of an opposite. */
function turnsAgain(expr: Expr, column: string, context: AssigningTree, below: (expr: Expr) => boolean): boolean {
  const twice = negatedIn(expr);
  if (twice) return below(twice);
  if (expr.kind === "call" && calledName(expr).toLowerCase() === "abs") return below(expr);
  return carries(expr, column, context);
}

/** CASE WHEN n < 0 THEN -n: what has been turned over has the other sign. */
function asksSign(when: Expr, result: Expr, column: string, context: AssigningTree): boolean {
  if (negatedIn(result) === null || when.kind !== "binary" || !/^[<>]=?$/.test(when.op)) return false;
  const [left, right] = [constant(when.left), constant(when.right)];
  const zero = [left, right].some((side) => side?.type === "number" && side.value === 0);
  return zero && mentions(when, column, context);
}

/** FLOOR(n / 10) * 10: what is rounded so stays as it is. */
function roundsTo({ op, left, right }: Binary, column: string, context: AssigningTree): boolean {
  if (op !== "*" || left.kind !== "call" || !/^(?:round|floor|ceil|ceiling|trunc|int)$/i.test(calledName(left)))
    return false;
  const [inner] = left.args;
  const [by, times] = [inner?.kind === "binary" && inner.op === "/" ? constant(inner.right) : null, constant(right)];
  return !!by && !!times && sameValue(by, times) && inner?.kind === "binary" && isOwn(inner.left, column, context);
}

/** Whether the value of the column goes into that of an expression, and not only into what it asks. */
function carries(expr: Expr, column: string, context: AssigningTree, depth = 0): boolean {
  if (depth > DEEPEST) return false;
  const below = (one: Expr): boolean => carries(one, column, context, depth + 1);
  switch (expr.kind) {
    case "cast":
    case "unary":
      return below(expr.operand);
    case "binary":
      return /^(?:[-+*/%^#&|]|\|\|)$/.test(expr.op) && (below(expr.left) || below(expr.right));
    case "case":
      return expr.whens.some(({ result }) => below(result)) || (expr.otherwise !== null && below(expr.otherwise));
    case "call":
      return (/^(?:if|iif)$/i.test(calledName(expr)) ? expr.args.slice(1) : expr.args).some(below);
    default:
      return isOwn(expr, column, context);
  }
}

/** UPPER(LEFT(name, 1)) || SUBSTR(name, 2): pieces of the column alone, put together again. */
function isPutTogether(pieces: readonly Expr[], column: string, context: AssigningTree): boolean {
  return pieces.every((piece) => piece.kind === "call" && piece.args.length > 0 && mentions(piece, column, context));
}

/** What one operator puts together, from left to right. */
function operandsOf(value: Binary): Expr[] {
  const operands: Expr[] = [];
  let left: Expr = value;
  while (left.kind === "binary" && left.op === value.op) {
    operands.push(left.right);
    left = left.left;
  }
  return [...operands, left];
}

/** Whether a condition asks for the column itself, other than by its size: what has been changed no longer meets it. */
function tells(when: Expr, column: string, context: AssigningTree): boolean {
  return !(when.kind === "binary" && /^[<>]/.test(when.op)) && mentions(when, column, context);
}

/** CASE state WHEN 1 THEN 2 WHEN 2 THEN 3: a value that it gives, it changes again. */
function mapsOn({ operand, whens, otherwise }: Case, column: string, context: AssigningTree): boolean {
  const pairs: [Expr, Expr][] = [];
  for (const { when, result } of whens) {
    const [side, value] = operand ? [operand, when] : equalTo(when);
    if (!side || !value || !standsFor(side, column, context))
      return operand === null && choosesAgain(whens, otherwise, column, context);
    pairs.push([value, result]);
  }
  return changesAgain(pairs, otherwise);
}

/** The results of this many branches are asked for again. */
const MOST_BRANCHES = 40;

/** CASE WHEN active THEN 0 ELSE 1 END, IF(active, 0, 1): a result for which another one is chosen. */
function choosesAgain(whens: Case["whens"], otherwise: Expr | null, column: string, context: AssigningTree): boolean {
  if (whens.length > MOST_BRANCHES) return false;
  const nothing: Constant = { type: "null" };
  const results = [...whens.map(({ result }) => constant(result)), otherwise ? constant(otherwise) : nothing];
  return results.some((value) => {
    if (!value) return false;
    const given: Given = (expr) => (isOwn(expr, column, context) ? value : null);
    for (const { when, result } of whens) {
      const outcomes = outcomesFor(when, given);
      if (outcomes === TRUE) return isAnother(result, value, column, context);
      if (outcomes & TRUE) return false;
    }
    return otherwise ? isAnother(otherwise, value, column, context) : value.type !== "null";
  });
}

/** Whether a result that does not keep the column's value is another one. */
function isAnother(result: Expr, value: Constant, column: string, context: AssigningTree): boolean {
  const next = constant(result);
  return next ? !sameValue(next, value) : !mentions(result, column, context);
}

/** The column, or COALESCE, LOWER and the like of it. */
function standsFor(expr: Expr, column: string, context: AssigningTree): boolean {
  if (expr.kind !== "call") return isOwn(expr, column, context);
  const [first] = expr.args;
  return first !== undefined && PASSES_ON.test(calledName(expr).toLowerCase()) && isOwn(first, column, context);
}

function equalTo(when: Expr): [Expr | null, Expr | null] {
  if (when.kind !== "binary" || when.op !== "=") return [null, null];
  return constant(when.right) ? [when.left, when.right] : [when.right, when.left];
}

/** DECODE(state, 1, 2, 2, 3, state) (plsql). */
function decodesOn([operand, ...rest]: readonly Expr[], column: string, context: AssigningTree): boolean {
  if (!operand || !standsFor(operand, column, context)) return false;
  const pairs: [Expr, Expr][] = [];
  for (let i = 0; i + 1 < rest.length; i += 2) pairs.push([rest[i], rest[i + 1]]);
  return changesAgain(pairs, rest.length % 2 > 0 ? rest[rest.length - 1] : null);
}

/** Whether a map of constants gives a value that it maps to another one. */
function changesAgain(pairs: readonly [Expr, Expr][], otherwise: Expr | null): boolean {
  const known = new Map<string, ConstantValue>();
  for (const [when, result] of pairs) {
    const [from, to] = [constant(when), constant(result)];
    // The first branch for a value is the one that counts.
    if (from && to && !known.has(valueKey(from))) known.set(valueKey(from), to);
  }
  const rest = otherwise ? constant(otherwise) : null;
  for (const to of known.values()) {
    // A value that no branch names goes to ELSE.
    const again = known.get(valueKey(to)) ?? rest;
    if (again && !sameValue(again, to)) return true;
  }
  return false;
}

/** Equal for values that a comparison takes for the same. */
function valueKey(value: ConstantValue): string {
  if (value.type === "null") return "";
  return value.type === "string" ? `'${value.value}` : String(Number(value.value));
}

function textOf(expr: Expr): string | null {
  const given = constant(expr);
  return given?.type === "string" ? given.value : null;
}

/** Whether the column stands in an expression. */
export function mentions(expr: Expr, column: string, context: AssigningTree): boolean {
  let found = isOwn(expr, column, context);
  walk(expr, (node) => {
    if (node.kind === "query") return false;
    if (node.kind === "column" && isOwn(node, column, context)) found = true;
    return !found;
  });
  return found;
}

/** JSON from which a key is taken, or into which an object is merged: a second time nothing is left to do (postgresql). */
function settlesJson({ op, left, right }: Binary, column: string, context: AssigningTree): boolean {
  const { names, changes } = context;
  const used = usedColumn(left, names);
  const type = used?.offered?.column?.type ?? columnLike(changes[0]?.change.table, column)?.type ?? "";
  const object = right.kind === "call" && /^jsonb?_build_object$/i.test(calledName(right));
  if (op === "||" && object) return !reckonsWith(right, column, context);
  const other = constant(right.kind === "cast" ? right.operand : right);
  if (other?.type !== "string") return false;
  if (op === "||" && /^\s*\{/.test(other.value)) return type === "" || /^jsonb?$/.test(type);
  return op === "-" && (type === "" || type === "jsonb" || type === "hstore");
}

/** Whether an expression is that column of the row that is changed, and not the like of it in another table. */
export function isOwn(expr: Expr, column: string, { names, changes, tree, dialect }: AssigningTree): boolean {
  const used = usedColumn(expr, names);
  const ref = plainColumn(expr);
  if (used?.name !== column || !ref) return false;
  const target = changes[0]?.change.relation?.name ?? (tree.kind === "insert" ? insertTarget(tree, dialect) : null);
  if (used.relation) return used.relation.name === target;
  // EXCLUDED is the new row, and so is the alias of VALUES … AS new.
  return ref.path.length < 2 || target === null || foldName(ref.path[ref.path.length - 2], dialect) === target;
}

function insertTarget({ target }: InsertStatement, dialect: Dialect): string | null {
  if (target.kind !== "table") return null;
  return foldName(target.alias ?? target.name.parts[target.name.parts.length - 1], dialect);
}

/** Whether something is added to, or taken from, a part of the column. */
function reckonsWith(expr: Expr, column: string, context: AssigningTree): boolean {
  let found = false;
  walk(expr, (node) => {
    if (node.kind === "binary" && /^[-+*/]$/.test(node.op)) found ||= mentions(node, column, context);
    return !found;
  });
  return found;
}

/** `price * 1`, `price + 0`: the value stays as it is. */
function isNeutral({ op, left, right }: Binary): boolean {
  const [a, b] = [constant(left), constant(right)];
  const is = (side: typeof a, value: number): boolean => side?.type === "number" && side.value === value;
  if (op === "+" || op === "-") return is(b, 0) || (op === "+" && is(a, 0));
  return (op === "*" || op === "/") && (is(b, 1) || (op === "*" && is(a, 1)));
}
