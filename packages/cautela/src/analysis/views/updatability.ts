import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { type Rule, shownName, type Table, type Trigger, type View } from "../../catalog/model.ts";
import { viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { refusals, systemColumns } from "../../sql/dialects/views.ts";
import { computedReason, type Refusals, type WriteAction } from "./refusals.ts";
import { type ShapeColumn, type ShapeSource, shapeOf, type ViewShape } from "./shape.ts";

const WRITE_ACTIONS: readonly WriteAction[] = ["insert", "update", "delete"];

/** A column of a view, and where a value written to it lands. */
export interface ViewColumn {
  name: string;
  /** The column of a base table behind it, through views in between; null for what is computed. */
  base: { table: Table; column: string } | null;
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
  /** The texts of the conditions that hide rows of the base, the innermost last. */
  hides: string[];
  /** Names the view whose check option refuses rows that leave it, and how far it looks. */
  checks: { view: string; option: "local" | "cascaded" } | null;
  /** It reads several tables. */
  joined: boolean;
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
export function updatability(view: View, catalog: Catalog, dialect: Dialect, depth = 0): Updatability {
  const key = tableKey(view.schema, view.name);
  const result: Updatability = {
    view,
    known: false,
    through: { insert: null, update: null, delete: null },
    reason: { insert: null, update: null, delete: null },
    columns: [],
    bases: [],
    hides: [],
    checks: view.checkOption ? { view: shownName(view), option: view.checkOption } : null,
    joined: false,
    triggers: {},
    rules: {},
  };
  const shape = depth < 16 ? shapeOf(view, catalog, dialect) : null;
  if (shape) {
    result.known = true;
    result.joined = shape.joined;
    judge(result, shape, catalog, dialect, depth);
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
function judge(result: Updatability, shape: ViewShape, catalog: Catalog, dialect: Dialect, depth: number): void {
  const { view } = result;
  const below = new Map<ShapeSource, Updatability>();
  for (const source of shape.sources) {
    if (source.kind !== "table") continue;
    if (!source.relation) result.known = false;
    else if (source.relation.object === "view")
      below.set(source, updatability(source.relation, catalog, dialect, depth + 1));
  }
  for (const one of below.values()) if (!one.known) result.known = false;
  if (shape.where) {
    const text = viewQuery(view, dialect.id)?.text ?? "";
    result.hides.push(text.slice(shape.where.start, shape.where.end));
  }
  const rules: Refusals = refusals(view, shape, dialect);
  result.columns = shape.columns.map((column) => settled(column, below, dialect));
  const bases = new Set<Table>();
  for (const source of shape.sources) {
    if (rules.sealedSources.has(source)) continue;
    if (source.relation?.object === "table") bases.add(source.relation);
    for (const table of below.get(source)?.bases ?? []) bases.add(table);
  }
  result.bases = [...bases];
  for (const column of result.columns) {
    const own = shape.columns[result.columns.indexOf(column)];
    const sealed = own.from ? rules.sealedSources.get(own.from.source) : undefined;
    if (sealed && column.reason === null) column.reason = sealed;
  }
  const writable = result.columns.some(({ reason }) => reason === null);
  for (const action of WRITE_ACTIONS) {
    let reason = rules[action];
    for (const one of below.values()) {
      // A join writes one of its tables: a view beside it only has to be read.
      if (shape.joined || one.through[action] !== null) continue;
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
function settled(column: ShapeColumn, below: ReadonlyMap<ShapeSource, Updatability>, dialect: Dialect): ViewColumn {
  const { name, from } = column;
  const reason = !column.from
    ? computedReason(column.expr)
    : systemColumns(dialect).has(column.from.column)
      ? "it is a system column"
      : null;
  if (!from?.source.relation) return { name, base: null, reason: reason ?? "it is not a column of a table" };
  if (from.source.relation.object === "table") {
    const table = from.source.relation;
    return { name, base: { table, column: from.column }, reason };
  }
  const inner = below.get(from.source)?.columns.find((one) => one.name === from.column);
  if (!inner) return { name, base: null, reason: reason ?? "where it comes from is not known" };
  return { name, base: inner.base, reason: reason ?? inner.reason };
}

const known = new WeakMap<View, { catalog: Catalog; version: number; result: Updatability }>();

/** As {@link updatability}, kept as long as the catalog does not change. */
export function knownUpdatability(view: View, catalog: Catalog, dialect: Dialect): Updatability {
  const before = known.get(view);
  if (before && before.catalog === catalog && before.version === catalog.version) return before.result;
  const result = updatability(view, catalog, dialect);
  known.set(view, { catalog, version: catalog.version, result });
  return result;
}
