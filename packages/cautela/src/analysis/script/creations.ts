import { type Catalog, relationKey } from "../../catalog/catalog.ts";
import { nameKey, tableKey } from "../../catalog/keys.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { readText } from "../../sql/grammar/dynamic.ts";
import type { Expr, Ident, Name, Query, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";

/** What a script has made so far: tables, columns, and copies of whole tables. */
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
  /** Full copies made in this script: the key of the table that was copied, and the copy's name. */
  readonly #copies = new Map<string, string>();

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
    return this.#routines.has(name.slice(name.lastIndexOf(".") + 1).toLowerCase());
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
    return this.#everAdded.has(`${key}\u0000${column}`);
  }

  /** The copy of a whole table that the script has made; null: none. */
  copyOf(key: string): string | null {
    return this.#copies.get(key) ?? null;
  }

  /** Takes a statement into account for those that follow. */
  note(statement: Statement, catalog: Catalog | null): void {
    switch (statement.kind) {
      case "create-table": {
        // IF NOT EXISTS leaves a table alone that the catalog already holds.
        const exists = statement.ifNotExists && catalog?.resolve(statement.name) !== undefined;
        if (!exists) this.#make(nameKey(statement.name, this.#dialect), statement.temporary);
        if (statement.query && statement.withData) this.#noteCopy(statement.query, statement.name, catalog);
        break;
      }
      case "select": {
        const { body } = statement.query;
        if (this.#altering.size > 0 && body.kind === "select")
          for (const { expr } of body.items) if (expr.kind === "call") this.#noteCall(expr.name, expr.args);
        if (body.kind !== "select" || body.into?.what !== "table") break;
        const target = body.into.targets[0];
        if (target?.kind !== "column") break;
        const name: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
        this.#make(nameKey(name, this.#dialect), body.into.temporary);
        this.#noteCopy(statement.query, name, catalog);
        break;
      }
      case "insert":
        if (statement.target.kind === "table" && statement.source)
          this.#noteCopy(statement.source, statement.target.name, catalog);
        break;
      case "alter-table": {
        const key = relationKey(statement.name, catalog, this.#dialect);
        for (const action of statement.actions) {
          if (action.what === "add-column") {
            const column = foldName(action.column.name, this.#dialect);
            this.#add(key, column);
            // Partitions, and tables that inherit, have it as well.
            for (const child of catalog?.childrenOf(key) ?? []) this.#add(tableKey(child.schema, child.name), column);
          } else if (action.what === "rename") this.#rename(key, action.to);
          else if (action.what === "rename-column") this.#renameColumn(key, action.name, action.to);
          else if (action.what === "change-column") this.#renameColumn(key, action.name, action.column.name);
        }
        break;
      }
      case "rename":
        if (statement.object === "table")
          for (const { from, to } of statement.renames) this.#rename(relationKey(from, catalog, this.#dialect), to);
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
        break;
      case "call-statement":
        if (statement.name) this.#noteCall(statement.name, statement.args);
        break;
      case "drop":
        if (statement.object === "table")
          for (const name of statement.names) {
            const key = relationKey(name, catalog, this.#dialect);
            this.#made.delete(key);
            this.#added.delete(key);
          }
        break;
      default:
    }
  }

  /** Takes the tables that a statement makes which could not be read: they are no older than the script. */
  noteUnread(unread: string): void {
    const text = unread.replace(/\/\*[^*]*\*\//g, " ");
    const made =
      /\bcreate\s+(?:(?:global|local|temp|temporary|unlogged|or|replace)\s+){0,3}table\s+(?:if\s+not\s+exists\s+)?([\w.$#"`[\]]+)/i.exec(
        text,
      );
    if (made) this.#make(nameKey(writtenAs(made[1].replace(/["`[\]]/g, "")), this.#dialect), false);
  }

  #add(key: string, column: string): void {
    const columns = this.#added.get(key) ?? new Set();
    columns.add(column);
    this.#added.set(key, columns);
    this.#everAdded.add(`${key}\u0000${column}`);
  }

  /** A renamed table is as lasting as it was under its old name, and its new columns are as new. */
  #rename(key: string, to: Name): void {
    const renamed = nameKey(to, this.#dialect);
    const made = this.#made.get(key);
    this.#made.delete(key);
    if (made !== undefined) this.#made.set(renamed, made);
    const added = this.#added.get(key);
    this.#added.delete(key);
    for (const column of added ?? []) this.#add(renamed, column);
  }

  #renameColumn(key: string, from: Ident, to: Ident): void {
    if (this.#added.get(key)?.has(foldName(from, this.#dialect))) this.#add(key, foldName(to, this.#dialect));
  }

  /** Texts of DDL that may be run later: the columns that they add are new by then. */
  #noteTexts(statement: Statement, catalog: Catalog | null): void {
    walk(statement, (node) => {
      if (node.kind === "literal" && node.type === "string" && ALTERS.test(node.value))
        for (const inner of readText(this.#dialect, node.value, node) ?? [])
          if (inner.kind === "alter-table") this.note(inner, catalog);
      return undefined;
    });
  }

  /** A call of a routine that alters tables: what its arguments name may be a table and its new column. */
  #noteCall(name: Name, args: readonly Expr[]): void {
    if (!this.#altering.has(lastPart(name))) return;
    const words = args.flatMap((one) => (one.kind === "literal" && one.type === "string" ? [one.value] : []));
    words.forEach((table, i) => {
      for (const column of words.slice(i + 1)) {
        const key = nameKey(writtenAs(table), this.#dialect);
        this.#add(key, foldName(writtenAs(column).parts[0], this.#dialect));
      }
    });
  }

  #make(key: string, temporary: boolean): void {
    this.#made.set(key, temporary);
    this.#everMade.add(key);
  }

  /** `SELECT * FROM t` with nothing that leaves rows or columns out is a copy of `t`. */
  #noteCopy(query: Query, copy: Name, catalog: Catalog | null): void {
    const { body } = query;
    const keep = (of: Name): void => {
      this.#copies.set(relationKey(of, catalog, this.#dialect), copy.parts[copy.parts.length - 1].text);
    };
    if (body.kind === "table-query") keep(body.name);
    if (body.kind !== "select" || query.limit || body.top || body.where || body.groupBy.length > 0 || body.distinct)
      return;
    const source = body.from[0];
    if (
      body.from.length === 1 &&
      source.kind === "table" &&
      body.items.length === 1 &&
      body.items[0].expr.kind === "star"
    )
      keep(source.name);
  }
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

function lastPart({ parts }: Name): string {
  return parts[parts.length - 1].text.toLowerCase();
}

/** A name as a text gives it: `dbo.berth`. */
function writtenAs(text: string): Name {
  const span = { start: 0, end: 0 };
  const parts = text.split(".").map((part) => ({ text: part, quoted: false, hole: false, ...span }));
  return { kind: "name", parts, link: null, ...span };
}
