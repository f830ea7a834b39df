import type { Column } from "../../catalog/model.ts";
import type {
  Between,
  ColumnRef,
  CommonTable,
  Expr,
  In,
  Like,
  Logic,
  Name,
  Query,
  Source,
} from "../../sql/nodes/tree.ts";
import type { Names, Relation, Scope } from "../names/scope.ts";
import { withoutNot } from "./negation.ts";

/**
 * The outcomes that a condition can have over the rows it is asked of, as a set of bits. A filter
 * keeps a row only when its condition is true; false and NULL both reject it.
 */
export const TRUE = 1;
export const FALSE = 2;
export const NULL = 4;
export const ANY = 7;

export type Outcomes = number;

/** What a verdict on a condition rests on, for the reader of a finding. */
export interface Reason {
  expr: Expr;
  text: string;
  /** A name of a subquery that means the outer row, which is told by a hazard of its own. */
  slipped?: boolean;
}

/** A value that does not depend on the row. */
type Constant =
  | { type: "number"; value: number }
  | { type: "string"; value: string }
  | { type: "boolean"; value: boolean }
  | { type: "null" };

/** A column, and what is declared of it. */
interface Fact {
  qualifier: string;
  name: string;
  column: Column | undefined;
}

/** Judges conditions: which outcomes they can have, by three-valued logic. */
export class Truth {
  readonly #names: Names;
  readonly #scope: Scope;
  /** The target, whose required columns are never NULL in the rows that are asked. */
  readonly #target: Relation | null;
  /** What a comparison with NULL gives: a filter rejects NULL as it does false. */
  readonly #withNull: Outcomes;
  readonly reasons: Reason[] = [];

  constructor(names: Names, scope: Scope, target: Relation | null, withNull: Outcomes = NULL) {
    this.#withNull = withNull;
    this.#names = names;
    this.#scope = scope;
    this.#target = target;
  }

  /** The outcomes of a condition. */
  of(expr: Expr): Outcomes {
    switch (expr.kind) {
      case "logic":
        return this.#logic(expr);
      case "unary":
        if (expr.op === "not") return negated(this.of(expr.operand));
        return this.#truthiness(expr);
      case "binary":
        return this.#comparison(expr.left, expr.op, expr.right, expr);
      case "is":
        return this.#is(expr);
      case "between":
        return this.#between(expr);
      case "in":
        return this.#in(expr);
      case "like":
        return this.#like(expr);
      case "exists":
        return this.#exists(expr, expr.query);
      case "literal":
      case "column":
        return this.#truthiness(expr);
      case "case": {
        if (expr.operand) return ANY;
        let outcomes = expr.otherwise ? this.of(expr.otherwise) : NULL;
        for (const { result } of expr.whens) outcomes |= this.of(result);
        return outcomes;
      }
      case "call": {
        const name = expr.name.parts[expr.name.parts.length - 1].text.toLowerCase();
        // COALESCE(condition, TRUE) takes the NULLs away.
        if ((name === "coalesce" || name === "ifnull" || name === "nvl") && expr.args.length === 2) {
          const first = this.of(expr.args[0]);
          return first & NULL ? (first & ~NULL) | this.of(expr.args[1]) : first;
        }
        return ANY;
      }
      default:
        return ANY;
    }
  }

