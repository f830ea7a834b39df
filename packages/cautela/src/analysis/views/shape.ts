import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import type { View } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr, Query, Select, Source } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { isAggregate } from "../conditions/links.ts";

/** One source of a view's FROM clause. */
export interface ShapeSource {
  /** The name under which the view's query refers to it, folded. */
  name: string;
  relation: RelationObject | null;
  /** `own`: a relation of the engine itself that nobody writes, a sequence. */
  kind: "table" | "derived" | "function" | "common" | "own";
  /** The catalog lacks it, and it takes changes all the same: a table of the engine itself. */
  open?: boolean;
  /** An outer join may fill it with NULLs. */
  nullable: boolean;
  source: Source;
}

/** A column of a view: a column of a source, or something computed. */
export interface ShapeColumn {
  name: string;
  from: { source: ShapeSource; column: string } | null;
  expr: Expr | null;
}

/** The parts of a view's query that decide whether it can be written through. */
export interface ViewShape {
  query: Query;
  select: Select | null;
  /** What makes its rows something other than rows of a table, in plain words; null where nothing does. */
  setOperation: boolean;
  distinct: boolean;
  grouped: boolean;
  having: boolean;
  aggregate: boolean;
  window: boolean;
  limited: boolean;
  ordered: boolean;
  with: boolean;
  connected: boolean;
  sources: ShapeSource[];
  joined: boolean;
  /** A join stands in it or in a view that it reads. */
  joinedBelow: boolean;
  outer: boolean;
  columns: ShapeColumn[];
  /** A subquery stands in the select list; it may depend on the row. */
  listSubquery: boolean;
  /** A subquery reads a table or view that FROM names too, at once or through a view. */
  readsItself: boolean;
  /** A function in the list gives another value at each call. */
  restless: boolean;
  /** The functions that are called outside of subqueries, in lower case. */
  calls: readonly string[];
  /** Columns that USING or NATURAL makes one of two: they are those of the table further left. */
  merged: ReadonlySet<string>;
  where: Expr | null;
}

/** Reads the query of a view; null where it is not known. */
export function shapeOf(view: View, catalog: Catalog, dialect: Dialect): ViewShape | null {
  const parsed = viewQuery(view, dialect.id);
  return parsed ? readShape(parsed.tree, view.columns, catalog, dialect) : null;
}

/** The shape of a query that stands where a table is written: a view's, a common table expression's. */
export function readShape(
  query: Query,
  names: readonly string[] | null,
  catalog: Catalog,
  dialect: Dialect,
): ViewShape {
  let inner: Query = query;
  while (inner.body.kind === "query" && !inner.limit && !inner.with) inner = inner.body;
  const { body } = inner;
  const select = body.kind === "select" ? body : null;
  const shape: ViewShape = {
    query: inner,
    select,
    setOperation: body.kind === "compounded",
    distinct: select !== null && (select.distinct || select.distinctOn !== null),
    grouped: (select?.groupBy.length ?? 0) > 0,
    having: select?.having != null,
    aggregate: select?.items.some(({ expr }) => isAggregate(expr)) ?? false,
    window: false,
    limited: inner.limit !== null || select?.top != null,
    ordered: inner.orderBy.length > 0,
    with: inner.with !== null,
    connected: select?.connectBy != null,
    sources: [],
    joined: false,
    joinedBelow: false,
    outer: false,
    columns: [],
    listSubquery: false,
    readsItself: false,
    restless: false,
    calls: [],
    merged: new Set(),
    where: select?.where ?? null,
  };
  if (body.kind === "table-query") {
    const relation = catalog.resolveRelation(body.name) ?? null;
    const name = foldName(body.name.parts[body.name.parts.length - 1], dialect);
    const source: ShapeSource = { name, relation, kind: "table", nullable: false, source: bareTable(body) };
    shape.sources = [source];
    shape.columns = columnsOf(source).map((column) => ({ name: column, from: { source, column }, expr: null }));
    return shape;
  }
  if (!select) {
    // The names of the rows that several queries give together; none is a column of a table.
    shape.columns = (names ?? []).map((name) => ({ name, from: null, expr: null }));
    return shape;
  }
  const common = new Set(inner.with?.tables.map((one) => foldName(one.name, dialect)));
  for (const source of select.from) gather(source, false, shape, common, catalog, dialect);
  shape.joined = shape.sources.length > 1;
  shape.outer = shape.sources.some(({ nullable }) => nullable);
  shape.merged = mergedColumns(select, shape, dialect);
  readList(select, names, shape, dialect);
  readSubqueries(select, shape, catalog, dialect);
  return shape;
}

