import { type Catalog, relationKey } from "../../catalog/catalog.ts";
import { nameKey } from "../../catalog/keys.ts";
import { foldName } from "../../catalog/names.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Name, Query, Statement } from "../../sql/nodes/tree.ts";

/** What a script has made so far: tables, columns, and copies of whole tables. */
export class Creations {
  readonly #dialect: Dialect;
  /** Tables made in this script that are still there, by key; the value says whether they are temporary. */
  readonly #made = new Map<string, boolean>();
  readonly #everMade = new Set<string>();
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
            const columns = this.#added.get(key) ?? new Set();
            columns.add(column);
            this.#added.set(key, columns);
            this.#everAdded.add(`${key}\u0000${column}`);
          } else if (action.what === "rename") {
            // A renamed table is as lasting as it was under its old name.
            const made = this.#made.get(key);
            this.#made.delete(key);
            if (made !== undefined) this.#made.set(nameKey(action.to, this.#dialect), made);
          }
        }
        break;
      }
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
