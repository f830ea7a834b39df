import type { Catalog } from "../../catalog/catalog.ts";
import { columnNamed } from "../../catalog/columns.ts";
import { differences } from "../../catalog/differences.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { newKey, relationKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Name, Statement } from "../../sql/nodes/tree.ts";
import { executed } from "../../sql/reading/executed.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import { changesOf } from "../changes/change.ts";
import type { UndoGaps } from "./origin.ts";

/** A script that another one takes back. */
export interface UndoneScript {
  /** What the database held before it. */
  readonly before: Catalog;
  /** What it held after it. */
  readonly after: Catalog;
  readonly statements: readonly Statement[];
}

/**
 * What does not come back when a script is taken back by another: both have been replayed, and the database as it is then is
 * compared with what it was.
 *
 * @example
 * // ALTER TABLE owner DROP COLUMN phone;   taken back by   ALTER TABLE owner ADD COLUMN phone text;
 * undoGaps(undone, undo, catalog, dialect).rows // ["column `phone` of `owner` comes back empty"]
 */
export function undoGaps(
  undone: UndoneScript,
  undo: readonly Statement[],
  catalog: Catalog,
  dialect: Dialect,
): UndoGaps {
  const leaves = unknownBefore(undone.statements, undone.before, dialect);
  return {
    structure: [
      ...differences(undone.before, catalog, leaves).map(({ text }) => text),
      ...indexGaps(undone, undo, dialect),
    ],
    rows: undoLosses(undone, undo, catalog, dialect),
  };
}

/**
 * The tables whose rows some statements write, and the columns that they write: null stands for whole rows. Also the tables
 * that take another's place by being renamed, whose rows come with them.
 */
class WrittenRows {
  readonly #columns = new Map<string, Set<string> | null>();

  note(tree: Statement, catalog: Catalog, dialect: Dialect): void {
    for (const change of changesOf(tree, catalog, dialect)) {
      const columns =
        change.statement.kind === "update"
          ? assignedColumns(change.statement.assignments).map((column) => column.toLowerCase())
          : null;
      this.#add(relationKey(change.name, catalog, dialect), columns);
    }
    switch (tree.kind) {
      case "insert":
      case "merge":
        if (tree.target.kind === "table") this.#add(relationKey(tree.target.name, catalog, dialect), null);
        return;
      case "copy":
        if (tree.direction === "in" && tree.table) this.#add(relationKey(tree.table, catalog, dialect), null);
        return;
      case "create-table":
        if (tree.query) this.#add(newKey(tree.name, catalog, dialect), null);
        return;
      case "rename":
        for (const { to } of tree.renames) this.#add(newKey(to, catalog, dialect), null);
        return;
      case "alter-table":
        for (const action of tree.actions) {
          if (action.what === "rename") this.#add(newKey(action.to, catalog, dialect), null);
          if (action.what === "rename-column")
            this.#add(relationKey(tree.name, catalog, dialect), [foldName(action.to, dialect).toLowerCase()]);
        }
    }
  }

  /** Whether the rows of a table are written, or a column of them. */
  has(key: string, column: string | null = null): boolean {
    const columns = this.#columns.get(key);
    if (columns === undefined) return false;
    return column === null || columns === null || columns.has(column.toLowerCase());
  }

  #add(key: string, columns: readonly string[] | null): void {
    const before = this.#columns.get(key);
    if (columns === null || before === null) this.#columns.set(key, null);
    else this.#columns.set(key, new Set([...(before ?? []), ...columns]));
  }
}

/**
 * What a script has done to rows that were there before it and that the script which takes it back leaves as it is, in words.
 * Where that one writes the same table at all, it is trusted: whether it writes what was there, only the data could tell.
 */
