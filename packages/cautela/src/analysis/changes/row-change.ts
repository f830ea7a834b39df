import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Assignment, Expr, Name, Source, Statement } from "../../sql/nodes/tree.ts";
import { type ConstantValue, sameValue } from "../conditions/conditions.ts";
import { constant, plainColumn } from "../conditions/constants.ts";
import { Names } from "../names/scope.ts";
import { type Change, changesOf } from "./change.ts";
import { insertReach } from "./insert-reach.ts";
import { type Reach, reachOf } from "./reach.ts";
import { takesKeys } from "./taken-keys.ts";

/** One change of rows that a statement makes, before anything that follows from it. */
export interface RowChange {
  /** The table or view that the statement names; null where the catalog lacks it. */
  relation: RelationObject | null;
  /** As the statement writes it. */
  written: string;
  action: "insert" | "update" | "delete" | "truncate";
  /** The columns that it gives a value, folded; null: all of them. */
  columns: readonly string[] | null;
  /** Values that are the same for every row, by column. */
  values: ReadonlyMap<string, ConstantValue>;
  reach: Reach;
  /** Happens whenever the statement meets rows; not so for the branches of an upsert or a MERGE. */
  certain: boolean;
  /** REPLACE deletes the row that stands in the way; `columns` are then those that the new row is given. */
  replaced: boolean;
  manner: Manner;
  /** TRUNCATE … CASCADE. */
  cascades: boolean;
  /** ONLY: the tables that inherit are left alone (postgresql). */
  only: boolean;
  /** The change of rows that it is, where there is one. */
  change: Change | null;
}

/** How a statement makes a change, where that decides whether the engine takes it. */
export interface Manner {
  /** It joins its target with others. */
  beside: boolean;
  /** It is a MERGE. */
  merge: boolean;
  /** It stands in a WITH. */
  inWith: boolean;
  /** It has a WITH of its own. */
  afterWith: boolean;
  returning: boolean;
}

export const PLAIN: Manner = { beside: false, merge: false, inWith: false, afterWith: false, returning: false };

const NO_VALUES: ReadonlyMap<string, ConstantValue> = new Map();

/** The changes of rows that a statement makes by itself, those in its WITH included. */
export function rowChangesOf(
  statement: Statement,
  catalog: Catalog,
  dialect: Dialect,
  own: readonly Known[] = known(statement, catalog, dialect),
): RowChange[] {
  const list = directChanges(statement, catalog, dialect, own);
  if (!dialect.engine.rules) return list;
  // A statement in WITH has been given its manner when it was read.
  for (const one of list)
    if (!one.manner.inWith) one.manner = { ...one.manner, ...mannerOf(one.change?.statement ?? statement, statement) };
  return list;
}

function mannerOf(changing: Statement, whole: Statement): Omit<Manner, "beside"> {
  return {
    merge: changing.kind === "merge",
    inWith: changing !== whole,
    afterWith: "with" in changing && changing.with !== null,
    returning: "returning" in changing && changing.returning !== null,
  };
}

function directChanges(statement: Statement, catalog: Catalog, dialect: Dialect, own: readonly Known[]): RowChange[] {
  switch (statement.kind) {
    case "update":
      return [...added(statement, catalog, dialect), ...changes(own, catalog), ...pushedOut(own, catalog)];
    case "delete":
    case "truncate":
    case "select":
      return [...added(statement, catalog, dialect), ...changes(own, catalog)];
    case "insert":
      return [
        ...added(statement, catalog, dialect),
        ...changes(own, catalog),
        ...inserted(statement, catalog, dialect),
      ];
    case "multi-insert":
      return statement.branches.map(({ target, columns, when }) => ({
        ...named(target.name, "insert", catalog),
        columns: columns?.map((one) => fold(one, catalog, dialect)) ?? null,
        certain: when === null,
        reach: { bound: "some" as const },
      }));
    case "merge":
      return [...added(statement, catalog, dialect), ...changes(own, catalog), ...merged(statement, catalog, dialect)];
    case "copy":
      return statement.table && statement.direction === "in"
        ? [
            {
              ...named(statement.table, "insert", catalog),
              columns: statement.columns?.map((one) => foldName(one, dialect)) ?? null,
              reach: { bound: "some" },
            },
            ...(statement.replace ? [replacedRows(statement.table, null, { bound: "some" }, catalog)] : []),
          ]
        : [];
    default:
      return [];
  }
}

