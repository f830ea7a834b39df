import { keyOfColumn, keyText, referenced, singleKeys } from "../analysis/changes/references.ts";
import { storedValues } from "../analysis/changes/stored-values.ts";
import {
  assignedIn,
  type ConstantValue,
  filterParts,
  pinnedConstants,
  whereParts,
} from "../analysis/conditions/conditions.ts";
import { constant } from "../analysis/conditions/truth.ts";
import { isEnginesOwn } from "../analysis/names/missing.ts";
import type { History } from "../analysis/script/history.ts";
import { lookOf } from "../analysis/script/precheck.ts";
import { tableKey } from "../catalog/catalog.ts";
import type { Table } from "../catalog/model.ts";
import { foldName, tableNameOf, writtenName } from "../catalog/names.ts";
import type { Expr, Name } from "../sql/nodes/tree.ts";
import type { Region } from "../text/region.ts";
import type { HazardContext } from "./hazard.ts";

/** Takes a statement into the history, for the hazards that compare later ones with it. */
export function record(context: HazardContext, history: History, at: { statement: number; region: Region }): void {
  const { tree, changes, names, dialect } = context;
  const noteText = (): void => {
    const text = context.text;
    if (text !== null) history.noteText(text, at.region.line);
  };
  switch (tree.kind) {
    case "update":
    case "delete":
    case "truncate":
      for (const { change, target } of changes) {
        const set = new Map<string, ConstantValue>();
        const assigned = new Map<string, string>();
        for (const { column, value } of assignedIn(tree, names)) {
          const known = constant(value);
          if (known) set.set(column.name, known);
          // A column that takes over another one's values: what is dropped afterwards is not lost.
          if (value.kind === "column" && value.path.length <= 2)
            history.noteFilled(
              context.timeline.keyOf(change.name, context.catalog).key,
              foldName(value.path[value.path.length - 1], dialect),
            );
          // Only constants are compared with later ones.
          assigned.set(column.name, known ? context.slice(value.start, value.end) : "");
        }
        const where = "where" in tree ? tree.where : null;
        history.note({
          statement: at.statement,
          line: at.region.line,
          action: change.action,
          target,
          set,
          assigned,
          where: where ? onlyConstants(where, context) : null,
        });
      }
      noteText();
      break;
    case "insert":
      if (tree.target.kind === "table") history.forget(targetOf(context));
      if (tree.source?.body.kind !== "values" || tree.source.body.rowCount < 20) noteText();
      break;
    case "merge":
    case "copy":
      history.forget(targetOf(context));
      break;
    case "setting":
      // SET IDENTITY_INSERT berth ON: the setting is the table for which it is on.
      if (tree.name === "identity_insert" && tree.target) {
        const { table } = tableNameOf(tree.target, dialect);
        history.noteSetting(tree.name, /^on$/i.test(tree.value) ? table : "");
      } else for (const name of tree.name.split(",")) history.noteSetting(name, tree.value.toLowerCase());
      break;
    case "select": {
      const look = lookOf(tree, context.timeline, context.catalog, context.slice);
      if (look) history.look = { ...look, statement: at.statement, line: at.region.line };
      break;
    }
    case "create-table":
      history.made.add(keyOf(tree.name, context));
      history.noteCreate(keyOf(tree.name, context));
      history.mend(keyOf(tree.name, context));
      break;
    case "create-view":
      history.mend(keyOf(tree.name, context));
      break;
    case "create-routine":
      if (tree.name) history.mend(guardKey(tree.name, tree.trigger?.table ?? null, context));
      break;
    case "alter-table":
      // SQLite looks at every view when a table takes a new name, and refuses while one of them is broken.
      for (const action of tree.actions)
        if (action.what === "add-column")
          history.added.add(
            `${context.timeline.keyOf(tree.name, context.catalog).key}\u0000${foldName(action.column.name, dialect)}`,
          );
      if (!dialect.engine.renameChecksViews)
        for (const action of tree.actions) if (action.what === "rename") history.mend(keyOf(action.to, context));
      break;
    case "rename":
      for (const { to } of tree.renames) history.mend(keyOf(to, context));
      break;
    case "drop":
      for (const name of tree.names) {
        const relation = context.catalog?.resolveRelation(name);
        if (tree.object === "table") history.noteDrop(keyOf(name, context), at.region.line);
        else history.mend(tree.object === "trigger" ? guardKey(name, tree.on, context) : keyOf(name, context));
        if (relation?.object === "view" && relation.columns)
          history.noteDroppedView(tableKey(relation.schema, relation.name), relation.columns, at.region.line);
      }
      break;
    default:
  }
  if (!names) return;
  recordKeys(context, history, at);
  for (const { source } of names.missing) {
    if (isEnginesOwn(source, dialect)) continue;
    const key = keyOf(source.name, context);
    const list = history.wanted.get(key) ?? [];
    if (list.length < 8) list.push({ ...at, shown: writtenName(source.name) });
    if (history.wanted.size < 500) history.wanted.set(key, list);
  }
}