function bareTable(body: { name: Extract<Source, { kind: "table" }>["name"]; start: number; end: number }): Source {
  const { name, start, end } = body;
  return { kind: "table", name, alias: null, columns: null, only: false, hints: false, start, end };
}

function gather(
  source: Source,
  nullable: boolean,
  shape: ViewShape,
  common: ReadonlySet<string>,
  catalog: Catalog,
  dialect: Dialect,
): void {
  if (source.kind === "joined") {
    // A RIGHT or FULL JOIN further right makes everything before it nullable.
    const late = source.joins.some(({ type }) => type === "right" || type === "full");
    gather(source.first, nullable || late, shape, common, catalog, dialect);
    source.joins.forEach(({ type, source: joined }, i) => {
      const own = type === "left" || type === "full" || type === "outer-apply";
      const after = source.joins.slice(i + 1).some((one) => one.type === "right" || one.type === "full");
      gather(joined, nullable || own || after, shape, common, catalog, dialect);
    });
    return;
  }
  const alias = "alias" in source && source.alias ? foldName(source.alias, dialect) : null;
  if (source.kind === "table") {
    const last = foldName(source.name.parts[source.name.parts.length - 1], dialect);
    const isCommon = source.name.parts.length === 1 && common.has(last);
    shape.sources.push({
      name: alias ?? last,
      relation: isCommon ? null : (catalog.resolveRelation(source.name) ?? null),
      kind: isCommon ? "common" : "table",
      nullable,
      source,
    });
    return;
  }
  const kind = source.kind === "derived" ? "derived" : "function";
  shape.sources.push({ name: alias ?? "", relation: null, kind, nullable, source });
}

/** The names of the columns that a source offers; empty where they are not known. */
function columnsOf({ relation }: ShapeSource): readonly string[] {
  if (!relation) return [];
  return relation.object === "table" ? relation.columns.map(({ name }) => name) : (relation.columns ?? []);
}

function readList(select: Select, names: readonly string[] | null, shape: ViewShape, dialect: Dialect): void {
  const plain: ShapeColumn[] = [];
  const starred = select.items.some(({ expr }) => expr.kind === "star");
  for (const { expr, alias } of select.items) {
    if (expr.kind === "star") {
      const qualifier = expr.path.length > 0 ? foldName(expr.path[expr.path.length - 1], dialect) : null;
      for (const source of shape.sources) {
        if (qualifier !== null && source.name !== qualifier) continue;
        for (const column of columnsOf(source)) plain.push({ name: column, from: { source, column }, expr: null });
      }
      continue;
    }
    const own = expr.kind === "column" ? foldName(expr.path[expr.path.length - 1], dialect) : "";
    plain.push({ name: alias ? foldName(alias, dialect) : own, from: sourceOf(expr, shape, dialect), expr });
  }
  shape.columns = names ? renamed(plain, names, starred) : plain;
}

/** The columns under the names that the view gives them. */
function renamed(plain: ShapeColumn[], names: readonly string[], starred: boolean): ShapeColumn[] {
  // The star stands for the columns of the day on which the view was made: those that were added since are not its own.
  const own = plain.length > names.length && starred ? plain.filter(({ name }) => names.includes(name)) : plain;
  const kept = own.length === names.length ? own : plain.slice(0, names.length);
  if (kept.length === names.length) for (const [i, column] of kept.entries()) column.name = names[i];
  return kept;
}

