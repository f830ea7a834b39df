import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type {
  AlterAction,
  AlterTableStatement,
  ColumnDefinition,
  CreateIndexStatement,
  CreateTableStatement,
  Expr,
  ForeignKeyClause,
  Ident,
  Name,
  Statement,
  TableConstraint,
} from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { wordIn } from "../../text/word-in.ts";
import type { Catalog } from "../catalog.ts";
import { columnNamed, withOneMore } from "../columns.ts";
import { tableKey } from "../keys.ts";
import {
  type Column,
  emptyTable,
  type ForeignKey,
  type Key,
  type ReferenceAction,
  type Table,
  uniqueKey,
} from "../model.ts";
import { foldName, spelledName, spellingOf, tableNameOf } from "../names.ts";
import { relationKey } from "../relation-keys.ts";
import { columnType, isSerial } from "../types.ts";
import { builtKeys } from "./built-keys.ts";
import { dropDependents } from "./drop.ts";
import { givenNames, withGivenNames } from "./given-names.ts";
import { queryColumns } from "./query-columns.ts";
import { renameRelation } from "./rename.ts";
import { viewsFollowColumn } from "./view-references.ts";

export function createTable(catalog: Catalog, statement: CreateTableStatement, slice: Slice): void {
  const dialect = dialects[catalog.dialect];
  const { schema, table: name } = catalog.place(statement.name, statement.temporary);
  if (statement.ifNotExists && catalog.get(schema, name)) return;
  const temporary =
    statement.temporary ||
    (schema !== "" && schema === dialect.grammar.temporarySchema) ||
    (dialect.syntax.hashTemporary && name.startsWith("#"));
  const table: Table = {
    ...emptyTable(schema, name),
    written: spelledName(statement.name, dialect),
    kind: statement.virtual
      ? "virtual"
      : statement.foreign
        ? "linked"
        : statement.partitioned
          ? "partitioned"
          : "table",
    temporary,
    partial: statement.virtual,
    rows: statement.query ? null : 0,
    inherits: statement.inherits.map((one) => keyOf(catalog, one)),
    partitionOf: statement.partitionOf ? keyOf(catalog, statement.partitionOf) : null,
  };
  // How many rows a table holds that is only declared is not known; a script's own is empty.
  table.rows = null;
  let state = table;
  for (const like of statement.like) state = copiedShape(catalog, state, like, statement.likeIncludes, dialect);
  for (const parent of [...statement.inherits, ...(statement.partitionOf ? [statement.partitionOf] : [])]) {
    const source = catalog.resolve(parent);
    if (!source) {
      // What it takes over from a table that is not known is not known either.
      state = { ...state, partial: true };
      continue;
    }
    const isPartition = statement.partitionOf === parent;
    state = {
      ...state,
      columns: [
        ...state.columns,
        ...source.columns.filter((one) => !state.columns.some((own) => own.name === one.name)),
      ],
      checks: [...state.checks, ...source.checks],
      primaryKey: isPartition ? source.primaryKey : state.primaryKey,
      uniqueKeys: isPartition ? source.uniqueKeys : state.uniqueKeys,
      foreignKeys: isPartition ? source.foreignKeys : state.foreignKeys,
      partial: state.partial || source.partial,
    };
  }
  const mysql = dialect.syntax.inlineKeys;
  if (mysql) {
    const comment = /\bCOMMENT\s*=?\s*'((?:[^']|'')*)'/i.exec(statement.options)?.[1];
    const like = statement.like.length > 0 ? catalog.resolve(statement.like[0]) : undefined;
    state = { ...state, comment: comment?.replaceAll("''", "'") ?? like?.comment ?? null };
  }
  if (statement.query) {
    const columns = queryColumns(statement.query, catalog);
    // mysql copies along what may not be NULL, the others only the values.
    const copied = (column: Column): Column => ({ ...copiedColumn(column), required: mysql && column.required });
    state = columns ? { ...state, columns: [...state.columns, ...columns.map(copied)] } : { ...state, partial: true };
    if (columns && statement.columnNames) {
      const names = statement.columnNames.map((one) => foldName(one, dialect));
      state = {
        ...state,
        columns: state.columns.map((one, i) => (names[i] === undefined ? one : { ...one, name: names[i] })),
      };
    } else if (columns && statement.withData)
      state = {
        ...state,
        built: builtKeys(
          statement.query,
          columns.map(({ name }) => name),
          catalog,
        ),
      };
  }
  const attributes = statement.ofType ? attributesOf(statement.ofType, catalog) : null;
  if (statement.ofType) state = { ...state, columns: attributes ?? [], partial: attributes === null };
  for (const definition of statement.columns) state = withColumn(state, definition, dialect, slice, catalog);
  if (attributes) state = { ...state, columns: inTheirOrder(state.columns, attributes) };
  for (const constraint of statement.constraints) state = withConstraint(state, constraint, dialect, slice, catalog);
  catalog.put(state);
}

