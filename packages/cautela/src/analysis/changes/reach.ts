import type { Key, Table } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { ColumnRef, Expr, Join, Name, Source } from "../../sql/nodes/tree.ts";
import { flatSources, walk } from "../../sql/nodes/visitor.ts";
import { constant, plainColumn } from "../conditions/constants.ts";
import { withoutNot } from "../conditions/negation.ts";
import { FALSE, NULL, TRUE } from "../conditions/outcomes.ts";
import { type Reason, Truth } from "../conditions/truth.ts";
import type { Names } from "../names/scope.ts";
import type { Change } from "./change.ts";
import { estimatedRows } from "./estimate.ts";

export type ReachBound = "none" | "one" | "few" | "some" | "every" | "multiplied" | "unknown";

/** The bound on the rows that a statement can touch. */
export interface Reach {
  bound: ReachBound;
  /** How many rows that is: exact for `none`, at most for `one` and `few`, an estimate for `every` and `some`. */
  rows?: number;
  /** With an estimate for `some`: about how many rows the table holds. */
  of?: number;
}

/** Reach, with what it rests on. */
export interface ReachResult {
  reach: Reach;
  because: string[];
  /**
   * What the filter as a whole does: `absent`, `hollow` (it rejects no row but, perhaps, rows with
   * a NULL), `dead` (it accepts none), or `filters`.
   */
  filter: "absent" | "hollow" | "dead" | "filters";
  /** The conditions that made it hollow or dead. */
  reasons: Reason[];
  /** At most how many rows the filter meets by the keys that it pins, whatever limit there is; not given: no key. */
  pinned?: number;
}

/** A reach that a setting of the session cuts off: SET ROWCOUNT 10 (tsql). */
export function cutOff(result: ReachResult, rows: number): ReachResult {
  if (result.reach.bound === "none" || (result.pinned ?? Number.POSITIVE_INFINITY) <= rows) return result;
  return {
    ...result,
    reach: limited(result.reach, rows),
    because: [...result.because, `SET ROWCOUNT ${rows} is on`],
    filter: result.filter === "absent" || result.filter === "hollow" ? "filters" : result.filter,
  };
}

/** The reach of one change. */
export function reachOf(change: Change): ReachResult {
  const rows = change.table?.rows ?? undefined;
  const every: Reach = rows === undefined ? { bound: "every" } : { bound: "every", rows };
  const cap = limitOf(change);
  if (change.statement.kind === "truncate" && change.statement.partitions)
    return {
      reach: { bound: "some" },
      because: ["TRUNCATE empties the partitions that it lists"],
      filter: "filters",
      reasons: [],
    };
  if (change.action === "truncate") {
    return { reach: every, because: ["TRUNCATE empties the whole table"], filter: "absent", reasons: [] };
  }
  if (change.current) {
    return {
      reach: { bound: "one", rows: 1 },
      because: ["it changes the row that the cursor stands on"],
      filter: "filters",
      reasons: [],
    };
  }
  if (change.conditions.length === 0) {
    if (cap !== null)
      return {
        reach: limited(every, cap),
        because: [`it stops after ${cap} rows, whichever come first`],
        filter: "filters",
        reasons: [],
      };
    if (change.tied)
      return {
        reach: { bound: "some" },
        because: ["a join decides which rows are met"],
        filter: "filters",
        reasons: [],
      };
    if (change.limit)
      return { reach: { bound: "some" }, because: ["its limit is not known here"], filter: "filters", reasons: [] };
    return { reach: every, because: ["it has no WHERE"], filter: "absent", reasons: [] };
  }
  const itself = meetsItself(change) ?? findsItself(change);
  if (itself) return { reach: every, because: [itself], filter: "hollow", reasons: [] };
  const asks = asksParents(change.statement);
  const truth = new Truth(change.names, change.scope, change.relation, NULL, asks);
  const parts = change.conditions.map((condition) => condition.expr);
  const whole: Expr =
    parts.length === 1
      ? parts[0]
      : {
          kind: "logic",
          op: "and",
          items: parts.flatMap(conjuncts),
          parenthesised: false,
          start: parts[0].start,
          end: parts[0].end,
        };
  const outcomes = truth.of(whole);
  const { reasons } = truth;
  if (!(outcomes & TRUE)) {
    return {
      reach: { bound: "none", rows: 0 },
      because: reasons.map((reason) => reason.text),
      filter: "dead",
      reasons,
    };
  }
  // `name = 'X' OR phone = NULL` rejects rows whatever is NULL in them.
  const rejects =
    outcomes & FALSE ||
    (outcomes & NULL && new Truth(change.names, change.scope, change.relation, FALSE, asks).of(whole) & FALSE);
  if (!rejects && !change.tied) {
    const reach = outcomes & NULL ? ({ bound: "some" } as const) : every;
    return {
      reach: cap === null ? reach : limited(every, cap),
      because: reasons.map((reason) => reason.text),
      filter: "hollow",
      reasons,
    };
  }
  if (isUntied(change) && cap === null)
    return {
      reach: every,
      because: ["no condition refers to the target: the others decide for every row of it or for none"],
      filter: "filters",
      reasons: [],
    };
  const pinned = pins(change, whole);
  const bound =
    cap !== null && (pinned === null || cap < pinned.rows)
      ? { rows: cap, why: `it stops after ${cap} ${cap === 1 ? "row" : "rows"}` }
      : pinned;
  if (bound) {
    return {
      reach: limited({ bound: "some" }, bound.rows),
      because: [bound.why],
      filter: "filters",
      reasons: [],
      ...(pinned ? { pinned: pinned.rows } : {}),
    };
  }
  const estimate = change.table && !change.tied ? estimated(change, change.table, conjuncts(whole)) : null;
  if (estimate !== null && rows !== undefined)
    return {
      reach: { bound: "some", rows: estimate, of: rows },
      because: ["the filter names no whole key; how many rows meet it is estimated by the catalog's statistics"],
      filter: "filters",
      reasons: [],
    };
  return {
    reach: { bound: "some" },
    because: ["the filter names no whole key, so how many rows meet it is the data's to say"],
    filter: "filters",
    reasons: [],
  };
}