/** The column of a source that an expression is, when it is nothing else. */
export function sourceOf(expr: Expr, shape: ViewShape, dialect: Dialect): ShapeColumn["from"] {
  if (expr.kind !== "column") return null;
  const column = foldName(expr.path[expr.path.length - 1], dialect);
  const qualifier = expr.path.length > 1 ? foldName(expr.path[expr.path.length - 2], dialect) : null;
  if (qualifier !== null) {
    const source = shape.sources.find(({ name }) => name === qualifier);
    return source ? { source, column } : null;
  }
  const holders = shape.sources.filter((source) => columnsOf(source).includes(column));
  if (holders.length === 1 || (holders.length > 1 && shape.merged.has(column))) return { source: holders[0], column };
  // A whole row: `b` of FROM boat b.
  if (holders.length === 0 && shape.sources.some(({ name, relation }) => name === column && relation !== null))
    return null;
  return holders.length === 0 && shape.sources.length === 1 ? { source: shape.sources[0], column } : null;
}

const RESTLESS = /^(?:rand|random|uuid|newid|gen_random_uuid|nextval|sleep)$/i;

function readSubqueries(select: Select, shape: ViewShape, catalog: Catalog, dialect: Dialect): void {
  const calls: string[] = [];
  const inner: Query[] = [];
  const look = (expr: Expr, listed: boolean): void => {
    walk(expr, (node) => {
      if (node.kind === "query") {
        inner.push(node);
        if (listed) shape.listSubquery = true;
        return false;
      }
      if (node.kind === "variable" && listed) shape.restless = true;
      if (node.kind !== "call") return undefined;
      const name = node.name.parts[node.name.parts.length - 1].text.toLowerCase();
      calls.push(name);
      if (listed && node.over) shape.window = true;
      if (listed && RESTLESS.test(name)) shape.restless = true;
      return undefined;
    });
  };
  for (const { expr } of select.items) look(expr, true);
  for (const { source } of shape.sources) if (source.kind === "derived" && isRestless(source)) shape.restless = true;
  if (select.where) look(select.where, false);
  shape.calls = calls;
  if (inner.length === 0) return;
  // What FROM itself names, not what lies below: that is how the engine compares them.
  const own = new Set(shape.sources.flatMap(({ relation }) => relation ?? []));
  const read = new Set<RelationObject>();
  for (const query of inner) addRead(query, read, catalog, dialect);
  shape.readsItself = [...read].some((one) => own.has(one));
  shape.joinedBelow = shape.joined || [...own].some((one) => one.object === "view" && readsSeveral(one, dialect));
}

function readsSeveral(view: View, dialect: Dialect): boolean {
  const body = viewQuery(view, dialect.id)?.tree.body;
  return body?.kind === "select" && (body.from.length > 1 || body.from[0]?.kind === "joined");
}

/** Whether a query in FROM gives other values at each call. */
function isRestless(source: Source): boolean {
  let restless = false;
  walk(source, (node) => {
    if (node.kind === "call" && RESTLESS.test(node.name.parts[node.name.parts.length - 1].text)) restless = true;
    return restless ? false : undefined;
  });
  return restless;
}

/** This many tables and views are looked through. */
const MOST = 300;

/** The tables and views behind a relation, those that its subqueries read included. */
function addTables(relation: RelationObject, found: Set<RelationObject>, catalog: Catalog, dialect: Dialect): void {
  if (found.has(relation) || found.size > MOST) return;
  found.add(relation);
  const query = relation.object === "view" ? viewQuery(relation, dialect.id)?.tree : undefined;
  if (query) addRead(query, found, catalog, dialect);
}

function addRead(query: Query, found: Set<RelationObject>, catalog: Catalog, dialect: Dialect): void {
  walk(query, (node) => {
    const relation = node.kind === "table" ? catalog.resolveRelation(node.name) : undefined;
    if (relation) addTables(relation, found, catalog, dialect);
    return undefined;
  });
}

/** The columns that USING names, and those that the sides of a NATURAL join share. */
function mergedColumns(select: Select, shape: ViewShape, dialect: Dialect): ReadonlySet<string> {
  const merged = new Set<string>();
  const look = (source: Source): void => {
    if (source.kind !== "joined") return;
    look(source.first);
    for (const { using, natural, source: joined } of source.joins) {
      look(joined);
      for (const one of using ?? []) merged.add(foldName(one, dialect));
      if (!natural) continue;
      const seen = new Set<string>();
      for (const one of shape.sources)
        for (const column of columnsOf(one))
          if (seen.has(column)) merged.add(column);
          else seen.add(column);
    }
  };
  for (const source of select.from) look(source);
  return merged;
}
