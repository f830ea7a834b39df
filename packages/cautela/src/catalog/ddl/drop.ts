import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { DropStatement, Name } from "../../sql/nodes/tree.ts";
import { Catalog } from "../catalog.ts";
import { keyParts, tableKey } from "../keys.ts";
import type { Table, View } from "../model.ts";
import { foldName } from "../names.ts";
import { reads } from "./view-references.ts";

/** Removes what a DROP statement drops, and what goes with it. */
export function drop(catalog: Catalog, statement: DropStatement, dialect: Dialect): void {
  switch (statement.object) {
    case "table":
      for (const name of statement.names) {
        const table = catalog.resolve(name);
        if (table) dropTable(catalog, table, statement.cascade);
      }
      break;
    case "temporary table":
      for (const name of statement.names) {
        const { schema, table } = catalog.place(name, true);
        const found = catalog.get(schema, table);
        if (found) dropTable(catalog, found, false);
      }
      break;
    case "view":
      for (const name of statement.names) {
        const view = catalog.resolveRelation(name);
        if (view?.object === "view") dropView(catalog, view, statement.cascade);
      }
      break;
    case "trigger":
    case "rule":
      for (const name of statement.names) {
        const last = foldName(name.parts[name.parts.length - 1], dialect);
        const relation = statement.on ? catalog.resolveRelation(statement.on) : undefined;
        const key = relation ? tableKey(relation.schema, relation.name) : null;
        for (const guard of [...catalog.objects(statement.object)]) {
          if (guard.name === last && (key === null || guard.table === key))
            catalog.remove(guard.object, Catalog.guardKey(guard));
        }
      }
      break;
    case "function":
    case "procedure":
    case "package":
    case "routine":
      for (const name of statement.names) dropRoutine(catalog, catalog.keyOf("routine", name), statement.cascade);
      break;
    case "sequence":
    case "synonym":
      for (const name of statement.names) catalog.remove(statement.object, catalog.keyOf(statement.object, name));
      break;
    case "type":
    case "domain":
      for (const name of statement.names) dropType(catalog, catalog.keyOf("type", name), statement.cascade);
      break;
    case "index":
      for (const name of statement.names) dropIndex(catalog, name, statement.on, dialect);
      break;
    case "schema":
    case "database":
      for (const name of statement.names) dropSchema(catalog, foldName(name.parts[0], dialect));
      break;
    default:
  }
}

function dropTable(catalog: Catalog, table: Table, cascade: boolean): void {
  const key = tableKey(table.schema, table.name);
  for (const guard of [...catalog.triggersOf(key), ...catalog.rulesOf(key)])
    catalog.remove(guard.object, Catalog.guardKey(guard));
  for (const other of catalog.referencing(key)) {
    if (tableKey(other.schema, other.name) === key) continue;
    if (cascade) catalog.put({ ...other, foreignKeys: other.foreignKeys.filter((one) => one.table !== key) });
  }
  for (const child of catalog.childrenOf(key)) if (child.partitionOf === key) dropTable(catalog, child, cascade);
  catalog.remove("table", key);
  if (cascade) dropReaders(catalog, key);
}

function dropView(catalog: Catalog, view: View, cascade: boolean): void {
  const key = tableKey(view.schema, view.name);
  for (const guard of [...catalog.triggersOf(key), ...catalog.rulesOf(key)])
    catalog.remove(guard.object, Catalog.guardKey(guard));
  catalog.remove("view", key);
  if (cascade) dropReaders(catalog, key);
}

/** The views that read what CASCADE has dropped, and those that read them (PostgreSQL 15 manual, 5.14). */
function dropReaders(catalog: Catalog, gone: string, columns: readonly string[] | null = null): void {
  if (!dialects[catalog.dialect].engine.cascadeTakesViews) return;
  for (const view of [...catalog.objects("view")])
    if (catalog.view(tableKey(view.schema, view.name)) === view && reads(view, gone, catalog, columns))
      dropView(catalog, view, true);
}