/** Whether a subquery in the filter can only be meant to filter: nothing that is written reads another table. */
function asksParents(statement: Change["statement"]): boolean {
  if (statement.kind !== "update") return statement.kind === "delete";
  if (statement.from.length > 0) return false;
  let reads = false;
  for (const { value } of statement.assignments)
    walk(value, ({ kind }) => {
      if (kind === "query") reads = true;
      return !reads;
    });
  return !reads;
}

/** Whether every condition speaks of other tables of the statement, and none of the target. */
function isUntied({ statement, relation, scope, conditions, names, tied }: Change): boolean {
  // DELETE mooring FROM vessel v WHERE …: the target stands beside its own FROM (tsql).
  if (!relation) return statement.kind === "delete" && statement.named.length > 0 && !tied;
  if (tied || scope.relations.length < 2) return false;
  // What an outer join is joined by is no condition of the rows, and it ties all the same: LEFT JOIN … WHERE b.id IS NULL.
  const joins = joinsOf(statement);
  if (joins.some(({ using, natural, type }) => using || natural || type === "apply" || type === "outer-apply"))
    return false;
  let untied = true;
  for (const expr of [...conditions.map((one) => one.expr), ...joins.flatMap(({ on }) => on ?? [])])
    walk(expr, (node) => {
      if (node.kind === "opaque" || node.kind === "placeholder") untied = false;
      if (node.kind === "query") {
        if (names.correlated(node)) untied = false;
        return false;
      }
      if (node.kind === "column") {
        const found = names.resolve(node, scope);
        if (!found || found.relation === relation) untied = false;
      }
      return untied ? undefined : false;
    });
  return untied;
}

/** The joins at the head of a change. */
function joinsOf(statement: Change["statement"]): Join[] {
  if (statement.kind === "truncate") return [];
  const sources =
    statement.kind === "update" ? [...statement.target, ...statement.from] : [...statement.from, ...statement.using];
  return sources.flatMap(joinsIn);
}

function joinsIn(source: Source): Join[] {
  if (source.kind !== "joined") return [];
  return [...joinsIn(source.first), ...source.joins.flatMap((join) => [join, ...joinsIn(join.source)])];
}

