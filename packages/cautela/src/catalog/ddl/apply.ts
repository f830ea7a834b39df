import type { Dialect } from "../../sql/dialects/dialect.ts";
import { dialects } from "../../sql/dialects/index.ts";
import type { DropStatement, Ident, Name, RenameStatement, SettingStatement, Statement } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { Catalog } from "../catalog.ts";
import { keyParts, nameKey, tableKey } from "../keys.ts";
import type { Table } from "../model.ts";
import { foldName, spelledName, tableNameOf } from "../names.ts";
import { createRoutine, createRule, createType, createView } from "./apply-code.ts";
import { alterTable, createIndex, createTable, selectInto } from "./apply-table.ts";
import { renameRelation } from "./rename.ts";

/**
 * Changes a catalog as a statement would. Statements that change no structure leave it as it is.
 * The same replay builds a catalog from DDL and follows a script under review.
 */
export function replay(catalog: Catalog, statement: Statement, slice: Slice): void {
  switch (statement.kind) {
    case "create-table":
      createTable(catalog, statement, slice);
      break;
    case "insert":
    case "merge":
    case "copy": {
      if (!catalog.holdsBuilt) break;
      // Other rows come in: what was unique may not be so any more.
      const into =
        statement.kind === "copy" ? statement.table : statement.target.kind === "table" ? statement.target.name : null;
      const filled = into ? catalog.resolve(into) : undefined;
      if (filled && filled.built.length > 0) catalog.put({ ...filled, built: [] });
      break;
    }
    case "create-index":
      createIndex(catalog, statement, slice);
      break;
    case "alter-table":
      alterTable(catalog, statement, slice);
      break;
    case "create-view":
      createView(catalog, statement, slice);
      break;
    case "create-routine":
      createRoutine(catalog, statement, slice);
      break;
    case "create-rule":
      createRule(catalog, statement, slice);
      break;
    case "create-type":
      createType(catalog, statement, slice);
      break;
    case "create-synonym": {
      const { schema, table } = tableNameOf(statement.name, dialects[catalog.dialect]);
      const target = tableNameOf(statement.target, dialects[catalog.dialect]);
      catalog.put({ object: "synonym", schema, name: table, target: tableKey(target.schema, target.table) });
      break;
    }
    case "comment":
      comment(catalog, statement.object, statement.name, statement.text);
      break;
    case "alter-trigger":
      switchTriggers(catalog, statement.names, statement.table, statement.enabled);
      break;
    case "rename":
      rename(catalog, statement);
      break;
    case "setting":
      setting(catalog, statement);
      break;
    case "opaque":
      if (statement.verb === "create" && statement.object === "sequence" && statement.name) {
        const { schema, table } = tableNameOf(statement.name, dialects[catalog.dialect]);
        catalog.put({ object: "sequence", schema, name: table });
      }
      break;
    case "drop":
      drop(catalog, statement, dialects[catalog.dialect]);
      break;
    case "select":
      selectInto(catalog, statement);
      break;
    default:
  }
}

function comment(catalog: Catalog, object: string, name: Name, text: string | null): void {
  const dialect = dialects[catalog.dialect];
  if (object === "column") {
    const parts = name.parts.slice(0, -1);
    if (parts.length === 0) return;
    const table = catalog.resolve({ ...name, parts });
    if (!table) return;
    const column = foldName(name.parts[name.parts.length - 1], dialect);
    const columns = table.columns.map((one) => (one.name === column ? { ...one, comment: text } : one));
    catalog.put({ ...table, columns });
    return;
  }
  const found = catalog.resolveRelation(name);
  if (found) catalog.put({ ...found, comment: text });
}

function switchTriggers(catalog: Catalog, names: Name[] | null, table: Name | null, enabled: boolean): void {
  const dialect = dialects[catalog.dialect];
  const relation = table ? catalog.resolveRelation(table) : undefined;
  const wanted = names?.map((name) => foldName(name.parts[name.parts.length - 1], dialect));
  const triggers = relation
    ? catalog.triggersOf(tableKey(relation.schema, relation.name))
    : [...catalog.objects("trigger")];
  for (const trigger of triggers) {
    if (wanted && !wanted.includes(trigger.name)) continue;
    catalog.put({ ...trigger, enabled: enabled ? "origin" : "off" });
  }
}