/**
 * What CASCADE takes along with the columns and keys that a table has lost: keys that refer to them, views that read them.
 * The table as it is then.
 */
export function dropDependents(catalog: Catalog, before: Table, after: Table): Table {
  const key = tableKey(before.schema, before.name);
  const keysOf = ({ primaryKey, uniqueKeys }: Table): string[] =>
    [...(primaryKey ? [primaryKey] : []), ...uniqueKeys].map(({ columns }) => columns.join());
  const left = new Set(keysOf(after));
  const lost = new Set(keysOf(before).filter((columns) => !left.has(columns)));
  const primary = before.primaryKey?.columns.join() ?? "";
  const without = (one: Table): Table => {
    const foreignKeys = one.foreignKeys.filter(
      ({ table, referenced }) => table !== key || !lost.has(referenced.length > 0 ? referenced.join() : primary),
    );
    return foreignKeys.length < one.foreignKeys.length ? { ...one, foreignKeys } : one;
  };
  if (lost.size > 0)
    for (const other of catalog.referencing(key))
      if (tableKey(other.schema, other.name) !== key) catalog.put(without(other));
  const kept = new Set(after.columns.map(({ name }) => name));
  const columns = before.columns.map(({ name }) => name).filter((name) => !kept.has(name));
  if (columns.length > 0) dropReaders(catalog, key, columns);
  return lost.size > 0 ? without(after) : after;
}

/** A routine goes, by CASCADE with the triggers that call it. */
function dropRoutine(catalog: Catalog, key: string, cascade: boolean): void {
  catalog.remove("routine", key);
  if (!cascade) return;
  for (const trigger of [...catalog.objects("trigger")])
    if (trigger.calls === key) catalog.remove("trigger", Catalog.guardKey(trigger));
}

/** A type goes, by CASCADE with the columns that are of it. */
function dropType(catalog: Catalog, key: string, cascade: boolean): void {
  catalog.remove("type", key);
  if (!cascade) return;
  const { name } = keyParts(key);
  for (const table of [...catalog.tables()]) {
    const columns = table.columns.filter(({ type }) => type !== name && !type.endsWith(`.${name}`));
    if (columns.length < table.columns.length) catalog.put({ ...table, columns });
  }
}

function dropIndex(catalog: Catalog, name: Name, on: Name | null, dialect: Dialect): void {
  const last = foldName(name.parts[name.parts.length - 1], dialect);
  const without = (table: Table): void => {
    if (table.uniqueKeys.some((key) => key.name === last))
      catalog.put({ ...table, uniqueKeys: table.uniqueKeys.filter((key) => key.name !== last) });
  };
  const table = on
    ? catalog.resolve(on)
    : name.parts.length > 1 && dialect.engine.indexOfTable
      ? catalog.resolve({ ...name, parts: name.parts.slice(0, -1) })
      : undefined;
  if (table) without(table);
  else for (const one of [...catalog.tables()]) without(one);
}

function dropSchema(catalog: Catalog, schema: string): void {
  const gone: string[] = [];
  for (const kind of ["trigger", "rule", "view", "table", "routine", "sequence", "synonym", "type"] as const) {
    for (const object of [...catalog.objects(kind)]) {
      const guard = object.object === "trigger" || object.object === "rule";
      const home = guard ? keyParts(object.table).schema : object.schema;
      if (home !== schema) continue;
      const key = tableKey(object.schema, object.name);
      catalog.remove(kind, guard ? Catalog.guardKey(object) : key);
      if (kind === "table" || kind === "view") gone.push(key);
    }
  }
  for (const key of gone) {
    dropReaders(catalog, key);
    for (const other of catalog.referencing(key))
      catalog.put({ ...other, foreignKeys: other.foreignKeys.filter((one) => one.table !== key) });
  }
  // Without the database in use, bare names mean nothing.
  if (dialects[catalog.dialect].grammar.temporaryBesides && catalog.searchPath[0] === schema)
    catalog.searchPath = ["(no database)"];
  catalog.dropSchema(schema);
}