/** The columns of a composite type; null where it is not known. */
function attributesOf(name: CreateTableStatement["name"], catalog: Catalog): readonly Column[] | null {
  const { schema, table } = tableNameOf(name, dialects[catalog.dialect]);
  return catalog.type(name.parts.length > 1 ? `${schema}.${table}` : table)?.columns ?? null;
}

/** Columns of a table OF a type: in the type's order and of its types, whatever else is said of them. */
function inTheirOrder(columns: readonly Column[], attributes: readonly Column[]): Column[] {
  return attributes.map((attribute) => {
    const own = columns.find(({ name }) => name === attribute.name) ?? attribute;
    const { type, typeArgs, array, collation } = attribute;
    return { ...own, type, typeArgs, array, collation: own.collation ?? collation };
  });
}

/** The columns that a composite type lists. */
export function typeColumns(
  attributes: readonly ColumnDefinition[],
  dialect: Dialect,
  slice: Slice,
  catalog: Catalog,
): readonly Column[] {
  let table = emptyTable("", "");
  for (const attribute of attributes) table = withColumn(table, attribute, dialect, slice, catalog);
  return table.columns;
}

function keyOf(catalog: Catalog, name: CreateTableStatement["name"]): string {
  return relationKey(name, catalog, dialects[catalog.dialect]);
}

/** A column as CREATE TABLE … AS copies it: its values, and nothing of what guards them. */
function copiedColumn(column: Column): Column {
  return {
    ...column,
    generated: null,
    expression: null,
    identity: null,
    default: null,
    required: false,
    onUpdate: null,
    comment: null,
  };
}

/** CREATE TABLE … (LIKE source INCLUDING …): mysql takes all, postgresql what is named. */
function copiedShape(
  catalog: Catalog,
  table: Table,
  like: CreateTableStatement["name"],
  includes: readonly string[],
  dialect: Dialect,
): Table {
  const source = catalog.resolve(like);
  if (!source) return { ...table, partial: true };
  const all = !dialect.engine.likeIncludes;
  const takes = (what: string): boolean =>
    all || ((includes.includes("all") || includes.includes(what)) && !includes.includes(`-${what}`));
  const columns = source.columns.map((column) => ({
    ...column,
    default: takes("defaults") ? column.default : null,
    generated: takes("generated") ? column.generated : null,
    expression: takes("generated") ? column.expression : null,
    identity: takes("identity") ? column.identity : null,
    comment: takes("comments") ? column.comment : null,
  }));
  return {
    ...table,
    columns: [...table.columns, ...columns],
    primaryKey: takes("indexes") && source.primaryKey ? { ...source.primaryKey, name: null } : null,
    uniqueKeys: takes("indexes") ? source.uniqueKeys.map((key) => ({ ...key, name: all ? key.name : null })) : [],
    checks: takes("constraints") ? source.checks : [],
    partial: source.partial,
  };
}

