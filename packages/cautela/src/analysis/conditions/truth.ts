import { isNumbered } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import type {
  Between,
  CommonTable,
  Expr,
  In,
  Like,
  Logic,
  Name,
  Quantified,
  Query,
  Source,
} from "../../sql/nodes/tree.ts";
import type { Names, Relation, Scope } from "../names/scope.ts";
import { absentRow, contradicts, covers, type Fact, holdsFromOne, isComparison, MIRRORED, pointOf } from "./bounds.ts";
import { type Constant, calledName, compared, constant, isPlainConstant, plainColumn, standsIn } from "./constants.ts";
import { ANY, and, bool, FALSE, NULL, negated, type Outcomes, or, TRUE } from "./outcomes.ts";
import { likePrefix, tooLongFor } from "./too-long.ts";

/** What a verdict on a condition rests on, for the reader of a finding. */
export interface Reason {
  expr: Expr;
  text: string;
  /** A name of a subquery that means the outer row, which is told by a hazard of its own. */
  slipped?: boolean;
}

/** Judges conditions: which outcomes they can have, by three-valued logic. */
export class Truth {
  readonly #names: Names;
  readonly #scope: Scope;
  /** The target, whose required columns are never NULL in the rows that are asked. */
  readonly #target: Relation | null;
  /** What a comparison with NULL gives: a filter rejects NULL as it does false. */
  readonly #withNull: Outcomes;
  /** Whether a subquery of all the keys of a parent is taken for a filter; see `#selectsParents`. */
  readonly #asksParents: boolean;
  readonly reasons: Reason[] = [];

