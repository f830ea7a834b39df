import type { Catalog } from "../../catalog/catalog.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { plainTable } from "../../sql/grammar/plain-nodes.ts";
import type {
  DeleteStatement,
  Expr,
  Limit,
  Name,
  Query,
  QueryBody,
  Source,
  Statement,
  TableSource,
  TruncateStatement,
  UpdateStatement,
} from "../../sql/nodes/tree.ts";
import { flatSources } from "../../sql/nodes/visitor.ts";
import { constant } from "../conditions/constants.ts";
import { Names, type Relation, type Scope } from "../names/scope.ts";

/** A condition that a row of the target must meet, and where it stands. */
export interface Condition {
  expr: Expr;
  where: "where" | "join" | "inside";
}

/** One table whose rows a statement updates, deletes or truncates. */
export interface Change {
  action: "update" | "delete" | "truncate";
  statement: UpdateStatement | DeleteStatement | TruncateStatement;
  /** The name of the base table as the statement writes it. */
  name: Name;
  table: Table | undefined;
  /** The relation that stands for the target in the statement's own scope. */
  relation: Relation | null;
  scope: Scope;
  names: Names;
  /** All conditions together are the filter; none: every row. */
  conditions: Condition[];
  /** A join that has no condition Cautela reads (USING, NATURAL) ties the target to another table. */
  tied: boolean;
  limit: Limit | null;
  /** WHERE CURRENT OF: one row, the cursor's. */
  current: boolean;
}

/** The changes that a statement makes to rows of tables, one for each target, those in WITH included. */
export function changesOf(statement: Statement, catalog: Catalog | null, dialect: Dialect): Change[] {
  const clause = statement.kind === "select" ? statement.query.with : "with" in statement ? statement.with : null;
  const own = ownChanges(statement, catalog, dialect);
  if (!clause) return own;
  const inside = clause.tables.flatMap(({ body }) => (body.kind === "query" ? [] : changesOf(body, catalog, dialect)));
  return inside.length === 0 ? own : [...inside, ...own];
}

function ownChanges(statement: Statement, catalog: Catalog | null, dialect: Dialect): Change[] {
  switch (statement.kind) {
    case "update":
      return updates(statement, catalog, dialect);
    case "delete":
      return deletes(statement, catalog, dialect);
    case "truncate": {
      const names = new Names(catalog, dialect, null);
      return statement.targets.map((target) => {
        const scope = names.scope([target], null);
        return {
          action: "truncate",
          statement,
          name: target.name,
          table: scope.relations[0].table,
          relation: scope.relations[0],
          scope,
          names,
          conditions: [],
          tied: false,
          limit: null,
          current: false,
        };
      });
    }
    default:
      return [];
  }
}

function updates(statement: UpdateStatement, catalog: Catalog | null, dialect: Dialect): Change[] {
  const names = new Names(catalog, dialect, statement.with);
  const written = flatSources(statement.target);
  // T-SQL: the target named again in FROM is the same table, by its alias or by its name.
  const first = written[0];
  const again =
    dialect.engine.targetThroughFrom && first?.kind === "table" ? sameSource(first, statement.from, names) : null;
  const sources = again ? statement.from : both(statement.target, statement.from);
  const scope = names.scope(sources, null);
  const targets = again ? [again] : written.length === 1 ? [first] : assignedSources(statement, scope, names, written);
  return targets.map((target) => change("update", statement, target, sources, scope, names));
}

/** Two lists as one. */
function both(a: readonly Source[], b: readonly Source[]): readonly Source[] {
  return b.length === 0 ? a : a.length === 0 ? b : [...a, ...b];
}

function deletes(statement: DeleteStatement, catalog: Catalog | null, dialect: Dialect): Change[] {
  const names = new Names(catalog, dialect, statement.with);
  const sources = both(statement.from, statement.using);
  const scope = names.scope(sources, null);
  let targets: Source[] = [];
  for (const name of statement.named) {
    const parts = name.parts[name.parts.length - 1].text === "*" ? name.parts.slice(0, -1) : name.parts;
    const wanted = names.fold(parts[parts.length - 1]);
    const found = scope.relations.find((relation) => relation.name === wanted) ?? byTable(scope, name, names);
    if (found) targets.push(found.source);
    else targets.push(plainTable({ ...name, parts }));
  }
  if (targets.length === 0) targets = flatSources(statement.from).slice(0, 1);
  return targets.map((target) => change("delete", statement, target, sources, scope, names));
}

/** The source of FROM that an UPDATE's target names: by alias first, then by table. */
function sameSource(target: TableSource, from: readonly Source[], names: Names): Source | null {
  const wanted = names.fold(target.name.parts[target.name.parts.length - 1]);
  const sources = flatSources(from);
  if (target.name.parts.length === 1) {
    const alias = sources.find((source) => source.alias && names.fold(source.alias) === wanted);
    if (alias) return alias;
  }
  return (
    sources.find(
      (source) => source.kind === "table" && names.fold(source.name.parts[source.name.parts.length - 1]) === wanted,
    ) ?? null
  );
}

function byTable(scope: Scope, name: Name, names: Names): Relation | undefined {
  const wanted = names.fold(name.parts[name.parts.length - 1]);
  return scope.relations.find(
    ({ source }) => source.kind === "table" && names.fold(source.name.parts[source.name.parts.length - 1]) === wanted,
  );
}

