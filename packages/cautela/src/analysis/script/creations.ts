import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { bareName, foldName, nameFrom } from "../../catalog/names.ts";
import { newKey, relationKey, renamedKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { readText } from "../../sql/grammar/dynamic.ts";
import type { Expr, Ident, Name, Query, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { isConstantValue } from "../changes/constant-rows.ts";
import { fillsItself } from "../changes/required.ts";

/** A column that a script has added. */
interface AddedColumn {
  /** The rows that were there hold NULL in it, unless a change has filled it since. */
  blank: boolean;
  /** The script itself has made it NOT NULL. */
  required: boolean;
  /** A row that gives it no value gets one. */
  fills: boolean;
}

/** What a script has made so far: tables, columns, routines. */
export class Creations {
  readonly #dialect: Dialect;
  /** Tables made in this script that are still there, by key; the value says whether they are temporary. */
  readonly #made = new Map<string, boolean>();
  readonly #everMade = new Set<string>();
  /** Routines that this script makes, by their bare names in small letters. */
  readonly #routines = new Set<string>();
  /** Routines of this script that alter tables, by their bare names in small letters. */
  readonly #altering = new Set<string>();
  /** Columns added in this script, by the table's key. */
  readonly #added = new Map<string, Set<string>>();
  readonly #everAdded = new Set<string>();
  /** What is known of the columns that ADD COLUMN has added, by table and column in small letters. */
  readonly #columns = new Map<string, AddedColumn>();
  /** Columns that the script has made NOT NULL, added or not, in small letters, by the table's key. */
  readonly #required = new Map<string, Set<string>>();
  /** The columns of older tables that it has dropped or renamed, by their keys; null: not known. */
  readonly #replaced = new Map<string, ReadonlySet<string> | null>();
  /** Where the rows of a made table come from: the tables by key, with the columns that they fill; null: all. */
  readonly #filledFrom = new Map<string, Map<string, ReadonlySet<string> | null>>();

  constructor(dialect: Dialect) {
    this.#dialect = dialect;
  }

  /** Whether the table was made by the script and is still there: temporary or not; null where it was not. */
  made(key: string): "temporary" | "lasting" | null {
    const temporary = this.#made.get(key);
    return temporary === undefined ? null : temporary ? "temporary" : "lasting";
  }

  /** Whether the script makes a routine of that bare name. */
  makesRoutine(name: string): boolean {
    return this.#routines.has(bareName(name).toLowerCase());
  }

  /** Whether the script has made a table at all that is still there. */
  get some(): boolean {
    return this.#made.size > 0;
  }

  /** Whether the script has made the table at any time. */
  everMade(key: string): boolean {
    return this.#everMade.has(key);
  }

  /** The columns that the script has added to a table. */
  added(key: string): ReadonlySet<string> | null {
    return this.#added.get(key) ?? null;
  }

  /** Whether the script has added the column at any time. */
  everAdded(key: string, column: string): boolean {
    return this.#everAdded.has(columnKey(key, column));
  }

  /** A column that the script has added by ADD COLUMN; null: it has not. */
  addedColumn(key: string, column: string): Readonly<AddedColumn> | null {
    return this.#columns.get(columnKey(key, column.toLowerCase())) ?? null;
  }

  /** Whether the script has made a column NOT NULL, whoever has added it. */
  isRequired(key: string, column: string): boolean {
    return this.#required.get(key)?.has(column.toLowerCase()) ?? false;
  }

  /** The columns that the script has added as NOT NULL and without a default: each new row has to give them a value. */
  mustBeGiven(key: string): string[] {
    return [...(this.#added.get(key) ?? [])].filter(
      (column) => this.isRequired(key, column) && this.addedColumn(key, column)?.fills === false,
    );
  }

  /**
   * Begins as the script before it in a change set has ended: its new columns are still new, and its copies, given by
   * their keys, are still no older than the change. Other tables that it made may be in use by the time this one runs.
   */
  continueFrom(earlier: Creations, copies: Iterable<string>): void {
    for (const name of earlier.#routines) this.#routines.add(name);
    for (const name of earlier.#altering) this.#altering.add(name);
    for (const one of earlier.#everAdded) this.#everAdded.add(one);
    for (const [column, one] of earlier.#columns) this.#columns.set(column, { ...one });
    for (const [key, columns] of earlier.#required) this.#required.set(key, new Set(columns));
    for (const [key, columns] of earlier.#added) this.#added.set(key, new Set(columns));
    for (const key of copies)
      if (earlier.#made.get(key) === false && !earlier.#replaced.has(key)) this.#make(key, false);
  }

  /** Takes back the script that has made all this: it is its own. */
  takesBack(undone: Creations): void {
    for (const [key, temporary] of undone.#made) if (!temporary) this.#make(key, false);
    for (const key of undone.#everMade) this.#everMade.add(key);
    for (const name of undone.#routines) this.#routines.add(name);
    for (const one of undone.#everAdded) this.#everAdded.add(one);
    for (const [key, columns] of undone.#added) this.#added.set(key, new Set(columns));
  }

  /** Takes a statement into account for those that follow. */
  note(statement: Statement, catalog: Catalog | null): void {
    switch (statement.kind) {
      case "create-table": {
        // IF NOT EXISTS leaves a table alone that the catalog already holds.
        const exists = statement.ifNotExists && catalog?.resolve(statement.name) !== undefined;
        if (exists) break;
        const key = newKey(statement.name, catalog, this.#dialect, statement.temporary);
        this.#make(key, statement.temporary);
        if (statement.query) this.#fillNew(key, statement.query, catalog);
        break;
      }
      case "select": {
        const { body } = statement.query;
        if (this.#altering.size > 0 && body.kind === "select")
          for (const { expr } of body.items) if (expr.kind === "call") this.#noteCall(expr.name, expr.args, catalog);
        if (body.kind !== "select" || body.into?.what !== "table") break;
        const target = body.into.targets[0];
        if (target?.kind !== "column") break;
        const name: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
        const key = newKey(name, catalog, this.#dialect, body.into.temporary);
        this.#make(key, body.into.temporary);
        this.#fillNew(key, statement.query, catalog);
        break;
      }
      case "insert": {
        const { target, source, columns } = statement;
        if (target.kind !== "table" || !source || !readsTables(source)) break;
        const key = relationKey(target.name, catalog, this.#dialect);
        if (this.#made.has(key)) {
          this.#fill(key, source, columns && carriedColumns(columns, source, this.#dialect), catalog);
        }
        // Dropped, made again and filled from what was kept meanwhile.
        if (this.#made.has(key) && this.#holdsOlder(key, key, catalog)) this.#made.delete(key);
        break;
      }
      case "alter-table": {
        const key = relationKey(statement.name, catalog, this.#dialect);
        for (const action of statement.actions) {
          if (action.what === "add-column") {
            const column = foldName(action.column.name, this.#dialect);
            const required = action.column.required === true;
            this.#add(key, column);
            const fills = fillsItself(action.column);
            this.#columns.set(columnKey(key, column.toLowerCase()), { blank: !required && !fills, required, fills });
            this.#require(key, action.column.name, required);
            // Partitions, and tables that inherit, have it as well.
            for (const child of catalog?.childrenOf(key) ?? []) this.#add(tableKey(child.schema, child.name), column);
          } else if (action.what === "rename") this.#rename(key, action.to, catalog);
          else if (action.what === "rename-column") this.#renameColumn(key, action.name, action.to);
          else if (action.what === "change-column") {
            this.#renameColumn(key, action.name, action.column.name);
            if (action.column.required) this.#alter(key, action.column.name, { required: true });
            this.#alter(key, action.column.name, { fills: fillsItself(action.column) });
            this.#require(key, action.name, false);
            this.#require(key, action.column.name, action.column.required === true);
          } else if (action.what === "column-required") {
            this.#alter(key, action.name, { required: action.required });
            this.#require(key, action.name, action.required);
          } else if (action.what === "column-default")
            this.#alter(key, action.name, { fills: action.default !== null });
          else if (action.what === "drop-column") this.#require(key, action.name, false);
          else if (action.what === "column-type" && action.using) this.#alter(key, action.name, { blank: false });
        }
        break;
      }
      case "rename":
        if (statement.object === "table")
          for (const { from, to } of statement.renames)
            this.#rename(relationKey(from, catalog, this.#dialect), to, catalog);
        break;
      case "create-routine":
        if (statement.name) this.#routines.add(lastPart(statement.name));
        if (statement.name && statement.body?.some((one) => altersTables(one)))
          this.#altering.add(lastPart(statement.name));
        break;
      case "assign":
      case "declare":
      case "dynamic":
        if (statement.kind !== "dynamic" || statement.body === null) this.#noteTexts(statement, catalog);
        if (statement.kind === "dynamic")
          for (const one of statement.pattern) if (one.kind === "alter-table") this.note(one, catalog);
        break;
      case "call-statement":
        if (statement.name) this.#noteCall(statement.name, statement.args, catalog);
        break;
      case "drop":
        if (statement.object === "table")
          for (const name of statement.names) {
            const key = relationKey(name, catalog, this.#dialect);
            this.#replace(key, catalog);
            this.#made.delete(key);
            this.#added.delete(key);
            this.#filledFrom.delete(key);
            this.#required.delete(key);
          }
        break;
      default:
    }
  }

  /** Takes the tables that a statement makes which could not be read: they are no older than the script. */
  noteUnread(unread: string, catalog: Catalog | null): void {
    const text = unread.replace(/\/\*[^*]*\*\//g, " ");
    const made =
      /\bcreate\s+(?:(?:global|local|temp|temporary|unlogged|or|replace)\s+){0,3}table\s+(?:if\s+not\s+exists\s+)?([\w.$#"`[\]]+)/i.exec(
        text,
      );
    if (made) this.#make(newKey(nameFrom(made[1].replace(/["`[\]]/g, "")), catalog, this.#dialect), false);
  }

  #add(key: string, column: string): void {
    const columns = this.#added.get(key) ?? new Set();
    columns.add(column);
    this.#added.set(key, columns);
    this.#everAdded.add(columnKey(key, column));
  }

  /** An older table gives up its name: what takes it may hold its rows. */
  #replace(key: string, catalog: Catalog | null): void {
    if (!this.#made.has(key)) this.#replaced.set(key, columnsOf(key, catalog));
  }

  /**
   * A renamed table is as lasting as it was under its old name, and its new columns are as new. One that takes the place of an
   * older table holds its rows: only the columns that the older one lacked are new.
   */
  #rename(key: string, to: Name, catalog: Catalog | null): void {
    const renamed = renamedKey(key, to, catalog, this.#dialect);
    this.#replace(key, catalog);
    const made = this.#made.get(key);
    this.#made.delete(key);
    if (made !== undefined && !this.#holdsOlder(renamed, key, catalog)) this.#make(renamed, made);
    const filled = new Map(this.#filledFrom.get(key));
    if (made === undefined) filled.set(key, null);
    this.#filledFrom.set(renamed, filled);
    this.#filledFrom.delete(key);
    const required = this.#required.get(key);
    this.#required.delete(key);
    if (required) this.#required.set(renamed, required);
    const added = this.#added.get(key);
    this.#added.delete(key);
    for (const column of added ?? []) this.#add(renamed, column);
  }

  /** Whether a table stands in the place of an older one and has its rows; then the columns that are new are taken note of. */
  #holdsOlder(key: string, now: string, catalog: Catalog | null): boolean {
    if (!this.#replaced.has(key)) return false;
    const before = this.#replaced.get(key) ?? null;
    const columns = columnsOf(now, catalog);
    // Of an older table that is not known the statement tells that fills the new one from it.
    const filled = this.#filledFrom.get(now);
    if (!(before && columns) && !filled?.has(key)) return false;
    const older = before ?? filled?.get(key);
    if (older) for (const column of columns ?? []) if (!older.has(column)) this.#add(key, column);
    return true;
  }

  /** A table that is made from a query: under the name of an older one it may hold that one's rows. */
  #fillNew(key: string, query: Query, catalog: Catalog | null): void {
    this.#fill(key, query, null, catalog);
    if (this.#replaced.size > 0 && this.#holdsOlder(key, key, catalog)) this.#made.delete(key);
  }

  /** Takes note of the tables that the rows of a made one come from. */
  #fill(key: string, query: Query, columns: ReadonlySet<string> | null, catalog: Catalog | null): void {
    const known = this.#filledFrom.get(key) ?? new Map<string, ReadonlySet<string> | null>();
    walk(query, (node) => {
      if (node.kind !== "table") return undefined;
      const from = relationKey(node.name, catalog, this.#dialect);
      if (known.size >= MOST_SOURCES) return false;
      for (const source of [from, ...(this.#filledFrom.get(from)?.keys() ?? [])])
        if (source !== key || from !== key) known.set(source, columns);
      return undefined;
    });
    this.#filledFrom.set(key, known);
  }

  #renameColumn(key: string, from: Ident, to: Ident): void {
    const [old, now] = [foldName(from, this.#dialect), foldName(to, this.#dialect)];
    if (this.isRequired(key, old)) {
      this.#require(key, from, false);
      this.#require(key, to, true);
    }
    if (!this.#added.get(key)?.has(old)) return;
    this.#add(key, now);
    const known = this.addedColumn(key, old);
    if (known) this.#columns.set(columnKey(key, now.toLowerCase()), known);
  }

  #require(key: string, name: Ident, required: boolean): void {
    const columns = this.#required.get(key) ?? new Set();
    const own = foldName(name, this.#dialect).toLowerCase();
    if (required) this.#required.set(key, columns.add(own));
    else columns.delete(own);
  }

  #alter(key: string, name: Ident, now: Partial<AddedColumn>): void {
    const known = this.addedColumn(key, foldName(name, this.#dialect));
    if (known) Object.assign(known, now);
  }

  /** Texts of DDL that may be run later: the columns that they add are new by then. */
  #noteTexts(statement: Statement, catalog: Catalog | null): void {
    walk(statement, (node) => {
      if (node.kind === "literal" && node.type === "string" && ALTERS.test(node.value))
        for (const inner of readText(this.#dialect, node.value) ?? [])
          if (inner.kind === "alter-table") this.note(inner, catalog);
      return undefined;
    });
  }

  /** A call of a routine that alters tables: what its arguments name may be a table and its new column. */
  #noteCall(name: Name, args: readonly Expr[], catalog: Catalog | null): void {
    if (!this.#altering.has(lastPart(name))) return;
    const words = args.flatMap((one) => (one.kind === "literal" && one.type === "string" ? [one.value] : []));
    words.forEach((table, i) => {
      for (const column of words.slice(i + 1)) {
        const key = relationKey(nameFrom(table), catalog, this.#dialect);
        this.#add(key, foldName(nameFrom(column).parts[0], this.#dialect));
      }
    });
  }

  #make(key: string, temporary: boolean): void {
    this.#made.set(key, temporary);
    this.#everMade.add(key);
  }
}

function columnKey(table: string, column: string): string {
  return `${table}\0${column}`;
}

/** The columns of a table as the catalog has them; null: it does not. */
function columnsOf(key: string, catalog: Catalog | null): ReadonlySet<string> | null {
  const table = catalog?.byKey(key);
  return table && table.columns.length > 0 ? new Set(table.columns.map(({ name }) => name)) : null;
}

/** Whether the rows of an INSERT come from tables. */
function readsTables(source: Query | null): boolean {
  const body = source?.body;
  return (
    body?.kind === "table-query" || body?.kind === "compounded" || (body?.kind === "select" && body.from.length > 0)
  );
}

const ALTERS = /^\s*alter\s+table\s/i;

/** Whether code alters a table, by itself or by SQL that it puts together. */
function altersTables(statement: Statement): boolean {
  let alters = false;
  walk(statement, (node) => {
    if (node.kind === "alter-table") alters = true;
    if (node.kind === "literal" && node.type === "string" && ALTERS.test(node.value)) alters = true;
    return !alters;
  });
  return alters;
}

/** The columns of an INSERT that are filled with more than a constant. */
function carriedColumns(columns: readonly Name[], { body }: Query, dialect: Dialect): ReadonlySet<string> {
  const items = body.kind === "select" && body.items.length === columns.length ? body.items : null;
  return new Set(
    columns
      .filter((_, i) => !items || !isConstantValue(items[i].expr, dialect))
      .map(({ parts }) => foldName(parts[parts.length - 1], dialect)),
  );
}

function lastPart({ parts }: Name): string {
  return parts[parts.length - 1].text.toLowerCase();
}

/** This many tables are kept that the rows of one come from. */
const MOST_SOURCES = 50;