/** Takes note of the rows that a statement brings, deletes and refers to by their keys. */
function recordKeys(context: HazardContext, history: History, at: { statement: number; region: Region }): void {
  const { tree, names, catalog, changes, dialect, inCode } = context;
  const { keys } = history;
  if (tree.kind === "transaction") {
    if (tree.action === "rollback" || tree.action === "rollback-to") keys.clear();
    return;
  }
  if (!names || !catalog) return;
  // Only keys that others refer to are ever asked for.
  const referred = (table: Table): boolean => catalog.isReferred(tableKey(table.schema, table.name));
  const lose = (table: Table): void => {
    if (!referred(table)) return;
    for (const column of singleKeys(table)) keys.lose(keyOfColumn(table, column));
  };
  for (const { change } of changes) {
    const { table } = change;
    if (!table || change.action === "update" || !referred(table)) continue;
    const single = singleKeys(table);
    const gone = inCode || !("where" in change.statement) ? null : pinnedRows(change.statement.where, context);
    if (gone && single.includes(gone.column))
      for (const key of gone.keys) keys.remove(keyOfColumn(table, gone.column), key, at.region.line);
    else lose(table);
  }
  if (tree.kind !== "insert" && tree.kind !== "update" && tree.kind !== "merge" && tree.kind !== "copy") return;
  const target = tree.kind === "copy" ? (tree.table ? catalog.resolve(tree.table) : null) : null;
  if (target) lose(target);
  if (tree.kind === "insert" || tree.kind === "merge") {
    const into = tree.target.kind === "table" ? catalog.resolve(tree.target.name) : null;
    const body = tree.kind === "insert" ? tree.source?.body : undefined;
    const followed =
      tree.kind === "insert" && (tree.set || (body?.kind === "values" && body.rows.length === body.rowCount));
    if (into && !followed) lose(into);
  }
  for (const { table, column, value } of storedValues(tree, names, catalog, dialect)) {
    const isKey = singleKeys(table).includes(column) && referred(table);
    if (!isKey && table.foreignKeys.length === 0) continue;
    const known = constant(value);
    const key = known ? keyText(known) : null;
    if (isKey) {
      if (key !== null && tree.kind === "insert") keys.bring(keyOfColumn(table, column), key);
      else if (tree.kind !== "insert") keys.lose(keyOfColumn(table, column));
    }
    if (key === null || inCode || table.foreignKeys.length === 0) continue;
    const to = referenced(table, column, catalog);
    if (!to || to.foreignKey.deferrable) continue;
    keys.refer(keyOfColumn(to.table, to.column), key, { at, from: column });
  }
}

/** The rows that a filter names by one column and nothing else: `vessel_id IN (3, 4)`. */
function pinnedRows(where: Expr | null, context: HazardContext): { column: string; keys: string[] } | null {
  if (!where) return null;
  const parts = whereParts({ where });
  const list = pinnedConstants(parts, context.names);
  const [pinned] = list;
  if (!pinned || list.length !== parts.length || list.some(({ column }) => column.name !== pinned.column.name))
    return null;
  return {
    column: pinned.column.name,
    keys: pinned.values.map(keyText).filter((one): one is string => one !== null),
  };
}

function keyOf(name: Parameters<typeof tableNameOf>[0], context: HazardContext): string {
  const { schema, table } = tableNameOf(name, context.dialect);
  return tableKey(schema, table);
}

/** The key of a trigger in the catalog, or of a routine. */
function guardKey(name: Name, table: Name | null, context: HazardContext): string {
  if (!table) return keyOf(name, context);
  const relation = context.catalog?.resolveRelation(table);
  const key = relation ? tableKey(relation.schema, relation.name) : keyOf(table, context);
  return `${key}\u0000${foldName(name.parts[name.parts.length - 1], context.dialect)}`;
}

function targetOf({ tree, catalog }: HazardContext): string {
  const name =
    tree.kind === "insert" || tree.kind === "merge"
      ? tree.target.kind === "table"
        ? tree.target.name
        : null
      : tree.kind === "copy"
        ? tree.table
        : null;
  if (!name) return "";
  const table = catalog?.resolve(name);
  if (!table) return writtenName(name);
  return table.schema === "" || table.schema === "main" ? table.name : `${table.schema}.${table.name}`;
}

/** The columns of a filter that is nothing but `column = constant`, or null. */
function onlyConstants(where: Expr, context: HazardContext): Map<string, ConstantValue> | null {
  const conditions = context.changes[0]?.change.conditions;
  const parts =
    conditions?.length === 1 && conditions[0].expr === where ? filterParts(conditions) : whereParts({ where });
  const pinned = pinnedConstants(parts, context.names);
  if (pinned.length !== parts.length) return null;
  const result = new Map<string, ConstantValue>();
  for (const { column, values } of pinned) {
    if (values.length !== 1) return null;
    result.set(column.name, values[0]);
  }
  return result;
}