/** The joined tables whose columns SET names (mysql, jet). */
function assignedSources(
  statement: UpdateStatement,
  scope: Scope,
  names: Names,
  written: readonly Source[],
): readonly Source[] {
  const targets = new Set<Source>();
  for (const assignment of statement.assignments) {
    for (const target of assignment.targets) {
      if (target.kind !== "column") continue;
      const found = names.resolve(target, scope);
      if (found) targets.add(found.relation.source);
    }
  }
  return targets.size > 0 ? [...targets] : written.slice(0, 1);
}

function change(
  action: Change["action"],
  statement: UpdateStatement | DeleteStatement,
  target: Source,
  sources: readonly Source[],
  scope: Scope,
  names: Names,
): Change {
  const relation = scope.relations.find((one) => one.source === target) ?? null;
  const node: Change = {
    action,
    statement,
    name: target.kind === "table" ? target.name : nameOf(target),
    table: relation?.table,
    relation,
    scope,
    names,
    conditions: statement.where ? [{ expr: statement.where, where: "where" }] : [],
    tied: false,
    limit: isWhole(statement.limit) ? null : statement.limit,
    current: statement.currentOf !== null,
  };
  for (const source of sources) {
    if (source.kind === "joined" && holds(source, target)) joinConditions(source, target, node);
  }
  if (sources.some((source) => asksEachRow(source, names))) node.tied = true;
  follow(target, node);
  return node;
}

/** TOP (100) PERCENT takes all rows (tsql). */
function isWhole(limit: Limit | null): boolean {
  if (!limit?.percent || !limit.count) return false;
  const count = constant(limit.count);
  return count?.type === "number" && count.value >= 100;
}

/** `USING LATERAL (SELECT … WHERE line.order_id = orders.order_id)`: a source that depends on the row beside it. */
function asksEachRow(source: Source, names: Names): boolean {
  if (source.kind === "derived")
    return source.lateral && source.query.kind === "query" && names.correlated(source.query);
  if (source.kind !== "joined") return false;
  const inner = source.joins.filter(({ type }) => type === "inner" || type === "cross");
  return asksEachRow(source.first, names) || inner.some((join) => asksEachRow(join.source, names));
}

function nameOf(source: Source): Name {
  const text = source.alias?.text ?? "";
  return {
    kind: "name",
    parts: [{ text, quoted: false, hole: false, start: source.start, end: source.end }],
    link: null,
    start: source.start,
    end: source.end,
  };
}

function holds(source: Source, target: Source): boolean {
  if (source === target) return true;
  if (source.kind !== "joined") return false;
  return holds(source.first, target) || source.joins.some((join) => holds(join.source, target));
}

/**
 * The ON conditions that a row of the target must meet. An outer join filters only the side that
 * it may fill with NULLs.
 */
function joinConditions(source: Source & { kind: "joined" }, target: Source, node: Change): void {
  let inside = holds(source.first, target);
  if (source.first.kind === "joined" && inside) joinConditions(source.first, target, node);
  for (const join of source.joins) {
    const here = holds(join.source, target);
    if (here && join.source.kind === "joined") joinConditions(join.source, target, node);
    const preserved =
      join.type === "full" ||
      (join.type === "left" && inside && !here) ||
      (join.type === "right" && here) ||
      join.type === "outer-apply";
    if (!preserved && (here || inside)) {
      if (join.on) node.conditions.push({ expr: join.on, where: "join" });
      else if (join.using || join.natural || join.type === "apply") node.tied = true;
    } else if (!preserved && join.on) {
      // A join between other tables still decides which of their rows meet the target.
      node.conditions.push({ expr: join.on, where: "join" });
    }
    if (here) inside = true;
  }
}

/** Follows a target that is a common table expression or a derived table down to its base table. */
function follow(target: Source, node: Change): void {
  let current: Source | undefined = target;
  for (let depth = 0; depth < 20 && current; depth++) {
    const common = node.names.common(current);
    const view: Query | null = common || current.kind !== "table" ? null : viewOf(current, node.names);
    const query: Query | null = common
      ? common.body.kind === "query"
        ? common.body
        : null
      : current.kind === "derived" && current.query.kind === "query"
        ? current.query
        : view;
    if (!query) break;
    const body: QueryBody = query.body;
    if (body.kind !== "select") break;
    if (view) {
      // The view's filter stands in another text: that it filters is what counts here.
      if (body.where || body.having) node.tied = true;
    } else if (body.where) node.conditions.push({ expr: body.where, where: "inside" });
    if (query.limit ?? body.top) node.limit = query.limit ?? body.top;
    if (body.groupBy.length > 0 || body.distinct) node.tied = true;
    for (const source of body.from) {
      if (source.kind === "joined") node.tied = true;
    }
    current = flatSources(body.from)[0];
    if (current?.kind === "table") {
      node.name = current.name;
      const relation = node.names.relation(current);
      node.table = relation.table;
      if (common === undefined || node.names.common(current) === undefined) node.relation = node.relation ?? relation;
    }
  }
}

/** The query of the view that a source means; null for tables. */
function viewOf(source: TableSource, names: Names): Query | null {
  const found = names.catalog?.resolveRelation(source.name);
  return found?.object === "view" ? (viewQuery(found, names.dialect.id)?.tree ?? null) : null;
}

/** The target's name for messages and results: the catalog's where it is known, else as written. */
export function targetName(change: Change): string {
  return change.table ? shownName(change.table) : writtenName(change.name);
}
