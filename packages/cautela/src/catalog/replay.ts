import type { Dialect } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import type {
  AlterTableStatement,
  ColumnDefinition,
  CreateIndexStatement,
  CreateTableStatement,
  DropStatement,
  ForeignKeyClause,
  Ident,
  Query,
  Statement,
  TableConstraint,
} from "../sql/tree.ts";
import { type Catalog, tableKey } from "./catalog.ts";
import type { Column, ForeignKey, Key, ReferenceAction, Table } from "./model.ts";
import { foldName, tableNameOf } from "./names.ts";

/** The text that a node's range speaks of. */
export type Slice = (start: number, end: number) => string;

/**
 * Changes a catalog as a statement would. Statements that change no structure leave it as it is.
 * The same replay builds a catalog from DDL and follows a script under review.
 */
export function replay(catalog: Catalog, statement: Statement, slice: Slice): void {
  switch (statement.kind) {
    case "create-table":
      createTable(catalog, statement, slice);
      break;
    case "create-index":
      createIndex(catalog, statement);
      break;
    case "alter-table":
      alterTable(catalog, statement, slice);
      break;
    case "drop":
      if (statement.object === "table") dropTables(catalog, statement);
      break;
    case "select":
      selectInto(catalog, statement);
      break;
    default:
  }
}

function createTable(catalog: Catalog, statement: CreateTableStatement, slice: Slice): void {
  const dialect = dialects[catalog.dialect];
  const { schema, table: name } = tableNameOf(statement.name, dialect);
  if (statement.ifNotExists && catalog.get(schema, name)) return;
  const table: Table = {
    schema,
    name,
    kind: statement.virtual ? "virtual" : "table",
    temporary: statement.temporary,
    columns: [],
    primaryKey: null,
    uniqueKeys: [],
    foreignKeys: [],
    rows: null,
    partial: statement.query !== null || statement.like.length > 0 || statement.virtual,
  };
  const columns: Column[] = [];
  for (const like of [
    ...statement.like,
    ...statement.inherits,
    ...(statement.partitionOf ? [statement.partitionOf] : []),
  ]) {
    const source = catalog.resolve(like);
    if (source) {
      columns.push(...source.columns);
      if (statement.query === null && !statement.virtual) table.partial = source.partial;
    }
  }
  if (statement.query) {
    const copied = copiedTable(catalog, statement.query);
    if (copied) {
      columns.push(...copied.columns.map((column) => ({ ...column, generated: null, identity: null })));
      table.partial = copied.partial;
    }
  }
  let state: Table = { ...table, columns };
  for (const definition of statement.columns) state = withColumn(state, definition, dialect, slice);
  for (const constraint of statement.constraints) state = withConstraint(state, constraint, dialect);
  catalog.put(state);
}

/** The table that `SELECT * FROM table` copies; undefined for any other query. */
function copiedTable(catalog: Catalog, query: Query): Table | undefined {
  const { body } = query;
  if (body.kind === "table-query") return catalog.resolve(body.name);
  if (body.kind !== "select" || body.items.length !== 1 || body.from.length !== 1) return undefined;
  if (body.items[0].expr.kind !== "star" || body.from[0].kind !== "table") return undefined;
  return catalog.resolve(body.from[0].name);
}

/** A table with one more column, the column's own constraints included. */
function withColumn(table: Table, definition: ColumnDefinition, dialect: Dialect, slice: Slice): Table {
  const name = foldName(definition.name, dialect);
  const column: Column = {
    name,
    type: definition.type?.name ?? "",
    typeArgs: definition.type?.args ?? [],
    required: definition.required === true || isRowid(definition, dialect),
    default: definition.default ? slice(definition.default.start, definition.default.end) : null,
    generated: definition.generatedKind,
    identity: definition.identity ?? (definition.autoincrement ? "by default" : null),
  };
  const next: Table = { ...table, columns: [...table.columns.filter((old) => old.name !== name), column] };
  if (definition.primary) return withKey(next, "primary", { name: null, columns: [name], partial: false }, dialect);
  const keyed = definition.unique
    ? withKey(next, "unique", { name: null, columns: [name], partial: false }, dialect)
    : next;
  if (!definition.references) return keyed;
  return {
    ...keyed,
    foreignKeys: [...keyed.foreignKeys, foreignKey(null, [definition.name], definition.references, dialect)],
  };
}