  #because(expr: Expr, text: string, slipped = false): void {
    // A condition of thousands of parts is not explained part by part.
    if (this.reasons.length < 6 && !this.reasons.some((reason) => reason.expr === expr))
      this.reasons.push(slipped ? { expr, text, slipped } : { expr, text });
  }

  #logic(expr: Logic): Outcomes {
    if (expr.op === "xor") return ANY;
    if (expr.op === "and") {
      let outcomes = TRUE;
      for (const item of expr.items) outcomes = and(outcomes, this.of(item));
      if (outcomes & TRUE && contradicts(expr.items, this)) {
        this.#because(expr, "no row can meet both conditions at once");
        return outcomes & ~TRUE;
      }
      return outcomes;
    }
    let outcomes = FALSE;
    for (const item of expr.items) outcomes = or(outcomes, this.of(item));
    if (outcomes & FALSE) {
      const pair = covers(expr.items, this);
      if (pair) {
        this.#because(expr, "one of the two conditions is met by every value");
        return TRUE | (pair.nullable ? NULL : 0);
      }
    }
    return outcomes;
  }

  /** A column's facts, where it is one of the target and the target is not filled with NULLs by a join. */
  fact(expr: Expr): Fact | null {
    const ref = plainColumn(expr);
    if (!ref) return null;
    const name = this.#names.fold(ref.path[ref.path.length - 1]);
    const found = this.#names.resolve(ref, this.#scope);
    const relation = found?.relation ?? null;
    const column = relation && relation === this.#target ? this.#names.column(relation, name) : undefined;
    const qualifier = relation
      ? relation.name
      : ref.path.length > 1
        ? this.#names.fold(ref.path[ref.path.length - 2])
        : "";
    return { qualifier, name, column };
  }

  #nullable(expr: Expr): boolean {
    const fact = this.fact(expr);
    return !fact?.column?.required;
  }

  #truthiness(expr: Expr): Outcomes {
    const value = constant(expr);
    if (!value && this.#names.dialect.engine.booleansAreValues && this.#isNumbered(expr)) {
      this.#because(expr, "every number but 0 is true, and the key is numbered from 1 on");
      return TRUE;
    }
    if (!value) return ANY;
    switch (value.type) {
      case "null":
        this.#because(expr, "NULL is never true");
        return NULL;
      case "boolean":
        return value.value ? TRUE : FALSE;
      case "number":
        return value.value !== 0 ? TRUE : FALSE;
      case "string": {
        // As a condition a string is read as a boolean (postgresql) or a number (mysql, sqlite).
        const text = value.value.trim().toLowerCase();
        if (/^(?:t|true|y|yes|on|1)$/.test(text)) return TRUE;
        if (/^(?:f|false|n|no|off|0)$/.test(text)) return FALSE;
        return ANY;
      }
    }
  }

  #comparison(left: Expr, op: string, right: Expr, whole: Expr): Outcomes {
    if (!isComparison(op)) return op === "||" ? ANY : this.#truthinessOfBinary(whole);
    const a = this.#constant(left);
    const b = this.#constant(right);
    const counted = this.#rowNumber(left, op, right, whole);
    if (counted !== null) return counted;
    if (op === "<=>") {
      if (a && b)
        return a.type === "null" || b.type === "null" ? bool(a.type === b.type) : (compared(a, "=", b) ?? ANY);
      return TRUE | FALSE;
    }
    if (a?.type === "null" || b?.type === "null") {
      this.#because(
        whole,
        isEmptyText(left) || isEmptyText(right)
          ? "the empty text is NULL here, and a comparison with NULL is never true; IS NULL asks for it"
          : "a comparison with NULL is never true; IS NULL asks for it",
      );
      return this.#withNull;
    }
    if (this.#isNumberedFromOne(left, op, b) || this.#isNumberedFromOne(right, MIRRORED[op] ?? op, a)) {
      this.#because(whole, "the key is numbered from 1 on, so this is always true");
      return TRUE;
    }
    if (op === "=" && (this.#isNoTruth(left, b) || this.#isNoTruth(right, a))) {
      this.#because(whole, "True is -1 here, and a yes/no column holds nothing but -1 and 0");
      return FALSE;
    }
    if (a && b) {
      const outcome = compared(a, op, b);
      if (outcome !== null)
        this.#because(whole, `compares two constants and is ${outcome === TRUE ? "always true" : "never true"}`);
      return outcome ?? ANY;
    }
    if (!a && !b && sameExpr(left, right, this)) {
      const nullable = this.#nullable(left);
      const equal = op === "=" || op === "<=" || op === ">=";
      this.#because(
        whole,
        equal
          ? "compares a column with itself and is true wherever it is not NULL"
          : "compares a column with itself and is never true",
      );
      return (equal ? TRUE : FALSE) | (nullable ? NULL : 0);
    }
    return ANY;
  }

  /** A constant; the empty text is NULL where the engine takes it so (Oracle). */
  #constant(expr: Expr): Constant | null {
    const value = constant(expr);
    return value?.type === "string" && value.value === "" && this.#names.dialect.engine.emptyIsNull
      ? { type: "null" }
      : value;
  }

  /** ROWNUM counts the rows that are met, the first one as 1: a later one is never reached without those before it. */
  #rowNumber(left: Expr, op: string, right: Expr, whole: Expr): Outcomes | null {
    if (!this.#names.dialect.engine.rownum) return null;
    const flipped = isRownum(right);
    if (!flipped && !isRownum(left)) return null;
    const number = constant(flipped ? left : right);
    if (number?.type !== "number") return null;
    const how = flipped ? (MIRRORED[op] ?? op) : op;
    const { value } = number;
    const never =
      (how === "=" && value !== 1) ||
      (how === ">" && value >= 1) ||
      (how === ">=" && value > 1) ||
      (how === "<" && value <= 1);
    if (!never) return how === ">" || how === ">=" ? TRUE : ANY;
    this.#because(whole, "ROWNUM counts the rows that are met: a first row is never met, and so none after it");
    return FALSE;
  }

  /** A yes/no column that is compared with another number than -1 and 0. */
  #isNoTruth(expr: Expr, value: Constant | null): boolean {
    if (!this.#names.dialect.engine.trueIsMinusOne || value?.type !== "number") return false;
    const type = this.fact(expr)?.column?.type ?? "";
    return /^(?:yesno|bit|logical|logical1|boolean|bool)$/i.test(type) && value.value !== -1 && value.value !== 0;
  }

  /** `id > 0`, `id >= 1`, `id <> 0` of a key that the engine numbers. */
  #isNumberedFromOne(expr: Expr, op: string, bound: Constant | null): boolean {
    if (bound?.type !== "number" || !this.#isNumbered(expr)) return false;
    const { value } = bound;
    return (op === ">" && value <= 0) || (op === ">=" && value <= 1) || ((op === "<>" || op === "!=") && value === 0);
  }

  /** A key of one column that the engine numbers. */
  #isNumbered(expr: Expr): boolean {
    const column = this.fact(expr)?.column;
    const table = this.#target?.table;
    const key = table?.primaryKey?.columns;
    if (!column || !key || key.length !== 1 || key[0] !== column.name) return false;
    const { engine } = this.#names.dialect;
    const rowid = engine.rowidKey && column.type === "integer";
    return rowid || column.identity !== null || /^nextval\s*\(/i.test(column.default ?? "");
  }

  #truthinessOfBinary(expr: Expr): Outcomes {
    const value = constant(expr);
    return value?.type === "number" ? (value.value !== 0 ? TRUE : FALSE) : ANY;
  }

  #is(expr: Expr & { kind: "is" }): Outcomes {
    const flip = (outcome: Outcomes): Outcomes => (expr.negated ? negated(outcome) : outcome);
    if (expr.test === "null") {
      const value = constant(expr.operand);
      if (value) return flip(bool(value.type === "null"));
      const fact = this.fact(expr.operand);
      if (fact?.column?.required) {
        this.#because(
          expr,
          expr.negated
            ? `\`${fact.column.name}\` is NOT NULL in the catalog, so this is always true`
            : `\`${fact.column.name}\` is NOT NULL in the catalog, so this is never true`,
        );
        return flip(FALSE);
      }
      return TRUE | FALSE;
    }
    if (expr.test === "distinct" && expr.right) {
      if (sameExpr(expr.operand, expr.right, this)) {
        this.#because(expr, "compares a column with itself");
        return flip(FALSE);
      }
      return TRUE | FALSE;
    }
    if (expr.test === "true" || expr.test === "false" || expr.test === "unknown") {
      const inner = this.of(expr.operand);
      const wanted = expr.test === "true" ? TRUE : expr.test === "false" ? FALSE : NULL;
      return flip((inner & wanted ? TRUE : 0) | (inner & ~wanted & ANY ? FALSE : 0));
    }
    return TRUE | FALSE;
  }

  #between(expr: Between): Outcomes {
    const low = constant(expr.low);
    const high = constant(expr.high);
    if (low?.type === "null" || high?.type === "null") {
      this.#because(expr, "a range that ends at NULL is never true");
      return expr.negated ? ANY : FALSE | NULL;
    }
    if (low && high && compared(low, ">", high) === TRUE) {
      this.#because(expr, "the range ends before it begins, so no value lies in it");
      return (expr.negated ? TRUE : FALSE) | (this.#nullable(expr.operand) ? NULL : 0);
    }
    return ANY;
  }

  #in(expr: In): Outcomes {
    if (expr.items) {
      const values = expr.items.map(constant);
      const operand = constant(expr.operand);
      if (expr.items.length === 0) return expr.negated ? TRUE : FALSE;
      if (expr.items.length === 1 && !expr.negated && isPlainConstant(expr.items[0]))
        return this.#comparison(expr.operand, "=", expr.items[0], expr);
      const holdsNull = values.some((value) => value?.type === "null");
      if (operand && operand.type !== "null" && values.every((value) => value !== null)) {
        const hit = values.some((value) => value && value.type !== "null" && compared(operand, "=", value) === TRUE);
        if (hit || !holdsNull) return bool(hit !== expr.negated);
      }
      if (holdsNull && expr.negated) {
        this.#because(expr, "the list holds NULL, and NOT IN a list with NULL is never true");
        return FALSE | NULL;
      }
      if (holdsNull && values.length === 1) {
        this.#because(expr, "IN (NULL) is never true; IS NULL asks for it");
        return NULL;
      }
      if (expr.items.some((item) => sameExpr(item, expr.operand, this))) {
        this.#because(expr, "the list holds the column itself");
        return (expr.negated ? FALSE : TRUE) | (this.#nullable(expr.operand) ? NULL : 0);
      }
      return ANY;
    }
    if (expr.query && !expr.negated && this.#slips(expr.operand, expr.query)) {
      this.#because(expr, "the subquery gives back the outer row's own column: it keeps all rows or none", true);
      return TRUE | (this.#nullable(expr.operand) ? NULL : 0);
    }
    // A key that is looked for in its own table, unfiltered, is always found.
    const own = expr.query && this.#selectsOwnColumn(expr.operand, expr.query);
    if (own) {
      this.#because(expr, `every value of \`${own}\` is found in its own table`);
      return (expr.negated ? FALSE : TRUE) | (this.#nullable(expr.operand) ? NULL : 0);
    }
    return ANY;
  }

  /** `x IN (SELECT x FROM other)` where no table of the subquery has an `x`: the outer row's own. */
  #slips(operand: Expr, query: Query): boolean {
    const { body } = query;
    const asked = plainColumn(operand);
    if (!asked || body.kind !== "select" || body.items.length !== 1 || body.from.length === 0) return false;
    const selected = plainColumn(body.items[0].expr);
    if (selected?.path.length !== 1) return false;
    const name = this.#names.fold(selected.path[0]);
    if (name !== this.#names.fold(asked.path[asked.path.length - 1])) return false;
    if (!this.fact(operand)?.column) return false;
    // A tie to the outer row makes it another question.
    const inner = body.from.every((source) => {
      if (source.kind !== "table") return false;
      const relation = this.#names.relation(source);
      return relation.known && !this.#names.column(relation, name);
    });
    return inner && !(body.where && this.#names.correlated({ ...query, body: { ...body, items: [] } }));
  }

  /** The column, when a query is `SELECT column FROM its own table` with nothing that takes rows away. */
  #selectsOwnColumn(operand: Expr, query: Query): string | null {
    const { body } = query;
    const target = this.#target;
    if (target?.source.kind !== "table" || body.kind !== "select" || query.limit || query.with) return null;
    if (
      body.where ||
      body.having ||
      body.groupBy.length > 0 ||
      body.top ||
      body.items.length !== 1 ||
      body.from.length !== 1
    )
      return null;
    const fold = (part: { text: string; quoted: boolean }): string => this.#names.fold(part);
    const selected = plainColumn(body.items[0].expr);
    const asked = plainColumn(operand);
    if (!selected || !asked) return null;
    const name = fold(asked.path[asked.path.length - 1]);
    if (!this.#givesOwn(body.from[0], fold(selected.path[selected.path.length - 1]), name, 0)) return null;
    return name;
  }

  /** Whether a source gives, under a name, every value of a column of the target: the table itself, or a query that takes none away. */
  #givesOwn(source: Source, given: string, column: string, depth: number): boolean {
    const target = this.#target?.source;
    if (target?.kind !== "table" || depth > 5) return false;
    const common = this.#names.common(source);
    if (source.kind === "table" && !common) return given === column && this.#isSameTable(source.name, target.name);
    const query = common ? common.body : source.kind === "derived" ? source.query : null;
    if (query?.kind !== "query" || query.limit || query.with || namesColumns(common ?? source)) return false;
    const { body } = query;
    if (body.kind !== "select" || body.where || body.having || body.top || body.from.length !== 1) return false;
    if (body.groupBy.length > 0) return false;
    for (const { expr, alias } of body.items) {
      if (expr.kind === "star" && this.#givesOwn(body.from[0], given, column, depth + 1)) return true;
      const ref = plainColumn(expr);
      if (!ref || this.#names.fold(alias ?? ref.path[ref.path.length - 1]) !== given) continue;
      return this.#givesOwn(body.from[0], this.#names.fold(ref.path[ref.path.length - 1]), column, depth + 1);
    }
    return false;
  }

  /** Whether two names mean one table; a schema that only one of them gives may be the same. */
  #isSameTable(a: Name, b: Name): boolean {
    const { catalog } = this.#names;
    const [one, other] = [catalog?.resolve(a), catalog?.resolve(b)];
    if (one || other) return one === other;
    const fold = ({ parts }: Name, back: number): string | null =>
      parts.length < back ? null : this.#names.fold(parts[parts.length - back]);
    if (fold(a, 1) !== fold(b, 1)) return false;
    const [schema, otherSchema] = [fold(a, 2), fold(b, 2)];
    return schema === null || otherSchema === null || schema === otherSchema;
  }

  #like(expr: Like): Outcomes {
    const pattern = constant(expr.pattern);
    if (pattern?.type === "null") return NULL;
    const all =
      expr.op === "glob" ? /^\*+$/ : expr.op === "regexp" || expr.op === "rlike" ? /^(?:\^?\.\*\$?)$/ : /^%+$/;
    if (pattern?.type === "string" && all.test(pattern.value) && !constant(expr.operand)) {
      this.#because(expr, "the pattern matches every value");
      return (expr.negated ? FALSE : TRUE) | (this.#nullable(expr.operand) ? NULL : 0);
    }
    return ANY;
  }

  #exists(expr: Expr, query: Query): Outcomes {
    if (this.#names.correlated(query)) return TRUE | FALSE;
    const { body } = query;
    if (body.kind === "select" && body.from.length === 0 && !body.where) {
      this.#because(expr, "the subquery always returns a row");
      return TRUE;
    }
    this.#because(expr, "the subquery has no tie to the row being changed: it keeps all rows or none");
    return TRUE;
  }
}

function bool(value: boolean): Outcomes {
  return value ? TRUE : FALSE;
}

function negated(outcomes: Outcomes): Outcomes {
  return (outcomes & TRUE ? FALSE : 0) | (outcomes & FALSE ? TRUE : 0) | (outcomes & NULL);
}

function and(a: Outcomes, b: Outcomes): Outcomes {
  let result = 0;
  if (a & TRUE && b & TRUE) result |= TRUE;
  if (a & FALSE || b & FALSE) result |= FALSE;
  if ((a & NULL && b & (TRUE | NULL)) || (b & NULL && a & (TRUE | NULL))) result |= NULL;
  return result;
}

function or(a: Outcomes, b: Outcomes): Outcomes {
  return negated(and(negated(a), negated(b)));
}

function isComparison(op: string): boolean {
  return (
    op === "=" || op === "<>" || op === "!=" || op === "<" || op === ">" || op === "<=" || op === ">=" || op === "<=>"
  );
}

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

/** Whether a source gives its columns other names: `AS y (a, b)`. */
function namesColumns(source: CommonTable | Source): boolean {
  return "columns" in source && source.columns !== null && source.columns.length > 0;
}

function isPlainConstant(expr: Expr): boolean {
  const type = constant(expr)?.type;
  return type === "number" || type === "string";
}

function isRownum(expr: Expr): boolean {
  return expr.kind === "column" && expr.path.length === 1 && /^rownum$/i.test(expr.path[0].text);
}

function isEmptyText(expr: Expr): boolean {
  return expr.kind === "literal" && expr.type === "string" && expr.value === "";
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
function compared(a: Constant, op: string, b: Constant): Outcomes | null {
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

function sameExpr(a: Expr, b: Expr, truth: Truth): boolean {
  const left = truth.fact(a);
  const right = truth.fact(b);
  return left !== null && right !== null && left.name === right.name && left.qualifier === right.qualifier;
}

/** What a condition on one column admits, against constants: `fee > 10`, `status NOT IN ('left')`. */
interface Bound {
  qualifier: string;
  name: string;
  /** `values` admits these and `others` all but these; a range is one of numbers. */
  is: "values" | "others" | "range" | "null" | "not null";
  values: readonly Constant[];
  low: End | null;
  high: End | null;
  nullable: boolean;
}

interface End {
  value: number;
  /** The end itself is left out. */
  open: boolean;
}

const MIRRORED: Record<string, string> = {
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

function boundOf(condition: Expr, truth: Truth): Bound | null {
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
      const right = constant(expr.right);
      const value = right ?? constant(expr.left);
      if (!value) return null;
      const column = right ? expr.left : expr.right;
      const op = right ? MIRRORED[MIRRORED[expr.op]] : MIRRORED[expr.op];
      if (op === "=" || op === "<>") return on(column, op === "=" ? "values" : "others", [value], null, null);
      if (value.type !== "number") return null;
      const end = { value: value.value, open: op === "<" || op === ">" };
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
      const low = constant(expr.low);
      const high = constant(expr.high);
      if (low?.type !== "number" || high?.type !== "number") return null;
      const end = (value: number): End => ({ value, open: false });
      return on(expr.operand, "range", NO_VALUES, end(low.value), end(high.value));
    }
    default:
      return null;
  }
}

/** Whether two conditions of an AND rule each other out. */
function contradicts(items: readonly Expr[], truth: Truth): boolean {
  return pairOf(items, truth, excludes) !== null;
}

/** Of this many conditions any two are compared; of more only those on one column, and a handful of those. */
const FEW = 12;

/** The later of two conditions on one column of which either `holds` of the other; null where there are none. */
function pairOf(items: readonly Expr[], truth: Truth, holds: (one: Bound, other: Bound) => boolean): Bound | null {
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
        if (one.type !== "number") return false;
        const point = { value: one.value, open: false };
        return endsBefore(b.high, point) || endsBefore(point, b.low);
      });
    default:
      return false;
  }
}

/** Whether what ends at `high` lies wholly before what begins at `low`. */
function endsBefore(high: End | null, low: End | null): boolean {
  if (!high || !low) return false;
  return high.value < low.value || (high.value === low.value && (high.open || low.open));
}

/** Two conditions of an OR that between them are met by every value. */
function covers(items: readonly Expr[], truth: Truth): { nullable: boolean } | null {
  const bound = pairOf(items, truth, complete);
  return bound && { nullable: bound.is !== "null" && bound.is !== "not null" && bound.nullable };
}

/** Every value meets one of the two; asked in both orders. */
function complete(a: Bound, b: Bound): boolean {
  if (a.is === "null") return b.is === "not null";
  if (a.is === "range" && b.is === "range") {
    if (a.low || b.high || !a.high || !b.low) return false;
    return a.high.value > b.low.value || (a.high.value === b.low.value && !(a.high.open && b.low.open));
  }
  if (b.is !== "others") return false;
  if (a.is === "values") return b.values.every((one) => a.values.some((other) => compared(one, "=", other) === TRUE));
  if (a.is === "others") return a.values.every((one) => b.values.every((other) => compared(one, "=", other) === FALSE));
  return false;
}