function estimated(change: Change, table: Table, parts: readonly Expr[]): number | null {
  return estimatedRows(table, parts, (expr) => {
    const ref = plainColumn(expr);
    const name = ref ? change.names.fold(ref.path[ref.path.length - 1]) : null;
    return name !== null && isColumn(change, expr, name) ? name : null;
  });
}

/** Why every row meets itself: the table is joined with itself, on equal columns and on nothing else; null: it is not. */
function meetsItself({ relation, scope, conditions, names, tied }: Change): string | null {
  if (relation?.source.kind !== "table" || tied || scope.relations.length !== 2 || conditions.length === 0) return null;
  const other = scope.relations.find((one) => one !== relation);
  if (other?.source.kind !== "table" || names.common(other.source)) return null;
  const same = relation.table
    ? relation.table === other.table
    : !other.table && writtenName(relation.source.name) === writtenName(other.source.name);
  if (!same) return null;
  const sides = [relation.name, other.name];
  if (!conditions.flatMap(({ expr }) => conjuncts(expr)).every((part) => areEqual(part, sides, names))) return null;
  return `\`${relation.name}\` and \`${other.name}\` are one table, and every row meets itself: all copies are met, not all but one`;
}

/** The same for a subquery that looks among all rows of the table for one that is equal: each row finds itself. */
function findsItself({ relation, conditions, names }: Change): string | null {
  const only = conditions.length === 1 ? conditions[0].expr : null;
  if (!only || (only.kind !== "exists" && only.kind !== "in") || relation?.source.kind !== "table") return null;
  const query = only.kind === "exists" ? only.query : only.kind === "in" && !only.negated ? only.query : null;
  const body = query?.limit || query?.with ? null : query?.body;
  if (body?.kind !== "select" || body.groupBy.length > 0 || body.having || body.top) return null;
  const sources = flatSources(body.from);
  const parts = [...(body.where ? conjuncts(body.where) : [])];
  for (const source of body.from)
    if (source.kind === "joined")
      for (const { type, on } of source.joins) {
        if (type !== "inner" || !on) return null;
        parts.push(...conjuncts(on));
      }
  const own = relation.source.name;
  const isOwn = (source: Source): boolean =>
    source.kind === "table" && !names.common(source) && sameTable(source.name, own, names);
  if (parts.length === 0 || !sources.every(isOwn) || sources.length !== (only.kind === "exists" ? 1 : 2)) return null;
  const inner = sources.map((source) => names.relation(source).name);
  const sides = only.kind === "exists" ? [inner[0], relation.name] : inner;
  if (sides[0] === sides[1] || !parts.every((part) => areEqual(part, sides, names))) return null;
  if (only.kind === "in") {
    const asked = plainColumn(only.operand)?.path;
    const given = body.items.length === 1 ? plainColumn(body.items[0].expr)?.path : undefined;
    if (!asked || given?.length !== 2 || names.fold(asked[asked.length - 1]) !== names.fold(given[1])) return null;
  }
  return `every row of \`${writtenName(own)}\` finds itself among those that are equal: all copies are met, not all but one`;
}

function sameTable(a: Name, b: Name, { catalog }: Names): boolean {
  const [one, other] = [catalog?.resolve(a), catalog?.resolve(b)];
  return one || other ? one === other : writtenName(a) === writtenName(b);
}

/** Whether a condition asks that one column is the same in two relations. */
function areEqual(part: Expr, [one, other]: readonly string[], names: Names): boolean {
  const [left, right] =
    part.kind === "binary" && part.op === "=" ? [plainColumn(part.left), plainColumn(part.right)] : [null, null];
  if (left?.path.length !== 2 || right?.path.length !== 2) return false;
  const [a, b] = [names.fold(left.path[0]), names.fold(right.path[0])];
  return (
    a !== b &&
    [one, other].includes(a) &&
    [one, other].includes(b) &&
    names.fold(left.path[1]) === names.fold(right.path[1])
  );
}

function limited(reach: Reach, rows: number): Reach {
  if (rows === 0) return { bound: "none", rows: 0 };
  if (reach.bound === "every" && reach.rows !== undefined && reach.rows <= rows) return reach;
  return rows === 1 ? { bound: "one", rows: 1 } : { bound: "few", rows };
}

