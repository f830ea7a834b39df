import type { Table, View } from "../../catalog/model.ts";
import type { Dialect, DialectId } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/tree.ts";
import { conjuncts } from "../reach.ts";
import type { ShapeColumn, ShapeSource, ViewShape } from "./shape.ts";
import type { WriteAction } from "./updatability.ts";

/** Why an engine refuses writes through a view, by action; null where it takes them. */
export interface Refusals extends Record<WriteAction, string | null> {
  /** Sources of a join whose columns cannot be written, with the reason. */
  sealedSources: Map<ShapeSource, string>;
}

const all = (reason: string | null): Refusals => ({
  insert: reason,
  update: reason,
  delete: reason,
  sealedSources: new Map(),
});

/** What the rules of the view's engine say of its shape. One function for each family of engines. */
export function refusals(view: View, shape: ViewShape, dialect: Dialect): Refusals {
  if (view.materialized) return all("a materialized view holds a copy of its rows, which only a refresh renews");
  return RULES[dialect.id](view, shape);
}

const RULES: Record<DialectId, (view: View, shape: ViewShape) => Refusals> = {
  postgresql,
  mysql: (view, shape) => mysql(view, shape, false),
  mariadb: (view, shape) => mysql(view, shape, true),
  sqlite: () => all("SQLite writes through no view: only an INSTEAD OF trigger can"),
  tsql,
  plsql,
  jet,
};

/** What makes the rows of a query other rows than those of its tables, in any engine. */
function condensed(shape: ViewShape): string | null {
  if (shape.setOperation) return "it puts several queries together (UNION and its like)";
  if (!shape.select && shape.sources.length === 0) return "it lists constant rows and reads no table";
  if (shape.distinct) return "DISTINCT makes one row of several";
  if (shape.grouped) return "GROUP BY makes one row of several";
  if (shape.having) return "HAVING makes it a query over groups";
  if (shape.aggregate) return "it counts or sums over rows";
  if (shape.window) return "it uses a window function";
  return null;
}

function postgresql(_: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return all(why);
  if (shape.with) return all("a WITH stands at its top");
  if (shape.limited) return all("LIMIT or OFFSET cuts its rows off");
  if (shape.sources.length === 0) return all("it reads no table");
  if (shape.joined) return all("it reads more than one table, and PostgreSQL writes through no join");
  const [source] = shape.sources;
  if (source.kind !== "table") return all("it does not read a single table or view");
  if (source.relation?.object === "view" && source.relation.materialized)
    return all("it stands on a materialized view, whose rows only a refresh renews");
  return all(null);
}

function mysql(view: View, shape: ViewShape, mariadb: boolean): Refusals {
  const why = condensed(shape);
  if (why) return all(why);
  if (view.algorithm === "temptable") return all("ALGORITHM = TEMPTABLE makes it a copy of the rows");
  if (shape.limited) return all("LIMIT cuts its rows off");
  if (shape.sources.length === 0) return all("it reads no table");
  if (shape.restless) return all("its columns are computed anew at each call, so its rows are a copy");
  if (shape.readsItself) return all("a subquery of its filter reads the table that would be changed");
  if (!mariadb && shape.listSubquery && dependentSubquery(shape))
    return all("a subquery in its list depends on the row");
  const result = all(null);
  const sealedSource = (source: ShapeSource): string | null => {
    if (source.kind === "derived" || source.kind === "common")
      return "it comes from a subquery in FROM, which is a copy";
    if (source.kind === "function") return "it comes from a function";
    const below = source.relation?.object === "view" ? source.relation : null;
    return below?.algorithm === "temptable" ? `\`${below.name}\` is a copy of its rows (TEMPTABLE)` : null;
  };
  for (const source of shape.sources) {
    const reason = sealedSource(source);
    if (reason) result.sealedSources.set(source, reason);
  }
  if (!shape.joined) {
    const [sealed] = result.sealedSources.values();
    return sealed ? { ...all(sealed), sealedSources: result.sealedSources } : result;
  }
  result.delete = "it joins several tables, and through a join no rows are deleted";
  if (shape.outer) result.insert = "it holds an outer join, through which no rows are inserted";
  else if (result.sealedSources.size > 0) result.insert = "one of the tables it joins is a copy";
  return result;
}

/** Whether a subquery of the select list names a source of the view. */
function dependentSubquery(shape: ViewShape): boolean {
  const names = new Set(shape.sources.map(({ name }) => name));
  return (shape.select?.items ?? []).some(({ expr }) => mentions(expr, names, false));
}

function mentions(node: unknown, names: ReadonlySet<string>, inside: boolean): boolean {
  if (Array.isArray(node)) return node.some((one) => mentions(one, names, inside));
  if (node === null || typeof node !== "object") return false;
  const { kind, path } = node as { kind?: string; path?: { text: string }[] };
  if (kind === "column" && inside && path)
    return path.length > 1 && names.has(path[path.length - 2].text.toLowerCase());
  return Object.values(node).some((one) => mentions(one, names, inside || kind === "query"));
}

function tsql(view: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return all(why);
  if (shape.limited && view.checkOption) return all("TOP together with WITH CHECK OPTION cannot be written");
  if (shape.sources.length === 0) return all("it reads no table");
  const result = all(null);
  for (const source of shape.sources)
    if (source.kind !== "table") result.sealedSources.set(source, "it comes from a subquery in FROM");
  if (shape.joined) result.delete = "it joins several tables, so which one loses the row is not settled";
  else if (result.sealedSources.size > 0 && shape.sources[0].kind === "function") return all("it reads a function");
  return result;
}

