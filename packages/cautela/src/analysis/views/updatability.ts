import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { type Rule, shownName, type Table, type Trigger, type View } from "../../catalog/model.ts";
import { tableNameOf } from "../../catalog/names.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { refusals, systemColumns, viewRules } from "../../sql/dialects/views.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { computedReason, type Refusals, type WriteAction } from "./refusals.ts";
import { type ShapeColumn, type ShapeSource, shapeOf, sourceOf, type ViewShape } from "./shape.ts";

const WRITE_ACTIONS: readonly WriteAction[] = ["insert", "update", "delete"];

/** A column of a view, and where a value written to it lands. */
export interface ViewColumn {
  name: string;
  /** The column of a base table behind it, through views in between; null for what is computed. */
  base: { table: Table; column: string } | null;
  /** The column of the table or view that the view itself reads. */
  below: { relation: RelationObject; column: string } | null;
  /** Which of the tables in FROM it comes from, down to the base table: "0/1" is the second one of the first view. */
  place: string;
  /** Why it cannot be written; null where it can. */
  reason: string | null;
}

/** Whether rows can be written through a view, and where they land. */
export interface Updatability {
  view: View;
  /** False where the view's query, or something it depends on, is not known: nothing is said then. */
  known: boolean;
  /** By action: through the view itself, an INSTEAD OF trigger or a rule; null where it is refused. */
  through: Record<WriteAction, "view" | "trigger" | "rule" | null>;
  /** The engine's own reason, in plain words, for each action that is refused. */
  reason: Record<WriteAction, string | null>;
  columns: ViewColumn[];
  /** The base tables that can be written through it; more than one for a join. */
  bases: Table[];
  /** The tables and views that it reads itself and that can be written through it. */
  below: RelationObject[];
  /** The texts of the conditions that hide rows of the base, the innermost last. */
  hides: string[];
  /** Names the view whose check option refuses rows that leave it, and how far it looks. */
  checks: { view: string; option: "local" | "cascaded" } | null;
  /** It reads several tables. */
  joined: boolean;
  /** See `Refusals.alone`. */
  alone: boolean;
  triggers: Partial<Record<WriteAction, Trigger[]>>;
  rules: Partial<Record<WriteAction, Rule[]>>;
}

/**
 * Whether and how rows can be written through a view, by the rules of its engine.
 *
 * PostgreSQL: manual, CREATE VIEW, "Updatable Views". MySQL: reference manual, "Updatable and Insertable
 * Views"; MariaDB: "Inserting and Updating with Views". SQLite: "CREATE VIEW": never. SQL Server: CREATE
 * VIEW, "Updatable Views". Oracle: SQL reference, CREATE VIEW, "Notes on Updatable Views" and
 * "Key-preserved tables".
 */
export function updatability(
  view: View,
  catalog: Catalog,
  dialect: Dialect,
  above: ReadonlySet<View> = NO_VIEWS,
): Updatability {
  const key = tableKey(view.schema, view.name);
  const result: Updatability = {
    view,
    known: false,
    through: { insert: null, update: null, delete: null },
    reason: { insert: null, update: null, delete: null },
    columns: [],
    bases: [],
    below: [],
    hides: [],
    checks: view.checkOption ? { view: shownName(view), option: view.checkOption } : null,
    joined: false,
    alone: false,
    triggers: {},
    rules: {},
  };
  // A view that reads itself cannot be made, only described; a chain that is too long is not followed.
  const shape = above.has(view) || above.size >= DEEPEST ? null : shapeOf(view, catalog, dialect);
  if (shape) {
    result.known = true;
    result.joined = shape.joined;
    judge(result, shape, catalog, dialect, new Set([...above, view]));
  }
  for (const action of WRITE_ACTIONS) {
    const triggers = catalog
      .triggersOf(key)
      .filter((one) => one.timing === "instead" && one.events.includes(action) && one.enabled !== "off");
    const rules = catalog.rulesOf(key).filter((one) => one.event === action && one.enabled);
    result.triggers[action] = triggers;
    result.rules[action] = rules;
    const instead = rules.filter((one) => one.instead);
    if (instead.some((one) => one.condition === null)) {
      result.through[action] = "rule";
      result.reason[action] = null;
    } else if (instead.length > 0 && triggers.length === 0) {
      result.through[action] = null;
      result.reason[action] =
        `its rule \`${instead[0].name}\` acts only under a condition, so the view is not written by itself`;
    } else if (triggers.length > 0) {
      result.through[action] = "trigger";
      result.reason[action] = null;
    }
  }
  if (!shape) result.known = WRITE_ACTIONS.every((action) => result.through[action] !== null);
  return result;
}