/** A table with one more column, the column's own constraints included. */
function withColumn(
  table: Table,
  definition: ColumnDefinition,
  dialect: Dialect,
  slice: Slice,
  catalog: Catalog,
): Table {
  const name = foldName(definition.name, dialect);
  const serial = isSerial(definition.type, dialect);
  // DEFAULT NULL COLLATE x: the collation is the column's.
  const collated =
    definition.default?.kind === "compound" && definition.default.what === "collate" ? definition.default : null;
  const domain = definition.type && dialect.engine.domains ? catalog.type(definition.type.name) : undefined;
  const column: Column = {
    name,
    spelling: spellingOf(definition.name, dialect),
    ...columnType(definition.type, dialect),
    required:
      definition.required === true ||
      serial ||
      isRowid(definition, dialect) ||
      definition.identity !== null ||
      domain?.required === true,
    default: isSaid(definition.default)
      ? slice(definition.default.start, collated ? collated.operands[0].end : definition.default.end)
      : serial
        ? `nextval('${table.name}_${name}_seq')`
        : null,
    generated: definition.generatedKind,
    expression: definition.generated ? slice(definition.generated.start, definition.generated.end) : null,
    identity: definition.identity ?? (definition.autoincrement && !serial ? "by default" : null),
    onUpdate: definition.onUpdate ? slice(definition.onUpdate.start, definition.onUpdate.end) : null,
    collation: definition.collation ?? collated?.name ?? binaryCollation(definition),
    comment: definition.comment,
    distinct: null,
    nulls: null,
  };
  if (definition.autoincrement && !dialect.engine.rowidKey) column.required = true;
  const columns = columnNamed(table, name)
    ? [...table.columns.filter((old) => old.name !== name), column]
    : withOneMore(table.columns, column);
  let next: Table = { ...table, columns };
  const named = (given: Ident | null): string | null => (given ? foldName(given, dialect) : null);
  if (definition.primary) next = withKey(next, "primary", uniqueKey(named(definition.named.primary), [name]), dialect);
  else if (definition.unique)
    next = withKey(next, "unique", uniqueKey(named(definition.named.unique), [name]), dialect);
  const inline = dialect.engine.checksCalled === "constraint_n" ? name : null;
  for (const [i, check] of definition.checks.entries()) {
    next = {
      ...next,
      checks: [
        ...next.checks,
        { name: named(definition.named.checks[i]) ?? inline, condition: slice(check.start, check.end), enabled: true },
      ],
    };
  }
  if (!definition.references) return next;
  const key = foreignKey(
    named(definition.named.references),
    [definition.name],
    definition.references,
    dialect,
    referencedKey(definition.references, next, dialect, catalog),
  );
  return { ...next, foreignKeys: [...next.foreignKeys, key] };
}

/** CHARACTER SET x BINARY: the character set's own binary collation (mysql, mariadb). */
function binaryCollation({ type }: ColumnDefinition): string | null {
  const set = /\b(?:character set|charset)\s+(\w+)\b.*\bbinary\b/i.exec(type?.modifiers ?? "")?.[1];
  return set === undefined ? null : `${set}_bin`;
}

/** An `INTEGER PRIMARY KEY` of sqlite is the row's number and never NULL. */
function isRowid(definition: ColumnDefinition, dialect: Dialect): boolean {
  return dialect.engine.rowidKey && definition.primary && definition.type?.name === "integer";
}

function withKey(table: Table, kind: "primary" | "unique", key: Key, dialect: Dialect): Table {
  if (kind === "unique") return { ...table, uniqueKeys: [...table.uniqueKeys, key] };
  // In sqlite a primary key of an ordinary table may hold NULLs (its manual, "CREATE TABLE", 3.5).
  const columns = dialect.engine.rowidKey
    ? table.columns
    : table.columns.map((column) => (key.columns.includes(column.name) ? { ...column, required: true } : column));
  return { ...table, columns, primaryKey: key };
}