function undoLosses(undone: UndoneScript, undo: readonly Statement[], catalog: Catalog, dialect: Dialect): string[] {
  const { before } = undone;
  const back = new WrittenRows();
  for (const tree of allOf(undo)) back.note(tree, undone.after, dialect);
  const said = new Set<string>();

  /** A table that was there before, and is there at the end. */
  const lasting = (name: Name): { key: string; table: Table; shown: string } | null => {
    const key = relationKey(name, before, dialect);
    const table = before.byKey(key);
    return table && !table.temporary && catalog.byKey(key) ? { key, table, shown: shownName(table) } : null;
  };
  for (const tree of allOf(undone.statements)) {
    if (tree.kind === "drop" && tree.object === "table")
      for (const name of tree.names) {
        const own = lasting(name);
        if (own && !back.has(own.key)) said.add(`\`${own.shown}\` comes back without its rows`);
      }
    if (tree.kind === "alter-table") {
      const own = lasting(tree.name);
      if (!own) continue;
      for (const action of tree.actions) {
        if (action.what !== "drop-column") continue;
        const column = foldName(action.name, dialect);
        const known = columnNamed(own.table, column);
        if (!known || known.generated || back.has(own.key, column)) continue;
        if (columnNamed(catalog.byKey(own.key), column))
          said.add(`column \`${known.name}\` of \`${own.shown}\` comes back empty`);
      }
    }
    for (const change of changesOf(tree, before, dialect)) {
      const own = lasting(change.name);
      if (!own || back.has(own.key)) continue;
      if (change.statement.kind === "update") {
        const columns = assignedColumns(change.statement.assignments).filter((one) => columnNamed(own.table, one));
        if (columns.length > 0)
          said.add(`${columns.map((one) => `\`${one}\``).join(", ")} of \`${own.shown}\` keeps its new values`);
      } else said.add(`the rows of \`${own.shown}\` that it deletes stay deleted`);
    }
    if ((tree.kind === "insert" || tree.kind === "merge") && tree.target.kind === "table") {
      const own = lasting(tree.target.name);
      if (own && !back.has(own.key)) said.add(`the rows that it brings into \`${own.shown}\` stay`);
    }
  }
  return [...said];
}

/** Statements with those that run inside them. */
function* allOf(statements: readonly Statement[]): IterableIterator<Statement> {
  for (const statement of statements) {
    yield statement;
    for (const { tree } of executed(statement)) yield tree;
  }
}

/** The keys of what some statements drop or alter and have not made: what it was before them cannot be told. */
function unknownBefore(statements: readonly Statement[], before: Catalog, dialect: Dialect): ReadonlySet<string> {
  const unknown = new Set<string>();
  const made = new Set<string>();
  const make = (name: Name): void => {
    const key = newKey(name, before, dialect);
    if (!unknown.has(key)) made.add(key);
  };
  const touch = (name: Name): void => {
    const key = relationKey(name, before, dialect);
    if (!before.resolveRelation(name) && !made.has(key)) unknown.add(key);
  };
  for (const tree of allOf(statements))
    switch (tree.kind) {
      case "create-table":
      case "create-view":
        // What IF NOT EXISTS leaves alone may have been there.
        if ("ifNotExists" in tree && tree.ifNotExists) touch(tree.name);
        else make(tree.name);
        break;
      case "drop":
        for (const name of tree.names) touch(name);
        if (tree.on) touch(tree.on);
        break;
      case "rename":
        for (const { from, to } of tree.renames) {
          touch(from);
          make(to);
        }
        break;
      case "alter-table":
        touch(tree.name);
        for (const action of tree.actions) if (action.what === "rename") make(action.to);
    }
  return unknown;
}

/** Indexes that a script makes and the one that takes it back leaves, or the other way round, in words. */
function indexGaps(undone: UndoneScript, undo: readonly Statement[], dialect: Dialect): string[] {
  const states = new Map<string, { shown: string; was: boolean; is: boolean }>();
  const note = (name: Name, is: boolean, on: Name | null): void => {
    // What goes with its table is told of the table.
    if (on && !undone.before.resolveRelation(on)) return;
    const last = name.parts[name.parts.length - 1];
    const key = foldName(last, dialect).toLowerCase();
    const before = states.get(key);
    if (before) before.is = is;
    else states.set(key, { shown: last.text, was: !is, is });
  };
  for (const tree of [...allOf(undone.statements), ...allOf(undo)]) {
    if (tree.kind === "create-index" && !tree.unique && tree.name) note(tree.name, true, tree.table);
    if (tree.kind === "drop" && tree.object === "index") for (const name of tree.names) note(name, false, tree.on);
    if (tree.kind === "alter-table")
      for (const action of tree.actions)
        if (action.what === "drop-index") note({ ...tree.name, parts: [action.name] }, false, tree.name);
  }
  return [...states.values()]
    .filter(({ was, is }) => was !== is)
    .map(({ shown, is }) => `index \`${shown}\` ${is ? "stays" : "is gone"}`);
}