/** What the view's own query allows, without triggers and rules. */
function judge(
  result: Updatability,
  shape: ViewShape,
  catalog: Catalog,
  dialect: Dialect,
  above: ReadonlySet<View>,
): void {
  const { view } = result;
  const below = new Map<ShapeSource, Updatability>();
  for (const source of shape.sources) {
    if (source.kind !== "table") continue;
    if (!source.relation && isOwn(source, catalog, dialect)) source.kind = "own";
    else if (!source.relation && isOwnTable(source, dialect)) source.open = true;
    else if (!source.relation) result.known = false;
    else if (source.relation.object === "view")
      below.set(source, updatability(source.relation, catalog, dialect, above));
  }
  for (const one of below.values()) if (!one.known) result.known = false;
  if (shape.where) {
    const text = viewQuery(view, dialect.id)?.text ?? "";
    result.hides.push(text.slice(shape.where.start, shape.where.end));
  }
  const rules: Refusals = refusals(view, shape, dialect);
  result.alone = rules.alone ?? false;
  if (rules.unsure) result.known = false;
  result.columns = shape.columns.map((column) =>
    settled(seenThrough(column, shape, below, dialect), shape, below, dialect),
  );
  const bases = new Set<Table>();
  for (const source of shape.sources) {
    if (rules.sealedSources.has(source)) continue;
    if (source.relation?.object === "table") bases.add(source.relation);
    for (const table of below.get(source)?.bases ?? []) bases.add(table);
  }
  result.bases = [...bases];
  for (const source of shape.sources)
    if (source.relation && !rules.sealedSources.has(source)) result.below.push(source.relation);
  for (const column of result.columns) {
    const own = shape.columns[result.columns.indexOf(column)];
    const sealed = own.from ? rules.sealedSources.get(own.from.source) : undefined;
    if (sealed && column.reason === null) column.reason = sealed;
  }
  const writable = result.columns.some(({ reason }) => reason === null);
  for (const action of WRITE_ACTIONS) {
    let reason = rules[action];
    // The shape alone says it, whatever the tables are.
    if (reason !== null && rules.update !== null && rules.delete !== null && rules.insert !== null) result.known = true;
    for (const one of below.values()) {
      // A join writes one of its tables: a view beside it only has to be read.
      const beside = shape.joined && !(rules.wholeJoin && action === "insert");
      if (beside || one.through[action] !== null) continue;
      if (reason === null && one.alone && action === "update" && !shape.joined) result.alone = true;
      reason ??= `it is based on \`${shownName(one.view)}\`, and ${one.reason[action] ?? "that view cannot be written"}`;
    }
    if (reason === null && action !== "delete" && !writable && result.known)
      reason = "none of its columns is a plain column of a table";
    result.reason[action] = reason;
    result.through[action] = reason === null ? "view" : null;
  }
  if (!shape.joined) {
    for (const one of below.values()) {
      result.hides.push(...one.hides);
      // What a view below checks holds for rows that come through this one as well; CASCADED looks below.
      if (one.checks && result.checks === null) result.checks = one.checks;
      if (one.joined) result.joined = true;
    }
  }
}

/** A column followed through the views below to its base table. */
function settled(
  column: ShapeColumn,
  shape: ViewShape,
  views: ReadonlyMap<ShapeSource, Updatability>,
  dialect: Dialect,
): ViewColumn {
  const { name, from } = column;
  const reason = !column.from
    ? computedReason(column.expr)
    : systemColumns(dialect).has(column.from.column)
      ? "it is a system column"
      : null;
  const place = from ? String(shape.sources.indexOf(from.source)) : "";
  if (from?.source.open) return { name, base: null, below: null, place, reason };
  if (!from?.source.relation)
    return { name, base: null, below: null, place, reason: reason ?? "it is not a column of a table" };
  const below = { relation: from.source.relation, column: from.column };
  if (from.source.relation.object === "table") {
    const table = from.source.relation;
    return { name, base: { table, column: from.column }, below, place, reason };
  }
  const one = views.get(from.source);
  // A trigger or rule of the view below takes any of its columns.
  const open = one && [one.through.update, one.through.insert].some((by) => by === "trigger" || by === "rule");
  const inner = one?.columns.find((column) => column.name === from.column);
  if (!inner) {
    const unknown = open ? null : "where it comes from is not known";
    return { name, base: null, below, place, reason: reason ?? unknown };
  }
  const own = open ? null : inner.reason;
  const closed = one?.through.update === null && !one.alone && !open;
  const sealed = closed ? (one.reason.update ?? "that view cannot be written") : null;
  return { name, base: inner.base, below, place: `${place}/${inner.place}`, reason: reason ?? own ?? sealed };
}

function isOwnTable({ source }: ShapeSource, dialect: Dialect): boolean {
  if (source.kind !== "table") return false;
  const { schema, table } = tableNameOf(source.name, dialect);
  return viewRules(dialect).isOwnTable(source.name.parts.length > 1 ? schema : "", table);
}

/** Whether a relation that the catalog lacks is one of the engine's own views, or a sequence. */
function isOwn({ source }: ShapeSource, catalog: Catalog, dialect: Dialect): boolean {
  if (source.kind !== "table") return false;
  const { schema, table } = tableNameOf(source.name, dialect);
  return (
    viewRules(dialect).isOwnView(source.name.parts.length > 1 ? schema : "", table) ||
    catalog.object("sequence", catalog.keyOf("sequence", source.name)) !== undefined
  );
}

/** A column under what the engine sees through: a cast to its own type, COLLATE. */
function seenThrough(
  column: ShapeColumn,
  shape: ViewShape,
  below: ReadonlyMap<ShapeSource, Updatability>,
  dialect: Dialect,
): ShapeColumn {
  if (column.from || !column.expr) return column;
  const { sees } = viewRules(dialect);
  const baseOf = (expr: Expr) => {
    const own = settled({ name: "", from: sourceOf(expr, shape, dialect), expr }, shape, below, dialect).base;
    return own?.table.columns.find(({ name }) => name === own.column);
  };
  for (let expr = sees(column.expr, baseOf); expr; expr = sees(expr, baseOf)) {
    const from = sourceOf(expr, shape, dialect);
    if (from) return { ...column, from };
  }
  return column;
}

/** This many views one above the other are followed. */
const DEEPEST = 150;

const NO_VIEWS: ReadonlySet<View> = new Set();

const known = new WeakMap<View, { catalog: Catalog; version: number; result: Updatability }>();

/** As {@link updatability}, kept as long as the catalog does not change. */
export function knownUpdatability(view: View, catalog: Catalog, dialect: Dialect): Updatability {
  const before = known.get(view);
  if (before && before.catalog === catalog && before.version === catalog.version) return before.result;
  const result = updatability(view, catalog, dialect);
  known.set(view, { catalog, version: catalog.version, result });
  return result;
}