function withConstraint(
  table: Table,
  constraint: TableConstraint,
  dialect: Dialect,
  slice: Slice,
  catalog: Catalog,
): Table {
  const name = constraint.name ? foldName(constraint.name, dialect) : null;
  switch (constraint.kind) {
    case "primary":
    case "unique": {
      const columns = constraint.columns.map((column) => foldName(column, dialect));
      const where = constraint.where ? slice(constraint.where.start, constraint.where.end) : null;
      return withKey(
        table,
        constraint.kind,
        uniqueKey(name, columns, constraint.inexact || where !== null, where),
        dialect,
      );
    }
    case "foreign":
      if (!constraint.references) return table;
      return {
        ...table,
        foreignKeys: [
          ...table.foreignKeys,
          {
            ...foreignKey(
              name,
              constraint.columns,
              constraint.references,
              dialect,
              referencedKey(constraint.references, table, dialect, catalog),
            ),
            ...standing(constraint, slice(constraint.references.end, constraint.end)),
          },
        ],
      };
    case "check":
      if (!constraint.check) return table;
      return {
        ...table,
        checks: [
          ...table.checks,
          {
            name,
            condition: slice(constraint.check.start, constraint.check.end),
            enabled: standing(constraint, slice(constraint.check.end, constraint.end)).enabled,
          },
        ],
      };
    default:
      return table;
  }
}

/** What the words after a constraint say: DISABLE, NOT ENFORCED; and whether the rows that are there were looked at. */
function standing({ unchecked }: TableConstraint, words: string): { enabled: boolean; trusted: boolean } {
  const enabled = !/\bdisable\b|\bnot\s+enforced\b/i.test(words);
  return { enabled, trusted: enabled && !unchecked };
}

/** Whether a default gives anything: DEFAULT NULL is what a column has without one. */
function isSaid(given: Expr | null): given is Expr {
  return given !== null && !(given.kind === "literal" && given.type === "null");
}

/** The key of the table to which a foreign key refers. */
function referencedKey(clause: ForeignKeyClause, own: Table, dialect: Dialect, catalog: Catalog): string {
  const { parts } = clause.table;
  return dialect.engine.keysStayInSchema
    ? tableKey(own.schema, foldName(parts[parts.length - 1], dialect))
    : keyOf(catalog, clause.table);
}

function foreignKey(
  name: string | null,
  columns: readonly Ident[],
  clause: ForeignKeyClause,
  dialect: Dialect,
  /** The key of the table that it refers to. */
  table: string,
): ForeignKey {
  return {
    name,
    columns: columns.map((column) => foldName(column, dialect)),
    table,
    referenced: (clause.columns ?? []).map((column) => foldName(column, dialect)),
    onDelete: (clause.onDelete ?? "no action") as ReferenceAction,
    onUpdate: (clause.onUpdate ?? "no action") as ReferenceAction,
    match: clause.match === "full" || clause.match === "partial" ? clause.match : "simple",
    deferrable: clause.deferrable,
    initiallyDeferred: clause.initiallyDeferred,
    enabled: true,
    trusted: true,
  };
}

export function createIndex(catalog: Catalog, statement: CreateIndexStatement, slice: Slice): void {
  const table = catalog.resolve(statement.table);
  if (!table || !statement.unique) return;
  const dialect = dialects[catalog.dialect];
  const name = statement.name ? foldName(statement.name.parts[statement.name.parts.length - 1], dialect) : null;
  const columns = statement.columns.map((column) => foldName(column, dialect));
  const where = statement.where ? slice(statement.where.start, statement.where.end) : null;
  catalog.put({
    ...table,
    uniqueKeys: [...table.uniqueKeys, uniqueKey(name, columns, statement.inexact || where !== null, where)],
  });
}