/** An `INTEGER PRIMARY KEY` of sqlite is the row's number and never NULL. */
function isRowid(definition: ColumnDefinition, dialect: Dialect): boolean {
  return dialect.id === "sqlite" && definition.primary && definition.type?.name === "integer";
}

function withKey(table: Table, kind: "primary" | "unique", key: Key, dialect: Dialect): Table {
  if (kind === "unique") return { ...table, uniqueKeys: [...table.uniqueKeys, key] };
  // In sqlite a primary key of an ordinary table may hold NULLs (its manual, "CREATE TABLE", 3.5).
  const columns =
    dialect.id === "sqlite"
      ? table.columns
      : table.columns.map((column) => (key.columns.includes(column.name) ? { ...column, required: true } : column));
  return { ...table, columns, primaryKey: key };
}

function withConstraint(table: Table, constraint: TableConstraint, dialect: Dialect): Table {
  const name = constraint.name ? foldName(constraint.name, dialect) : null;
  switch (constraint.kind) {
    case "primary":
    case "unique": {
      const key: Key = {
        name,
        columns: constraint.columns.map((column) => foldName(column, dialect)),
        partial: constraint.inexact || constraint.where !== null,
      };
      return withKey(table, constraint.kind, key, dialect);
    }
    case "foreign":
      if (!constraint.references) return table;
      return {
        ...table,
        foreignKeys: [...table.foreignKeys, foreignKey(name, constraint.columns, constraint.references, dialect)],
      };
    default:
      return table;
  }
}

function foreignKey(
  name: string | null,
  columns: readonly Ident[],
  clause: ForeignKeyClause,
  dialect: Dialect,
): ForeignKey {
  const target = tableNameOf(clause.table, dialect);
  return {
    name,
    columns: columns.map((column) => foldName(column, dialect)),
    table: tableKey(target.schema, target.table),
    referenced: (clause.columns ?? []).map((column) => foldName(column, dialect)),
    onDelete: (clause.onDelete ?? "no action") as ReferenceAction,
    onUpdate: (clause.onUpdate ?? "no action") as ReferenceAction,
  };
}

function createIndex(catalog: Catalog, statement: CreateIndexStatement): void {
  const table = catalog.resolve(statement.table);
  if (!table || !statement.unique) return;
  const dialect = dialects[catalog.dialect];
  const key: Key = {
    name: statement.name ? foldName(statement.name.parts[statement.name.parts.length - 1], dialect) : null,
    columns: statement.columns.map((column) => foldName(column, dialect)),
    partial: statement.inexact || statement.where !== null,
  };
  catalog.put({ ...table, uniqueKeys: [...table.uniqueKeys, key] });
}