  constructor(names: Names, scope: Scope, target: Relation | null, withNull: Outcomes = NULL, asksParents = false) {
    this.#withNull = withNull;
    this.#asksParents = asksParents;
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
        // Nobody knows what a subquery without a tie finds: all rows or none, either way.
        if (expr.op === "not")
          return this.#isUntied(expr.operand) ? this.of(expr.operand) : negated(this.of(expr.operand));
        return this.#truthiness(expr);
      case "binary":
        return this.#comparison(expr.left, expr.op, expr.right, expr);
      case "is":
        return this.#is(expr);
      case "between":
        return this.#between(expr);
      case "in":
        return this.#in(expr);
      case "quantified":
        return this.#quantified(expr);
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
      const absent = outcomes & TRUE ? absentRow(expr.items, this) : null;
      if (absent) {
        this.#because(absent, "the row it asks about is missing, as the other condition says, so this is NULL");
        return outcomes & ~TRUE;
      }
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

  /** The other table whose column this is; `required`: only where the column is NULL in no row of it. */
  joined(expr: Expr, required = true): Relation | null {
    const ref = plainColumn(expr);
    const relation = ref ? (this.#names.resolve(ref, this.#scope)?.relation ?? null) : null;
    if (!ref || !relation || relation === this.#target) return null;
    if (!required) return relation;
    const name = this.#names.fold(ref.path[ref.path.length - 1]);
    const key = relation.table?.primaryKey?.columns.includes(name) ?? false;
    return key || this.#names.column(relation, name)?.required ? relation : null;
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
        // Where a condition must be a boolean the engine refuses it.
        if (!this.#names.dialect.engine.booleansAreValues) return ANY;
        return value.value !== 0 ? TRUE : FALSE;
      case "string": {
        // As a condition a string is read as a boolean (postgresql) or a number (mysql, sqlite).
        const text = value.value.trim().toLowerCase();
        if (/^(?:t|true|y|yes|on|1)$/.test(text)) return TRUE;
        if (/^(?:f|false|n|no|off|0)$/.test(text)) return FALSE;
        return this.#names.dialect.engine.booleansAreValues && /^[a-z]/.test(text) ? FALSE : ANY;
      }
    }
  }

  #comparison(left: Expr, op: string, right: Expr, whole: Expr): Outcomes {
    if (!isComparison(op)) return op === "||" ? ANY : this.#truthinessOfBinary(whole);
    const a = this.#constant(left);
    const b = this.#constant(right);
    const counted = this.#rowNumber(left, op, right, whole) ?? this.#emptyLength(left, op, right, whole);
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
    if (op === "=" && (this.#isTooLong(left, b, whole) || this.#isTooLong(right, a, whole))) return FALSE | NULL;
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
    if (!a && !b && isComputed(left) && sameShape(left, right, this, 0)) {
      const equal = op === "=" || op === "<=" || op === ">=";
      this.#because(
        whole,
        `compares an expression with itself and is ${equal ? "true wherever it is not NULL" : "never true"}`,
      );
      return (equal ? TRUE : FALSE) | (this.#neverNull(left) ? 0 : NULL);
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

  /** LENGTH(s) = 0: no text is empty where the empty text is NULL (Oracle, SQL Language Reference, "Nulls"). */
  #emptyLength(left: Expr, op: string, right: Expr, whole: Expr): Outcomes | null {
    if (!this.#names.dialect.engine.emptyIsNull || op !== "=") return null;
    const call = left.kind === "call" ? left : right.kind === "call" ? right : null;
    const number = constant(call === left ? right : left);
    if (call?.args.length !== 1 || number?.type !== "number" || number.value !== 0) return null;
    if (!/^length[bc24]?$/i.test(call.name.parts[call.name.parts.length - 1].text)) return null;
    this.#because(whole, "an empty text is NULL in Oracle, so no LENGTH is 0");
    return FALSE | NULL;
  }

  /** A yes/no column that is compared with another number than -1 and 0. */
  #isNoTruth(expr: Expr, value: Constant | null): boolean {
    if (!this.#names.dialect.engine.trueIsMinusOne || value?.type !== "number") return false;
    const type = this.fact(expr)?.column?.type ?? "";
    return /^(?:yesno|bit|logical|logical1|boolean|bool)$/i.test(type) && value.value !== -1 && value.value !== 0;
  }

  /** A text, or the beginning of one, that the column has no room for. */
  #isTooLong(expr: Expr, value: Constant | null, whole: Expr): boolean {
    const { dialect } = this.#names;
    const why = value?.type === "string" ? tooLongFor(value.value, this.fact(expr)?.column, dialect) : null;
    if (why) this.#because(whole, why);
    return why !== null;
  }

  /** `id > 0`, `id >= 1`, `id <> 0` of a key that the engine numbers. */
  #isNumberedFromOne(expr: Expr, op: string, bound: Constant | null): boolean {
    return bound?.type === "number" && holdsFromOne(op, bound.value) && this.#isNumbered(expr);
  }

  /** A key of one column that the engine numbers. */
  #isNumbered(expr: Expr): boolean {
    const column = this.fact(expr)?.column;
    return column !== undefined && column !== null && isNumbered(this.#target?.table, column, this.#names.dialect);
  }

  #truthinessOfBinary(expr: Expr): Outcomes {
    const value = constant(expr);
    return value?.type === "number" ? (value.value !== 0 ? TRUE : FALSE) : ANY;
  }

  /** Whether an expression has a value in every row: a constant, a required column, COALESCE with one of these. */
  #neverNull(expr: Expr): boolean {
    if (expr.kind === "cast") return this.#neverNull(expr.operand);
    const value = this.#constant(expr);
    if (value) return value.type !== "null";
    if (expr.kind !== "call") return this.fact(expr)?.column?.required ?? false;
    return standsIn(expr) && expr.args.some((one) => this.#neverNull(one));
  }

  #is(expr: Expr & { kind: "is" }): Outcomes {
    const flip = (outcome: Outcomes): Outcomes => (expr.negated ? negated(outcome) : outcome);
    if (expr.test === "null") {
      const value = constant(expr.operand);
      if (value) return flip(bool(value.type === "null"));
      if (expr.operand.kind === "call" && this.#neverNull(expr.operand)) {
        this.#because(
          expr,
          `\`${calledName(expr.operand)}\` has a value for every row, so this is ${expr.negated ? "always" : "never"} true`,
        );
        return flip(FALSE);
      }
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
    // Jet's BETWEEN is said to take its ends in either order.
    const [first, last] = [pointOf(expr.low, false), pointOf(expr.high, false)];
    const turned = first && last && first.scale === last.scale && first.value > last.value;
    if (turned || (low && high && compared(low, ">", high) === TRUE)) {
      this.#because(expr, "the range ends before it begins, so no value lies in it");
      return (expr.negated ? TRUE : FALSE) | (this.#nullable(expr.operand) ? NULL : 0);
    }
    return ANY;
  }

  /** `= ANY (SELECT …)` is IN, `<> ALL (SELECT …)` is NOT IN. */
  #quantified(expr: Quantified): Outcomes {
    const { op, quantifier, left, query, start, end } = expr;
    const any = op === "=" && quantifier === "any";
    if (!query || !(any || (/^(?:<>|!=)$/.test(op) && quantifier === "all"))) return ANY;
    return this.#in({ kind: "in", operand: left, negated: !any, items: null, query, start, end });
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
    const parent = expr.query && !expr.negated ? this.#selectsParents(expr.operand, expr.query) : null;
    if (parent !== null) {
      this.#because(
        expr,
        `a foreign key says that each value is found in \`${parent}\`, and the subquery takes all of it`,
      );
      return TRUE;
    }
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

  /**
   * The parent, when a query is `SELECT key FROM parent` of the table to which a foreign key of the operand refers, with nothing
   * that takes rows away: a filter that was forgotten. An UPDATE that reads the parent asks so for what it reads.
   */
  #selectsParents(operand: Expr, query: Query): string | null {
    const { body } = query;
    // SQLite keeps no foreign keys unless it is told to.
    if (this.#names.dialect.engine.pragmas) return null;
    const table = this.#target?.table;
    const ref = plainColumn(operand);
    if (!this.#asksParents || !table || !ref || !this.fact(operand)?.column?.required || body.kind !== "select")
      return null;
    if (body.where || body.having || body.groupBy.length > 0 || body.top || query.limit || query.with) return null;
    const [source] = body.from;
    const selected = body.items.length === 1 ? plainColumn(body.items[0].expr) : null;
    if (body.from.length !== 1 || source.kind !== "table" || !selected) return null;
    const parent = this.#names.relation(source).table;
    if (!parent || parent === table || this.#names.common(source)) return null;
    const column = this.#names.fold(ref.path[ref.path.length - 1]);
    const wanted = this.#names.fold(selected.path[selected.path.length - 1]);
    const own = tableKey(parent.schema, parent.name);
    const held = table.foreignKeys.some(
      ({ columns, table: to, referenced, enabled, trusted }) =>
        to === own &&
        enabled &&
        trusted &&
        columns.length === 1 &&
        columns[0] === column &&
        (referenced[0] ?? parent.primaryKey?.columns[0]) === wanted,
    );
    return held ? parent.name : null;
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
    const [from] = body.from;
    // LEFT JOIN keeps every row of its first table.
    if (from.kind === "joined" && from.first.kind === "table" && from.joins.every(({ type }) => type === "left")) {
      const first = this.#names.relation(from.first);
      const qualifier = selected.path.length > 1 ? fold(selected.path[selected.path.length - 2]) : null;
      if (qualifier !== first.name) return null;
      return this.#givesOwn(from.first, fold(selected.path[selected.path.length - 1]), name, 0) ? name : null;
    }
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
      expr.op === "glob" || (expr.op === "like" && this.#names.dialect.engine.likeStar)
        ? /^\*+$/
        : expr.op === "regexp" || expr.op === "rlike"
          ? /^(?:\^?\.\*\$?)$/
          : /^%+$/;
    if (pattern?.type === "string" && all.test(pattern.value) && !constant(expr.operand)) {
      this.#because(expr, "the pattern matches every value");
      return (expr.negated ? FALSE : TRUE) | (this.#nullable(expr.operand) ? NULL : 0);
    }
    const prefix =
      pattern?.type === "string" && !expr.negated && !expr.escape
        ? likePrefix(pattern.value, this.#names.dialect.engine.likeStar)
        : null;
    if (prefix && /^i?like$/.test(expr.op) && this.#isTooLong(expr.operand, { type: "string", value: prefix }, expr))
      return FALSE | NULL;
    return ANY;
  }

  #isUntied(expr: Expr): boolean {
    if (expr.kind !== "exists" || this.#names.correlated(expr.query)) return false;
    const { body } = expr.query;
    return body.kind !== "select" || body.from.length > 0 || body.where !== null;
  }

  #exists(expr: Expr, query: Query): Outcomes {
    const { body } = query;
    if (this.#names.correlated(query)) return this.#loose(expr, query) ?? TRUE | FALSE;
    if (body.kind === "select" && body.from.length === 0 && !body.where) {
      this.#because(expr, "the subquery always returns a row");
      return TRUE;
    }
    this.#because(expr, "the subquery has no tie to the row being changed: it keeps all rows or none");
    return TRUE;
  }

  /** A subquery that asks something of the outer row alone, and nothing that ties its own rows to it; null: it is tied. */
  #loose(expr: Expr, query: Query): Outcomes | null {
    const { body } = query;
    if (body.kind !== "select" || !body.where || body.having || body.groupBy.length > 0) return null;
    // What is selected does not matter to EXISTS.
    if (this.#names.correlated({ ...query, body: { ...body, items: [], where: null } })) return null;
    let outcomes = TRUE;
    const { where } = body;
    const parts = where.kind === "logic" && where.op === "and" ? where.items : [where];
    // Each is held against the whole subquery.
    if (parts.length > MOST_PARTS) return null;
    for (const part of parts) {
      const outer = this.#names.correlated({ ...query, body: { ...body, items: [], where: part } });
      if (!outer) continue;
      if (this.#names.refersWithin(query, part)) return null;
      outcomes = and(outcomes, this.of(part));
    }
    if (!(outcomes & FALSE))
      this.#because(expr, "nothing ties the subquery to the row being changed: it keeps all rows or none");
    return outcomes & ~NULL;
  }
}

/** Whether a source gives its columns other names: `AS y (a, b)`. */
function namesColumns(source: CommonTable | Source): boolean {
  return "columns" in source && source.columns !== null && source.columns.length > 0;
}

const MOST_PARTS = 40;

function isComputed({ kind }: Expr): boolean {
  return kind === "call" || kind === "binary" || kind === "cast";
}

/** Another value at each call, even within one statement. */
const RESTLESS = /rand|uuid|newid|sys_guid|nextval|newsequentialid|clock_timestamp/i;

/** Whether two expressions are the same, of columns, constants, operators and functions that give the same each time. */
function sameShape(a: Expr, b: Expr, truth: Truth, depth: number): boolean {
  if (a.kind !== b.kind || depth > 20) return false;
  if (a.kind === "column") return sameExpr(a, b, truth);
  const [one, other] = [constant(a), constant(b)];
  if (one || other) return one !== null && other !== null && JSON.stringify(one) === JSON.stringify(other);
  if (a.kind === "cast" && b.kind === "cast")
    return a.type.name === b.type.name && sameShape(a.operand, b.operand, truth, depth + 1);
  if (a.kind === "binary" && b.kind === "binary")
    return (
      a.op === b.op && sameShape(a.left, b.left, truth, depth + 1) && sameShape(a.right, b.right, truth, depth + 1)
    );
  if (a.kind !== "call" || b.kind !== "call" || a.over || b.over) return false;
  const name = calledName(a);
  return (
    name.toLowerCase() === calledName(b).toLowerCase() &&
    !RESTLESS.test(name) &&
    a.args.length === b.args.length &&
    a.args.length > 0 &&
    a.args.every((arg, i) => sameShape(arg, b.args[i], truth, depth + 1))
  );
}

function isRownum(expr: Expr): boolean {
  return expr.kind === "column" && expr.path.length === 1 && /^rownum$/i.test(expr.path[0].text);
}

function isEmptyText(expr: Expr): boolean {
  return expr.kind === "literal" && expr.type === "string" && expr.value === "";
}

function sameExpr(a: Expr, b: Expr, truth: Truth): boolean {
  const left = truth.fact(a);
  const right = truth.fact(b);
  return left !== null && right !== null && left.name === right.name && left.qualifier === right.qualifier;
}