export function alterTable(catalog: Catalog, statement: AlterTableStatement, slice: Slice): void {
  const found = catalog.resolve(statement.name);
  if (!found) {
    // ALTER TABLE of a view renames it all the same (postgresql).
    const view = catalog.resolveRelation(statement.name);
    for (const action of statement.actions) {
      if (view?.object === "view" && action.what === "rename-column" && view.columns) {
        const [old, name] = [
          foldName(action.name, dialects[catalog.dialect]),
          foldName(action.to, dialects[catalog.dialect]),
        ];
        catalog.put({ ...view, columns: view.columns.map((one) => (one === old ? name : one)) });
      }
      if (view && action.what === "rename") {
        const to = tableNameOf(action.to, dialects[catalog.dialect]);
        renameRelation(catalog, view, action.to.parts.length > 1 ? to.schema : view.schema, to.table);
      }
    }
    return;
  }
  let table = found;
  for (const action of statement.actions) {
    if (action.what === "rename" || action.what === "set-schema") {
      catalog.put(table);
      table = moved(catalog, table, action);
    } else {
      const before = table;
      table = altered(catalog, table, action, slice);
      if ((action.what === "drop-column" || action.what === "drop-constraint") && action.cascade)
        table = dropDependents(catalog, before, table);
    }
  }
  catalog.put(table);
  for (const action of statement.actions)
    if (action.what === "add-column" || action.what === "drop-column" || action.what === "rename-column")
      handDown(catalog, table, action, slice);
}

/** Partitions, and tables that inherit, get and lose the columns of their parent. */
function handDown(catalog: Catalog, parent: Table, action: AlterAction, slice: Slice, depth = 0): void {
  if (depth > 20) return;
  for (const child of catalog.childrenOf(tableKey(parent.schema, parent.name))) {
    const own = action.what === "add-column" ? { ...action, ifNotExists: true } : action;
    const changed = altered(catalog, child, own, slice);
    catalog.put(changed);
    handDown(catalog, changed, action, slice, depth + 1);
  }
}

function moved(
  catalog: Catalog,
  before: Table,
  action: Extract<AlterAction, { what: "rename" | "set-schema" }>,
): Table {
  const dialect = dialects[catalog.dialect];
  const table = withGivenNames(before, dialect);
  let { schema, name } = table;
  let written: Table["written"] = null;
  if (action.what === "rename") {
    written = spelledName(action.to, dialect);
    const to = catalog.place(action.to, table.temporary);
    name = to.table;
    if (action.to.parts.length > 1 || dialect.grammar.temporaryBesides) schema = to.schema;
  } else {
    schema = foldName(action.schema, dialect);
    written = [action.schema.text, table.written?.slice(-1)[0] ?? name];
  }
  renameRelation(catalog, table, schema, name, written);
  return catalog.get(schema, name) ?? { ...table, schema, name, written };
}