/** An update or a delete, those in WITH included, with its reach. */
interface Known {
  change: Change;
  result: { reach: Reach };
}

function known(statement: Statement, catalog: Catalog, dialect: Dialect): Known[] {
  return changesOf(statement, catalog, dialect).map((change) => ({ change, result: reachOf(change) }));
}

function changes(own: readonly Known[], catalog: Catalog): RowChange[] {
  return own.map(({ change, result }) => ({
    ...changed(change, result.reach, catalog),
    // Rows of one target may be gone, by a cascade, before the statement comes to them.
    certain: own.length === 1,
  }));
}

/** The rows that UPDATE OR REPLACE deletes, because they have the key that another row gets. */
function pushedOut(own: readonly Known[], catalog: Catalog): RowChange[] {
  return own.flatMap(({ change, result }) =>
    takesKeys(change) ? [replacedRows(change.name, [], result.reach, catalog)] : [],
  );
}

/** Rows that go because others come with their keys. */
function replacedRows(name: Name, columns: readonly string[] | null, reach: Reach, catalog: Catalog): RowChange {
  return { ...named(name, "delete", catalog), columns, reach, certain: false, replaced: true };
}

/** The statements in WITH that bring rows in (postgresql). */
function added(statement: Statement, catalog: Catalog, dialect: Dialect): RowChange[] {
  const clause = statement.kind === "select" ? statement.query.with : "with" in statement ? statement.with : null;
  return (clause?.tables ?? []).flatMap(({ body }) =>
    body.kind === "insert" || body.kind === "merge"
      ? rowChangesOf(body, catalog, dialect).map((one) => ({ ...one, manner: { ...one.manner, inWith: true } }))
      : [],
  );
}

function fold(name: Name, catalog: Catalog, dialect: Dialect): string {
  return new Names(catalog, dialect, null).fold(name.parts[name.parts.length - 1]);
}

function named(name: Name, action: RowChange["action"], catalog: Catalog): RowChange {
  return { ...plainChange(name, action), relation: catalog.resolveRelation(name) ?? null };
}

/** A change of which nothing is said beyond what it names. */
export function plainChange(name: Name, action: RowChange["action"]): RowChange {
  return {
    relation: null,
    written: writtenName(name),
    action,
    columns: null,
    values: NO_VALUES,
    reach: { bound: "unknown" },
    certain: true,
    replaced: false,
    manner: PLAIN,
    cascades: false,
    only: false,
    change: null,
  };
}

function changed(change: Change, reach: Reach, catalog: Catalog): RowChange {
  const { statement, relation, names } = change;
  const source: Source | undefined = relation?.source;
  const direct = source?.kind === "table" && !names.common(source) ? source.name : change.name;
  const firing: RowChange = { ...named(direct, change.action, catalog), reach, change };
  firing.only = source?.kind === "table" && source.only;
  if (statement.kind === "truncate") firing.cascades = statement.cascade;
  if (statement.kind === "update") {
    const [target, ...others] = statement.target;
    const beside = others.length > 0 || target?.kind === "joined";
    if (beside) firing.manner = { ...firing.manner, beside };
    const own = assigned(statement.assignments, names, (target) => {
      if (target.kind !== "column") return false;
      // Where one table stands before SET, its columns stand after it, whatever FROM adds.
      if (!beside) return true;
      const found = names.resolve(target, change.scope);
      return !found || !relation || found.relation === relation;
    });
    firing.columns = own.columns;
    firing.values = own.values;
  }
  return firing;
}