function alterTable(catalog: Catalog, statement: AlterTableStatement, slice: Slice): void {
  const found = catalog.resolve(statement.name);
  if (!found) return;
  const dialect = dialects[catalog.dialect];
  let table = found;
  for (const action of statement.actions) {
    switch (action.what) {
      case "add-column":
        if (action.ifNotExists && table.columns.some((column) => column.name === foldName(action.column.name, dialect)))
          break;
        table = withColumn(table, action.column, dialect, slice);
        break;
      case "drop-column":
        table = withoutColumn(table, foldName(action.name, dialect));
        break;
      case "change-column":
        table = changedColumn(table, foldName(action.name, dialect), action.column, dialect, slice);
        break;
      case "column-type":
        table = mapColumn(table, foldName(action.name, dialect), (column) => ({
          ...column,
          type: action.type.name,
          typeArgs: action.type.args,
        }));
        break;
      case "column-required":
        table = mapColumn(table, foldName(action.name, dialect), (column) => ({
          ...column,
          required: action.required,
        }));
        break;
      case "column-default": {
        const text = action.default ? slice(action.default.start, action.default.end) : null;
        table = mapColumn(table, foldName(action.name, dialect), (column) => ({ ...column, default: text }));
        break;
      }
      case "rename-column":
        table = renamedColumn(table, foldName(action.name, dialect), foldName(action.to, dialect));
        break;
      case "add-constraint":
        table = withConstraint(table, action.constraint, dialect);
        break;
      case "drop-constraint": {
        if (action.primary) {
          table = { ...table, primaryKey: null };
          break;
        }
        const name = action.name ? foldName(action.name, dialect) : "";
        table = {
          ...table,
          primaryKey: table.primaryKey?.name === name ? null : table.primaryKey,
          uniqueKeys: table.uniqueKeys.filter((key) => key.name !== name),
          foreignKeys: table.foreignKeys.filter((key) => key.name !== name),
        };
        break;
      }
      case "rename": {
        const to = tableNameOf(action.to, dialect);
        catalog.drop(table.schema, table.name);
        table = { ...table, name: to.table, schema: action.to.parts.length > 1 ? to.schema : table.schema };
        break;
      }
      default:
    }
  }
  catalog.put(table);
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
  };
}

function renamedColumn(table: Table, from: string, to: string): Table {
  const rename = (name: string): string => (name === from ? to : name);
  const renameKey = <K extends { columns: readonly string[] }>(key: K): K => ({
    ...key,
    columns: key.columns.map(rename),
  });
  return {
    ...table,
    columns: table.columns.map((column) => (column.name === from ? { ...column, name: to } : column)),
    primaryKey: table.primaryKey && renameKey(table.primaryKey),
    uniqueKeys: table.uniqueKeys.map(renameKey),
    foreignKeys: table.foreignKeys.map(renameKey),
  };
}

function changedColumn(table: Table, old: string, definition: ColumnDefinition, dialect: Dialect, slice: Slice): Table {
  const position = table.columns.findIndex((column) => column.name === old);
  const renamed = renamedColumn(table, old, foldName(definition.name, dialect));
  const next = withColumn(renamed, definition, dialect, slice);
  if (position < 0) return next;
  // MODIFY keeps the column where it stands; oracle's keeps NOT NULL when it says nothing of it.
  const column = next.columns[next.columns.length - 1];
  const before = table.columns[position];
  const kept = definition.type === null ? { ...column, type: before.type, typeArgs: before.typeArgs } : column;
  const required = dialect.id === "plsql" && definition.required === null ? before.required : kept.required;
  const columns = next.columns.slice(0, -1);
  columns.splice(position, 0, { ...kept, required });
  return { ...next, columns };
}

function dropTables(catalog: Catalog, statement: DropStatement): void {
  for (const name of statement.names) {
    const table = catalog.resolve(name);
    if (table) catalog.drop(table.schema, table.name);
  }
}

/** SELECT … INTO a new table. */
function selectInto(catalog: Catalog, statement: Statement & { kind: "select" }): void {
  const { body } = statement.query;
  if (body.kind !== "select" || body.into?.what !== "table") return;
  const target = body.into.targets[0];
  if (target?.kind !== "column") return;
  const dialect = dialects[catalog.dialect];
  const name = tableNameOf(
    { kind: "name", parts: target.path, link: null, start: target.start, end: target.end },
    dialect,
  );
  const copied = copiedTable(catalog, statement.query);
  catalog.put({
    schema: name.schema,
    name: name.table,
    kind: "table",
    temporary: body.into.temporary,
    columns: copied?.columns ?? [],
    primaryKey: null,
    uniqueKeys: [],
    foreignKeys: [],
    rows: null,
    partial: copied === undefined,
  });
}