function altered(catalog: Catalog, table: Table, action: AlterAction, slice: Slice): Table {
  const dialect = dialects[catalog.dialect];
  const named = (name: Ident): string => foldName(name, dialect);
  switch (action.what) {
    case "add-column":
      if (action.ifNotExists && table.columns.some((column) => column.name === named(action.column.name))) return table;
      return placed(withColumn(table, action.column, dialect, slice, catalog), action.column, dialect);
    case "drop-column":
      return withoutColumn(table, named(action.name));
    case "change-column":
      return changedColumn(table, named(action.name), action.column, dialect, slice, catalog);
    case "column-type": {
      // ALTER COLUMN says the whole type anew: without NOT NULL, NULL is taken (tsql, jet).
      const loosens = dialect.syntax.typeAfterAlter && !table.primaryKey?.columns.includes(named(action.name));
      return mapColumn(table, named(action.name), (column) => ({
        ...column,
        ...columnType(action.type, dialect),
        ...(loosens ? { required: false } : {}),
      }));
    }
    case "column-required":
      return mapColumn(table, named(action.name), (column) => ({ ...column, required: action.required }));
    case "column-default": {
      const text = isSaid(action.default) ? slice(action.default.start, action.default.end) : null;
      return mapColumn(table, named(action.name), (column) => ({ ...column, default: text }));
    }
    case "column-identity":
      return mapColumn(table, named(action.name), (column) => ({ ...column, identity: action.identity }));
    case "column-generated":
      return mapColumn(table, named(action.name), (column) => ({ ...column, generated: null, expression: null }));
    case "rename-column":
      viewsFollowColumn(catalog, tableKey(table.schema, table.name), named(action.name), named(action.to));
      return renamedColumn(catalog, withGivenNames(table, dialect), named(action.name), action.to);
    case "add-constraint":
      return withConstraint(table, action.constraint, dialect, slice, catalog);
    case "drop-constraint":
      if (action.primary) return { ...table, primaryKey: null };
      return action.name ? withoutConstraint(table, named(action.name), dialect) : table;
    case "drop-index":
      return withoutConstraint(table, named(action.name), dialect, true);
    case "rename-constraint":
      return renamedConstraint(table, named(action.name), named(action.to), dialect);
    case "constraint-enabled": {
      const wanted = action.name ? named(action.name) : null;
      const hit = (name: string | null): boolean => wanted === null || name === wanted;
      return {
        ...table,
        foreignKeys: table.foreignKeys.map((key) =>
          hit(key.name) ? { ...key, enabled: action.enabled, trusted: action.trusted } : key,
        ),
        checks: table.checks.map((check) => (hit(check.name) ? { ...check, enabled: action.enabled } : check)),
      };
    }
    case "trigger": {
      const key = tableKey(table.schema, table.name);
      const states = { on: "origin", off: "off", replica: "replica", always: "always" } as const;
      for (const trigger of catalog.triggersOf(key)) {
        if (action.name === null || trigger.name === named(action.name))
          catalog.put({ ...trigger, enabled: states[action.enabled] });
      }
      return table;
    }
    case "rule":
      for (const rule of catalog.rulesOf(tableKey(table.schema, table.name))) {
        if (rule.name === named(action.name)) catalog.put({ ...rule, enabled: action.enabled });
      }
      return table;
    case "inherit": {
      const parent = keyOf(catalog, action.table);
      const others = table.inherits.filter((one) => one !== parent);
      return { ...table, inherits: action.inherits ? [...others, parent] : others };
    }
    case "attach-partition": {
      const child = catalog.resolve(action.table);
      if (child) catalog.put({ ...child, partitionOf: action.attached ? tableKey(table.schema, table.name) : null });
      return table;
    }
    default:
      return table;
  }
}

function mapColumn(table: Table, name: string, change: (column: Column) => Column): Table {
  return { ...table, columns: table.columns.map((column) => (column.name === name ? change(column) : column)) };
}

function withoutColumn(table: Table, name: string): Table {
  const keeps = (key: Key): boolean => !key.columns.includes(name);
  return {
    ...table,
    columns: table.columns.filter((column) => column.name !== name),
    primaryKey: table.primaryKey && keeps(table.primaryKey) ? table.primaryKey : null,
    uniqueKeys: table.uniqueKeys.filter(keeps),
    foreignKeys: table.foreignKeys.filter((key) => !key.columns.includes(name)),
    checks: table.checks.filter((check) => !wordIn(check.condition, name)),
  };
}

/** `index`: only an index is meant, and no constraint of that name. */
function withoutConstraint(table: Table, name: string, dialect: Dialect, index = false): Table {
  const given = givenNames(table, dialect);
  const without = <Named extends { name: string | null }>(list: readonly Named[], names: readonly (string | null)[]) =>
    names.includes(name)
      ? // The others keep the names that they have, whatever number they would get now.
        list.map((one, i) => ({ ...one, name: names[i] })).filter((_, i) => names[i] !== name)
      : list;
  const uniqueKeys = without(table.uniqueKeys, given.uniqueKeys);
  if (index) return { ...table, uniqueKeys };
  return {
    ...table,
    uniqueKeys,
    primaryKey: given.primaryKey === name ? null : table.primaryKey,
    foreignKeys: without(table.foreignKeys, given.foreignKeys),
    checks: without(table.checks, given.checks),
  };
}

function renamedConstraint(table: Table, from: string, to: string, dialect: Dialect): Table {
  const given = givenNames(table, dialect);
  const renamed = <Named extends { name: string | null }>(one: Named, name: string | null): Named =>
    name === from ? { ...one, name: to } : one;
  return {
    ...table,
    primaryKey: table.primaryKey && renamed(table.primaryKey, given.primaryKey),
    uniqueKeys: table.uniqueKeys.map((one, i) => renamed(one, given.uniqueKeys[i])),
    foreignKeys: table.foreignKeys.map((one, i) => renamed(one, given.foreignKeys[i])),
    checks: table.checks.map((one, i) => renamed(one, given.checks[i])),
  };
}