function rename(catalog: Catalog, statement: RenameStatement): void {
  const dialect = dialects[catalog.dialect];
  for (const { from, to } of statement.renames) {
    const last = foldName(to.parts[to.parts.length - 1], dialect);
    if (statement.object === "trigger") {
      const name = foldName(from.parts[from.parts.length - 1], dialect);
      const relation = statement.table ? catalog.resolveRelation(statement.table) : undefined;
      if (!relation) continue;
      const trigger = catalog.triggersOf(tableKey(relation.schema, relation.name)).find((one) => one.name === name);
      if (!trigger) continue;
      catalog.remove("trigger", Catalog.guardKey(trigger));
      catalog.put({ ...trigger, name: last });
      continue;
    }
    const relation = catalog.resolveRelation(from);
    if (relation) {
      const target = tableNameOf(to, dialect);
      const schema = statement.schema ? last : to.parts.length > 1 ? target.schema : relation.schema;
      const own = relation.object === "table" && relation.written ? relation.written.slice(-1)[0] : relation.name;
      const written = statement.schema ? [to.parts[to.parts.length - 1].text, own] : spelledName(to, dialect);
      renameRelation(catalog, relation, schema, statement.schema ? relation.name : last, written);
      continue;
    }
    for (const kind of ["sequence", "routine", "type"] as const) {
      const key = nameKey(from, dialect);
      const found = catalog.object(kind, key);
      if (!found) continue;
      catalog.remove(kind, key);
      catalog.put(statement.schema ? { ...found, schema: last } : { ...found, name: last });
    }
  }
}

/** Settings that change what names mean. */
function setting(catalog: Catalog, statement: SettingStatement): void {
  const dialect = dialects[catalog.dialect];
  if (statement.name === "search_path" && dialect.engine.searchPath) {
    const path = statement.value
      .split(",")
      .map((part) => part.trim())
      .filter((part) => part !== "" && part !== '"$user"' && part !== "$user")
      .map((part) => (part.startsWith('"') || part.startsWith("'") ? part.slice(1, -1) : part.toLowerCase()));
    // A dump empties the path, and writes every name with its schema.
    catalog.searchPath = path.length > 0 ? path : [dialect.grammar.defaultSchema];
  } else if (
    statement.name === "current_schema" ||
    (statement.name === "database" && dialect.grammar.defaultSchema === "")
  ) {
    const name: Ident = { text: statement.value, quoted: false, hole: false, start: 0, end: 0 };
    catalog.searchPath = [foldName(name, dialect), dialect.grammar.defaultSchema];
  }
}

function drop(catalog: Catalog, statement: DropStatement, dialect: Dialect): void {
  switch (statement.object) {
    case "table":
      for (const name of statement.names) {
        const table = catalog.resolve(name);
        if (table) dropTable(catalog, table, statement.cascade);
      }
      break;
    case "view":
      for (const name of statement.names) {
        const view = catalog.resolveRelation(name);
        if (view?.object === "view") {
          const key = tableKey(view.schema, view.name);
          for (const guard of [...catalog.triggersOf(key), ...catalog.rulesOf(key)])
            catalog.remove(guard.object, Catalog.guardKey(guard));
          catalog.remove("view", key);
        }
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
      for (const name of statement.names) catalog.remove("routine", nameKey(name, dialect));
      break;
    case "sequence":
    case "synonym":
      for (const name of statement.names) catalog.remove(statement.object, nameKey(name, dialect));
      break;
    case "type":
    case "domain":
      for (const name of statement.names) catalog.remove("type", nameKey(name, dialect));
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
  for (const kind of ["trigger", "rule", "view", "table", "routine", "sequence", "synonym", "type"] as const) {
    for (const object of [...catalog.objects(kind)]) {
      const guard = object.object === "trigger" || object.object === "rule";
      const home = guard ? keyParts(object.table).schema : object.schema;
      if (home !== schema) continue;
      catalog.remove(kind, guard ? Catalog.guardKey(object) : tableKey(object.schema, object.name));
    }
  }
}