/** The columns of assignments, and the constants that they are set to. */
function assigned(
  assignments: readonly Assignment[],
  names: Names,
  mine: (target: Expr) => boolean,
): { columns: string[]; values: Map<string, ConstantValue> } {
  const columns: string[] = [];
  const values = new Map<string, ConstantValue>();
  for (const { targets, value } of assignments) {
    targets.forEach((target, i) => {
      // An element of an array or of a JSON value: its column is written.
      const whole = target.kind === "compound" && target.what === "subscript" ? target.operands[0] : target;
      const ref = plainColumn(whole);
      if (!ref || !mine(whole)) return;
      const column = names.fold(ref.path[ref.path.length - 1]);
      columns.push(column);
      const known =
        whole !== target
          ? null
          : targets.length === 1
            ? constant(value)
            : value.kind === "row" && value.items[i]
              ? constant(value.items[i])
              : null;
      if (known) values.set(column, known);
    });
  }
  return { columns, values };
}

function inserted(statement: Extract<Statement, { kind: "insert" }>, catalog: Catalog, dialect: Dialect): RowChange[] {
  const { target, columns, source, set, conflicts } = statement;
  if (target.kind !== "table") return [];
  const names = new Names(catalog, dialect, null);
  const insert = named(target.name, "insert", catalog);
  insert.reach = insertReach(statement, catalog, dialect) ?? { bound: "some" };
  insert.columns = columns?.map((one) => names.fold(one.parts[one.parts.length - 1])) ?? null;
  const body = source?.body;
  if (set) {
    const own = assigned(set, names, () => true);
    insert.columns = own.columns;
    insert.values = own.values;
  } else if (body?.kind === "values" && body.rowCount === body.rows.length) {
    const listed = insert.columns ?? (insert.relation?.object === "view" ? insert.relation.columns : null);
    if (listed) insert.values = valuesOf(listed, body.rows);
  } else if (body?.kind === "select" && insert.columns?.length === body.items.length)
    insert.values = valuesOf(insert.columns, [body.items.map(({ expr }) => expr)]);
  const list = [insert];
  if (statement.replace) list.push(replacedRows(target.name, insert.columns, insert.reach, catalog));
  for (const { action, assignments } of conflicts) {
    if (action !== "update") continue;
    const own = assigned(assignments, names, () => true);
    list.push({
      ...named(target.name, "update", catalog),
      columns: own.columns,
      values: own.values,
      reach: insert.reach,
      certain: false,
    });
  }
  return list;
}

/** The constants that a column has in every row, by column. */
function valuesOf(columns: readonly string[], rows: readonly (readonly Expr[])[]): Map<string, ConstantValue> {
  const values = new Map<string, ConstantValue>();
  columns.forEach((column, i) => {
    const [first, ...others] = rows.map((row) => (row[i] ? constant(row[i]) : null));
    if (first && others.every((one) => one !== null && sameValue(first, one))) values.set(column, first);
  });
  return values;
}

function merged(statement: Extract<Statement, { kind: "merge" }>, catalog: Catalog, dialect: Dialect): RowChange[] {
  const { target } = statement;
  if (target.kind !== "table") return [];
  const names = new Names(catalog, dialect, null);
  const list: RowChange[] = [];
  for (const { action, assignments, columns, deleteWhere } of statement.whens) {
    if (action === "nothing") continue;
    const firing: RowChange = { ...named(target.name, action, catalog), reach: { bound: "some" }, certain: false };
    if (action === "update") {
      const own = assigned(assignments, names, () => true);
      firing.columns = own.columns;
      firing.values = own.values;
    } else if (action === "insert")
      firing.columns = columns?.map((one) => names.fold(one.parts[one.parts.length - 1])) ?? null;
    list.push(firing);
    if (deleteWhere) list.push({ ...named(target.name, "delete", catalog), reach: { bound: "some" }, certain: false });
  }
  return list;
}