function renamedColumn(catalog: Catalog, table: Table, from: string, ident: Ident): Table {
  const dialect = dialects[catalog.dialect];
  const to = foldName(ident, dialect);
  const spelling = spellingOf(ident, dialect);
  const rename = (name: string): string => (name === from ? to : name);
  const renameKey = <Keyed extends { columns: readonly string[] }>(key: Keyed): Keyed => ({
    ...key,
    columns: key.columns.map(rename),
  });
  const key = tableKey(table.schema, table.name);
  for (const other of catalog.referencing(key)) {
    if (tableKey(other.schema, other.name) === key) continue;
    const foreignKeys = other.foreignKeys.map((one) =>
      one.table === key ? { ...one, referenced: one.referenced.map(rename) } : one,
    );
    catalog.put({ ...other, foreignKeys });
  }
  return {
    ...table,
    columns: table.columns.map((column) => (column.name === from ? { ...column, name: to, spelling } : column)),
    primaryKey: table.primaryKey && renameKey(table.primaryKey),
    uniqueKeys: table.uniqueKeys.map(renameKey),
    foreignKeys: table.foreignKeys.map((one) => {
      const own = renameKey(one);
      return one.table === key ? { ...own, referenced: own.referenced.map(rename) } : own;
    }),
  };
}

function changedColumn(
  table: Table,
  old: string,
  definition: ColumnDefinition,
  dialect: Dialect,
  slice: Slice,
  catalog: Catalog,
): Table {
  const position = table.columns.findIndex((column) => column.name === old);
  const renamed = renamedColumn(catalog, table, old, definition.name);
  const next = withColumn(renamed, definition, dialect, slice, catalog);
  if (position < 0) return next;
  // MODIFY keeps the column where it stands; oracle's keeps NOT NULL when it says nothing of it.
  const column = next.columns[next.columns.length - 1];
  const before = table.columns[position];
  const kept = definition.type === null ? { ...column, type: before.type, typeArgs: before.typeArgs } : column;
  const oracle = dialect.engine.modifyKeeps;
  const columns = next.columns.slice(0, -1);
  columns.splice(position, 0, {
    ...kept,
    required:
      oracle && definition.required === null
        ? before.required
        : kept.required || (table.primaryKey?.columns.includes(old) ?? false),
    default: oracle && definition.default === null ? before.default : kept.default,
  });
  return placed({ ...next, columns }, definition, dialect);
}

/** The table with a column where it is put (mysql): first, or after another one. */
function placed(table: Table, { name, place }: ColumnDefinition, dialect: Dialect): Table {
  if (place === null) return table;
  const own = foldName(name, dialect);
  const column = table.columns.find((one) => one.name === own);
  const others = table.columns.filter((one) => one !== column);
  const before = place === "first" ? 0 : others.findIndex((one) => one.name === foldName(place, dialect)) + 1;
  if (!column || (place !== "first" && before === 0)) return table;
  return { ...table, columns: [...others.slice(0, before), column, ...others.slice(before)] };
}

/** SELECT … INTO a new table. */
export function selectInto(catalog: Catalog, statement: Statement & { kind: "select" }): void {
  const { body } = statement.query;
  if (body.kind !== "select" || body.into?.what !== "table") return;
  const target = body.into.targets[0];
  if (target?.kind !== "column") return;
  const written: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
  const name = catalog.place(written, body.into.temporary);
  const columns = queryColumns(statement.query, catalog);
  catalog.put({
    ...emptyTable(name.schema, name.table),
    written: spelledName(written, dialects[catalog.dialect]),
    temporary: body.into.temporary,
    columns: columns?.map(copiedColumn) ?? [],
    partial: columns === null,
    built: columns
      ? builtKeys(
          statement.query,
          columns.map((one) => one.name),
          catalog,
        )
      : [],
  });
}
