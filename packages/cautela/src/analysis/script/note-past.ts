import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { foldName, tableNameOf, writtenName } from "../../catalog/names.ts";
import { newKey, relationKey, renamedKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type {
  AlterAction,
  AlterTableStatement,
  Expr,
  Ident,
  Name,
  Statement,
  UpdateStatement,
} from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Slice } from "../../text/slice.ts";
import type { Change } from "../changes/change.ts";
import { conjuncts } from "../changes/reach.ts";
import { keyOfColumn, keyText, referenced, singleKeys } from "../changes/references.ts";
import { storedValues } from "../changes/stored-values.ts";
import { type Step as NumberStep, stepOf } from "../conditions/bands.ts";
import {
  assignedIn,
  type ConstantValue,
  filterParts,
  pinnedConstants,
  usedColumn,
  whereParts,
} from "../conditions/conditions.ts";
import { constant } from "../conditions/constants.ts";
import { type FilterFact, filterFacts } from "../conditions/filter-facts.ts";
import { isEnginesOwn } from "../names/missing.ts";
import type { History } from "./history.ts";
import { precheckOf } from "./precheck.ts";
import { coverageOf } from "./prepared.ts";
import type { Step } from "./step.ts";

/** Takes a statement into the history, for the hazards that compare later ones with it. */
export function notePast(context: Step, history: History): void {
  const { tree, changes, names, dialect, at, conditional } = context;
  const noteText = (): void => {
    const text = context.text;
    if (text !== null) history.noteText(text, at.region.line, at.statement);
  };
  noteTouched(context, history);
  history.mayHaveMade ||= mayMake(tree);
  history.batch.note(tree);
  history.runOnce.note(context);
  switch (tree.kind) {
    case "unread":
      history.noteUnread(context.slice(tree.start, Math.min(tree.end, tree.start + 4000)));
      break;
    case "update":
    case "delete":
    case "truncate":
      for (const judged of changes) {
        const { change, target } = judged;
        const set = new Map<string, ConstantValue>();
        const steps = tree.kind === "update" ? stepsIn(tree, context) : NO_STEPS;
        const assigned = new Map<string, string>();
        for (const { column, value } of assignedIn(tree, names)) {
          const known = constant(value);
          if (known) set.set(column.name, known);
          // Only constants are compared with later ones.
          assigned.set(column.name, known ? context.slice(value.start, value.end) : "");
        }
        const where = "where" in tree ? tree.where : null;
        const pinned = where ? onlyConstants(where, context) : null;
        history.note({
          statement: at.statement,
          place: `line ${at.region.line}`,
          action: change.action,
          target,
          set,
          steps,
          assigned,
          where: pinned,
          facts: where && pinned === null ? ownFacts(tree, change, context) : null,
          every: judged.result.reach.bound === "every",
          looped: context.inLoop,
          perhaps: conditional,
          covers: coverageOf(judged, context.slice),
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
      const look = precheckOf(tree, dialect, context.catalog, context.slice);
      // A look at a table right after its change compares; it is not the check before the next one.
      if (look && (at.statement === 0 || history.touched(look.key).changed !== at.statement - 1))
        history.precheck = { ...look, statement: at.statement, line: at.region.line };
      break;
    }
    case "create-table":
      history.noteCreate(newKey(tree.name, context.catalog, dialect, tree.temporary));
      history.noteBack(newKey(tree.name, context.catalog, dialect, tree.temporary), null);
      history.mend(newKey(tree.name, context.catalog, dialect, tree.temporary));
      break;
    case "create-index":
      if (tree.name && history.indexes.size < INDEXES)
        history.indexes.set(
          indexKey(tree.name, tree.table, context.catalog, dialect),
          relationKey(tree.table, context.catalog, dialect),
        );
      break;
    case "create-view": {
      const made = newKey(tree.name, context.catalog, dialect, tree.temporary);
      history.noteCreate(made);
      history.mend(made);
      break;
    }
    case "create-routine":
      if (tree.name) history.mend(guardKey(tree.name, tree.trigger?.table ?? null, context));
      break;
    case "alter-table":
      noteColumns(tree, context, history);
      for (const action of tree.actions)
        if (action.what === "rename") {
          const before = relationKey(tree.name, context.catalog, dialect);
          const renamed = renamedKey(before, action.to, context.catalog, dialect);
          // A name that is taken is refused.
          if (!conditional && !context.catalog?.relation(renamed)) history.noteRename(before, at.region.line);
          history.noteCreate(renamed);
          moveIndexes(tree.name, action.to, context, history);
        }
      // SQLite looks at every view when a table takes a new name, and refuses while one of them is broken.
      if (!dialect.engine.renameChecksViews)
        for (const action of tree.actions)
          if (action.what === "rename")
            history.mend(
              renamedKey(relationKey(tree.name, context.catalog, dialect), action.to, context.catalog, dialect),
            );
      break;
    case "rename":
      for (const { from, to } of tree.renames) {
        moveIndexes(from, to, context, history);
        const before = relationKey(from, context.catalog, dialect);
        const renamed = renamedKey(before, to, context.catalog, dialect);
        const named = tree.object === "table" || tree.object === "view";
        if (named && !tree.schema && !conditional && !context.catalog?.relation(renamed))
          history.noteRename(before, at.region.line);
        history.noteCreate(renamed);
        history.mend(renamed);
      }
      break;
    case "drop":
      for (const name of tree.names) {
        if (tree.object === "index") history.indexes.delete(indexKey(name, tree.on, context.catalog, dialect));
        if (tree.object === "table") {
          const gone = relationKey(name, context.catalog, dialect);
          for (const [index, table] of history.indexes) if (table === gone) history.indexes.delete(index);
        }
        const relation = context.catalog?.resolveRelation(name);
        if (tree.object === "table") history.noteDrop(relationKey(name, context.catalog, dialect), at.region.line);
        else
          history.mend(
            tree.object === "trigger" ? guardKey(name, tree.on, context) : relationKey(name, context.catalog, dialect),
          );
        if (relation?.object === "view" && relation.columns)
          history.noteDroppedView(tableKey(relation.schema, relation.name), relation.columns, at.region.line);
      }
      break;
    default:
  }
  if (!names) return;
  noteKeys(context, history);
  for (const { source } of names.missing) {
    // Where nothing is known, a branch may ask first whether it is there.
    if (isEnginesOwn(source, dialect) || (conditional && !context.catalog?.complete)) continue;
    const key = newKey(source.name, context.catalog, context.dialect);
    const list = history.wanted.get(key) ?? [];
    if (list.length < 8) list.push({ ...at, shown: writtenName(source.name) });
    if (history.wanted.size < 500) history.wanted.set(key, list);
  }
}

/** Whether a statement may make objects that nobody sees: dynamic SQL that is not known, a routine, another file. */
function mayMake(tree: Statement): boolean {
  switch (tree.kind) {
    case "dynamic":
      return tree.body === null;
    case "call-statement":
      return true;
    case "directive":
      return /^(?:\\(?:i|ir|include|include_relative|gexec)\b|@|:r\b|source\b|\.read\b|start\b)/i.test(tree.text);
    case "opaque":
      return tree.class === "code";
    default:
      return false;
  }
}

/** Columns that go, and come, where the catalog does not know the table and cannot tell. */
function noteColumns(tree: AlterTableStatement, { catalog, dialect, at, conditional }: Step, history: History): void {
  const key = relationKey(tree.name, catalog, dialect);
  const table = catalog?.resolve(tree.name);
  if (table ? !table.partial : catalog?.complete) return;
  const name = (one: Ident): string => foldName(one, dialect).toLowerCase();
  for (const action of tree.actions) {
    if (conditional) break;
    if (action.what === "drop-column") history.noteGone(key, name(action.name), at.region.line, null);
    const renamed = renamedColumn(action);
    if (renamed) history.noteGone(key, name(renamed.from), at.region.line, renamed.to.text);
  }
  // Two columns may change places.
  for (const action of tree.actions) {
    const to = action.what === "add-column" ? action.column.name : renamedColumn(action)?.to;
    if (to) history.noteBack(key, name(to));
    else if (action.what === "rename") history.noteBack(key, null);
  }
}

/** A column's name before and after an action that may rename it. */
function renamedColumn(action: AlterAction): { from: Ident; to: Ident } | null {
  if (action.what === "rename-column") return { from: action.name, to: action.to };
  return action.what === "change-column" ? { from: action.name, to: action.column.name } : null;
}

/** The indexes of a table go along when it takes another name. */
function moveIndexes(from: Name, to: Name, { catalog, dialect }: Step, history: History): void {
  if (history.indexes.size === 0) return;
  const [before, after] = [relationKey(from, catalog, dialect), relationKey(to, catalog, dialect)];
  for (const [index, table] of [...history.indexes])
    if (table === before) {
      history.indexes.delete(index);
      history.indexes.set(index.replace(`${before} `, `${after} `), after);
    }
}

const INDEXES = 2000;

/** An index by its name, and by its table where names of indexes are the table's own. */
export function indexKey(name: Name, table: Name | null, catalog: Catalog | null, dialect: Dialect): string {
  const own = foldName(name.parts[name.parts.length - 1], dialect).toLowerCase();
  return dialect.syntax.indexOfTable && table ? `${relationKey(table, catalog, dialect)} ${own}` : own;
}

const SETS: ReadonlySet<Statement["kind"]> = new Set([
  "assign",
  "select",
  "call-statement",
  "declare",
  "dynamic",
  "opaque",
]);
const VARIABLES = 1000;

/** Takes note of the tables whose rows came, went or changed, and of variables that got a value. */
function noteTouched({ tree, changes, catalog, dialect, at }: Step, history: History): void {
  for (const { change } of changes) {
    const key = relationKey(change.name, catalog, dialect);
    history.touch(key, change.action === "update" ? "updated" : "removed", at.statement);
  }
  const touch = (name: Name | null, how: "brought" | "removed" = "brought"): void => {
    if (name) history.touch(relationKey(name, catalog, dialect), how, at.statement);
  };
  // Whatever is no change of rows may set a variable that it names: SET, SELECT … INTO, an argument of CALL.
  if (dialect.lexical.client === "mysql-client" && changes.length === 0 && SETS.has(tree.kind))
    walk(tree, (node) => {
      if (node.kind === "variable" && history.variables.size < VARIABLES)
        history.variables.add(node.name.toLowerCase());
      return undefined;
    });
  if (tree.kind === "select" && tree.query.body.kind === "select")
    for (const target of tree.query.body.into?.targets ?? [])
      if (target.kind === "variable") history.variables.add(target.name.toLowerCase());
  switch (tree.kind) {
    case "insert":
    case "merge":
      touch(tree.target.kind === "table" ? tree.target.name : null);
      break;
    case "copy":
      touch(tree.table);
      break;
    case "create-table":
      touch(tree.name, "removed");
      break;
    case "drop":
      if (tree.object === "table") for (const name of tree.names) touch(name, "removed");
      break;
    case "assign":
    case "declare":
    case "directive":
      history.assigned = at.statement;
      break;
    case "select":
      if (tree.query.body.kind === "select" && tree.query.body.into) history.assigned = at.statement;
      break;
    default:
  }
}

/** Takes note of the rows that a statement brings, deletes and refers to by their keys. */
function noteKeys(context: Step, history: History): void {
  const { tree, names, catalog, changes, dialect, at } = context;
  // What stands in a branch or a loop of a block need not run, or runs with other values.
  const perhaps = context.inCode && context.conditional;
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
    const gone = perhaps || !("where" in change.statement) ? null : pinnedRows(change.statement.where, context);
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
    if (key === null || perhaps || table.foreignKeys.length === 0) continue;
    const to = referenced(table, column, catalog);
    if (!to || to.foreignKey.deferrable) continue;
    keys.refer(keyOfColumn(to.table, to.column), key, { at, from: column });
  }
}

/** The rows that a filter names by one column and nothing else: `vessel_id IN (3, 4)`. */
function pinnedRows(where: Expr | null, context: Step): { column: string; keys: string[] } | null {
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

/** The key of a trigger in the catalog, or of a routine. */
function guardKey(name: Name, table: Name | null, context: Step): string {
  if (!table) return newKey(name, context.catalog, context.dialect);
  const key = relationKey(table, context.catalog, context.dialect);
  return `${key}\u0000${foldName(name.parts[name.parts.length - 1], context.dialect)}`;
}

function targetOf({ tree, catalog }: Step): string {
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
  return table ? shownName(table) : writtenName(name);
}

/** A filter of a few conditions on the changed table alone, as it compares with that of another change; null: it is another one. */
export function ownFacts(
  tree: Statement,
  change: Change,
  { names, slice }: Pick<Step, "names" | "slice">,
): readonly FilterFact[] | null {
  // It is compared with earlier changes, and later ones with it.
  return names
    ? names.memo.once(readOwnFacts, change, () => readOwnFacts(tree, change, slice))
    : readOwnFacts(tree, change, slice);
}

function readOwnFacts(tree: Statement, change: Change, slice: Slice): readonly FilterFact[] | null {
  if ((tree.kind !== "update" && tree.kind !== "delete") || !tree.where || tree.limit) return null;
  const { where, from } = tree;
  const sources = tree.kind === "delete" ? [...from, ...tree.using] : from.length > 0 ? from : tree.target;
  if (sources.length !== 1 || sources[0].kind !== "table") return null;
  // UPDATE b SET … FROM berth b (tsql) changes what FROM names; elsewhere that is another table.
  if (tree.kind === "update" && from.length > 0 && change.relation?.source !== sources[0]) return null;
  const { conditions } = change;
  if (conditions.length !== 1 || conditions[0].expr !== where) return null;
  return conjuncts(where).length > FACTS ? null : filterFacts(where, slice);
}

const FACTS = 8;

const NO_STEPS: ReadonlyMap<string, NumberStep> = new Map();

/** What an UPDATE does to the numbers in its columns, where it is the same to all rows. */
export function stepsIn(tree: UpdateStatement, { names }: Pick<Step, "names">): ReadonlyMap<string, NumberStep> {
  const steps: [string, NumberStep][] = [];
  for (const { column, value, assignment } of assignedIn(tree, names)) {
    const isOwn = (expr: Expr): boolean => {
      const used = usedColumn(expr, names);
      return used?.name === column.name && used.relation === column.relation;
    };
    const step = stepOf(assignment.op, value, isOwn);
    if (step) steps.push([column.name, step]);
  }
  return steps.length === 0 ? NO_STEPS : new Map(steps);
}

/** The columns of a filter that is nothing but `column = constant`, or null. */
function onlyConstants(where: Expr, context: Step): Map<string, ConstantValue> | null {
  const conditions = context.changes[0]?.change.conditions;
  // A join asks something besides, and its constants may be another table's.
  if (conditions?.some((one) => one.where === "join")) return null;
  const { tree } = context;
  // Of the rows that meet it only some are changed.
  if ((tree.kind === "update" || tree.kind === "delete") && tree.limit) return null;
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