/** The number of a LIMIT or TOP; null without one, or when it is not a plain number. */
function limitOf(change: Change): number | null {
  const { limit } = change;
  const counted = rownumLimit(
    change.conditions.map(({ expr }) => expr),
    change.names.dialect,
  );
  if (counted !== null) return counted;
  if (!limit?.count || limit.percent || limit.withTies) return null;
  const value = constant(limit.count);
  return value?.type === "number" && Number.isInteger(value.value) && value.value >= 0 ? value.value : null;
}

/** The parts of an AND, nested ones included, each without NOT where it can be written so. */
export function conjuncts(expr: Expr): Expr[] {
  const parts: Expr[] = [];
  addConjuncts(expr, parts);
  return parts;
}

function addConjuncts(expr: Expr, into: Expr[]): void {
  const plain = withoutNot(expr);
  if (plain.kind === "logic" && plain.op === "and") for (const item of plain.items) addConjuncts(item, into);
  else into.push(plain);
}

/** At most how many rows a filter can meet, by the keys it pins; null when no key is pinned whole. */
function pins(change: Change, filter: Expr): { rows: number; why: string } | null {
  const { table } = change;
  const place = rowPlaces(change, filter);
  if (place !== null)
    return { rows: place, why: `the row's own address is pinned to ${place === 1 ? "one value" : `${place} values`}` };
  if (!table) return null;
  const keys: Key[] = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : [...table.uniqueKeys];
  let best: { rows: number; why: string } | null = null;
  for (const key of keys) {
    if (key.partial || key.columns.length === 0) continue;
    const rows = keyRows(change, key, filter);
    if (rows !== null && (best === null || rows < best.rows)) {
      const columns = key.columns.map((column) => `\`${column}\``).join(", ");
      const what = key === table.primaryKey ? "the primary key" : "a unique key";
      best = {
        rows,
        why:
          rows === 1 ? `${what} ${columns} is pinned to one value` : `${what} ${columns} is pinned to ${rows} values`,
      };
    }
  }
  return best;
}

const ADDRESS = /^(?:rowid|oid|_rowid_|ctid)$/i;

/** How many addresses of rows a filter names: rowid (sqlite, plsql), ctid (postgresql); null: none. */
function rowPlaces({ names, scope, table }: Change, filter: Expr): number | null {
  const { engine } = names.dialect;
  const isAddress = (expr: Expr): boolean => {
    const ref = plainColumn(expr);
    const name = ref?.path[ref.path.length - 1].text ?? "";
    if (!ref || !ADDRESS.test(name) || scope.relations.length !== 1) return false;
    // A column of that name is a column.
    if (table?.columns.some((one) => one.name.toLowerCase() === name.toLowerCase())) return false;
    return engine.rowidKey
      ? !/^ctid$/i.test(name)
      : engine.rownum
        ? /^rowid$/i.test(name)
        : engine.rules && /^ctid$/i.test(name);
  };
  for (const part of conjuncts(filter)) {
    if (part.kind === "binary" && part.op === "=") {
      if (isAddress(part.left) && constant(part.right)) return 1;
      if (isAddress(part.right) && constant(part.left)) return 1;
    }
    if (part.kind === "in" && !part.negated && part.items?.every((item) => constant(item)) && isAddress(part.operand))
      return part.items.length;
  }
  return null;
}

/** The bound that ROWNUM sets among the conditions of a change or a query (plsql); null: none. */
export function rownumLimit(conditions: readonly Expr[], dialect: Dialect): number | null {
  if (!dialect.engine.rownum) return null;
  let least: number | null = null;
  for (const part of conditions.flatMap(conjuncts)) {
    if (part.kind !== "binary") continue;
    const flipped = constant(part.left) !== null;
    const [side, other] = flipped ? [part.right, part.left] : [part.left, part.right];
    const value = constant(other);
    if (side.kind !== "column" || side.path.length !== 1 || !/^rownum$/i.test(side.path[0].text)) continue;
    if (value?.type !== "number") continue;
    const op = flipped ? ({ ">": "<", ">=": "<=" }[part.op] ?? part.op) : part.op;
    const rows = op === "<=" || op === "=" ? Math.floor(value.value) : op === "<" ? Math.ceil(value.value) - 1 : null;
    if (rows !== null && rows >= 0 && (least === null || rows < least)) least = rows;
  }
  return least;
}