function plsql(view: View, shape: ViewShape): Refusals {
  if (view.readOnly) return all("it was made WITH READ ONLY");
  const why = condensed(shape);
  if (why) return all(why);
  if (shape.connected) return all("CONNECT BY makes its rows a tree");
  if (shape.limited) return all("FETCH FIRST cuts its rows off");
  if (shape.sources.length === 0) return all("it reads no table");
  if (shape.listSubquery) return all("a subquery stands in its list");
  if (!shape.joined) return shape.sources[0].kind === "table" ? all(null) : all("it reads a subquery");
  const result = all(null);
  const preserved = shape.sources.filter((source) => keyPreserved(source, shape));
  for (const source of shape.sources) {
    if (preserved.includes(source)) continue;
    result.sealedSources.set(source, `\`${source.name}\` is not key-preserved: the join can repeat one of its rows`);
  }
  if (preserved.length === 0) return all("no table of its join keeps its key unique in the result");
  if (view.checkOption) result.insert = "a join view WITH CHECK OPTION takes no new rows";
  if (preserved.length > 1) result.delete = "more than one table of its join is key-preserved";
  return result;
}

/**
 * Whether each row of a table stands at most once in a join's result: every other source is met on a whole
 * unique key of its own.
 */
function keyPreserved(source: ShapeSource, shape: ViewShape): boolean {
  return source.kind === "table" && source.relation?.object === "table" && !source.nullable && anchors(source, shape);
}

/** Whether a whole key of a table is tied by equality to sources that are met once. */
function uniqueVia(source: ShapeSource, table: Table, seen: ReadonlySet<ShapeSource>, shape: ViewShape): boolean {
  const columns = new Set<string>();
  for (const part of joinConditions(shape)) {
    if (part.kind !== "binary" || part.op !== "=") continue;
    const left = sideOf(part.left, shape);
    const right = sideOf(part.right, shape);
    if (left?.source === source && right && seen.has(right.source)) columns.add(left.column);
    if (right?.source === source && left && seen.has(left.source)) columns.add(right.column);
  }
  const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
  return keys.some(
    (key) => !key.partial && key.columns.length > 0 && key.columns.every((one) => columns.has(one.toLowerCase())),
  );
}

function joinConditions(shape: ViewShape): Expr[] {
  const parts: Expr[] = shape.where ? conjuncts(shape.where) : [];
  const visit = (source: ShapeSource["source"]): void => {
    if (source.kind !== "joined") return;
    visit(source.first);
    for (const join of source.joins) {
      visit(join.source);
      if (join.on) parts.push(...conjuncts(join.on));
    }
  };
  for (const source of shape.select?.from ?? []) visit(source);
  return parts;
}

function sideOf(expr: Expr, shape: ViewShape): { source: ShapeSource; column: string } | null {
  if (expr.kind !== "column") return null;
  const column = expr.path[expr.path.length - 1].text.toLowerCase();
  if (expr.path.length > 1) {
    const qualifier = expr.path[expr.path.length - 2].text.toLowerCase();
    const source = shape.sources.find(({ name }) => name.toLowerCase() === qualifier);
    return source ? { source, column } : null;
  }
  const holders = shape.sources.filter(
    ({ relation }) => relation?.object === "table" && relation.columns.some((one) => one.name.toLowerCase() === column),
  );
  return holders.length === 1 ? { source: holders[0], column } : null;
}

/**
 * Jet: a query over one table, or a join whose "one" side is met on a unique index. Without the index its
 * rows are only shown.
 */
function jet(_: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return all(why);
  if (shape.sources.length === 0) return all("it reads no table");
  if (shape.listSubquery) return all("a subquery stands in its list");
  if (!shape.joined) return all(null);
  if (!shape.sources.some((source) => anchors(source, shape)))
    return all("none of its joins meets a unique index, so the engine cannot tell its rows apart");
  return all(null);
}

/** Whether every other source is met once for each row of this one. */
function anchors(source: ShapeSource, shape: ViewShape): boolean {
  const seen = new Set([source]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const other of shape.sources) {
      if (seen.has(other) || other.relation?.object !== "table") continue;
      if (!uniqueVia(other, other.relation, seen, shape)) continue;
      seen.add(other);
      grown = true;
    }
  }
  return seen.size === shape.sources.length;
}

/** Why a column of a view cannot be written; null where its expression does not forbid it. */
export function columnRule(column: ShapeColumn, dialect: Dialect): string | null {
  if (!column.from) return column.expr ? `it is computed${computedBy(column.expr)}` : "it is not a plain column";
  if (dialect.id === "postgresql" && SYSTEM.has(column.from.column)) return "it is a system column";
  return null;
}

const SYSTEM = new Set(["ctid", "xmin", "xmax", "cmin", "cmax", "tableoid"]);

function computedBy(expr: Expr): string {
  switch (expr.kind) {
    case "call":
      return ` by ${expr.name.parts[expr.name.parts.length - 1].text.toUpperCase()}`;
    case "case":
      return " by a CASE";
    case "subquery":
      return " by a subquery";
    case "literal":
      return " (a constant)";
    case "binary":
      return ` with ${expr.op}`;
    case "cast":
      return " by a cast";
    default:
      return "";
  }
}