/** How many values of a key the filter admits. */
function keyRows(change: Change, key: Key, filter: Expr): number | null {
  if (filter.kind === "logic" && filter.op === "or") {
    let sum = 0;
    for (const item of filter.items) {
      const rows = keyRows(change, key, item);
      if (rows === null) return null;
      sum += rows;
    }
    return sum;
  }
  let rows = 1;
  const parts = conjuncts(filter);
  for (const column of key.columns) {
    let least: number | null = null;
    for (const part of parts) {
      const values =
        part.kind === "logic" && part.op === "or"
          ? orValues(change, column, part.items)
          : columnValues(change, column, part);
      if (values !== null && (least === null || values < least)) least = values;
    }
    if (least === null) return null;
    rows *= least;
  }
  return rows;
}

function orValues(change: Change, column: string, items: readonly Expr[]): number | null {
  let sum = 0;
  for (const item of items) {
    let least: number | null = null;
    for (const part of conjuncts(item)) {
      const values = columnValues(change, column, part);
      if (values !== null && (least === null || values < least)) least = values;
    }
    if (least === null) return null;
    sum += least;
  }
  return sum;
}

/** To how many values one condition pins a column of the target. */
function columnValues(change: Change, column: string, part: Expr): number | null {
  if (part.kind === "binary" && (part.op === "=" || part.op === "<=>")) {
    if (isColumn(change, part.left, column) && isSettled(change, part.right)) return 1;
    if (isColumn(change, part.right, column) && isSettled(change, part.left)) return 1;
    return null;
  }
  if (part.kind === "in" && !part.negated && part.items && isColumn(change, part.operand, column)) {
    if (!part.items.every((item) => isSettled(change, item))) return null;
    // A hole such as `IN (${ids})` may stand for a whole list.
    if (part.items.some((item) => item.kind === "placeholder" && /[{%&]/.test(item.text))) return null;
    const distinct = new Set<string>();
    let other = 0;
    for (const item of part.items) {
      const value = constant(item);
      if (value === null) other++;
      else if (value.type !== "null") distinct.add(`${value.type}:${value.value}`);
    }
    return distinct.size + other;
  }
  return null;
}

function isColumn(change: Change, expr: Expr, column: string): boolean {
  const ref = plainColumn(expr);
  if (!ref || change.names.fold(ref.path[ref.path.length - 1]) !== column) return false;
  const found = change.names.resolve(ref, change.scope);
  if (found) return found.relation === change.relation;
  return change.scope.relations.length === 1;
}

/** Whether no table of the statement has a column of that name; NEW and OLD are the row of a trigger. */
function isPrompt(change: Change, ref: ColumnRef): boolean {
  if (ref.path.length === 2) {
    const qualifier = ref.path[0].text.toLowerCase();
    return /^:?(?:new|old)$/.test(qualifier) && !change.scope.relations.some((one) => one.name === qualifier);
  }
  if (ref.path.length > 1) return false;
  const name = change.names.fold(ref.path[ref.path.length - 1]);
  return change.scope.relations.every((relation) => relation.known && !change.names.column(relation, name));
}

/** Whether a value is the same for every row: constants, parameters, subqueries without a tie. */
function isSettled(change: Change, expr: Expr): boolean {
  let settled = true;
  walk(expr, (node) => {
    switch (node.kind) {
      case "column":
        // A name that no table has: a parameter that jet asks for, a variable of the code around it.
        if (isPrompt(change, node)) return undefined;
        settled = false;
        return false;
      case "star":
      case "opaque":
        settled = false;
        return false;
      case "subquery":
        if (change.names.correlated(node.query)) settled = false;
        return false;
      case "call":
        // random() is another value for each row.
        if (
          /^(?:rand|random|newid|uuid|gen_random_uuid|nextval)$/i.test(node.name.parts[node.name.parts.length - 1].text)
        )
          settled = false;
        return undefined;
      default:
        return undefined;
    }
  });
  return settled;
}
