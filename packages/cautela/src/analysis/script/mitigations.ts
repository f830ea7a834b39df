import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/catalog.ts";
import { foldName, tableNameOf } from "../../catalog/names.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Name, Query, Statement } from "../../sql/nodes/tree.ts";
import type { Change } from "../changes/change.ts";
import { policyClass } from "./table-class.ts";

/** Why a change of every row does no harm. */
export interface Softener {
  /** `fresh`: made in this script; `temporary`; `scratch` or `log` by policy; `backfill`. */
  kind: "fresh" | "temporary" | "scratch" | "log" | "backfill";
  text: string;
}

/**
 * What a script has made so far: tables, temporary tables, columns, copies. It is told of every
 * statement in order and asked about each change before that.
 */
export class Course {
  readonly #dialect: Dialect;
  readonly #policy: Policy;
  /** Tables made in this script, by key; the value says whether they are temporary. */
  readonly #made = new Map<string, boolean>();
  /** Columns added in this script, by the table's key. */
  readonly #added = new Map<string, Set<string>>();
  /** Full copies made in this script: the key of the table that was copied, and the copy's name. */
  readonly #copies = new Map<string, string>();

  constructor(dialect: Dialect, policy: Policy) {
    this.#dialect = dialect;
    this.#policy = policy;
  }

  #key(name: Name): string {
    const { schema, table } = tableNameOf(name, this.#dialect);
    return tableKey(schema, table);
  }

  /** Takes a statement into account for those that follow. */
  note(statement: Statement, catalog: Catalog | null): void {
    switch (statement.kind) {
      case "create-table": {
        // IF NOT EXISTS leaves a table alone that the catalog already holds.
        const exists = statement.ifNotExists && catalog?.resolve(statement.name) !== undefined;
        if (!exists) this.#made.set(this.#key(statement.name), statement.temporary);
        if (statement.query && statement.withData) this.#noteCopy(statement.query, statement.name);
        break;
      }
      case "select": {
        const { body } = statement.query;
        if (body.kind !== "select" || body.into?.what !== "table") break;
        const target = body.into.targets[0];
        if (target?.kind !== "column") break;
        const name: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
        this.#made.set(this.#key(name), body.into.temporary);
        this.#noteCopy(statement.query, name);
        break;
      }
      case "insert":
        if (statement.target.kind === "table" && statement.source)
          this.#noteCopy(statement.source, statement.target.name);
        break;
      case "alter-table": {
        const key = this.#key(statement.name);
        for (const action of statement.actions) {
          if (action.what === "add-column") {
            const columns = this.#added.get(key) ?? new Set();
            columns.add(foldName(action.column.name, this.#dialect));
            this.#added.set(key, columns);
          } else if (action.what === "rename") {
            // A renamed table is as lasting as it was under its old name.
            const made = this.#made.get(key);
            this.#made.delete(key);
            if (made !== undefined) this.#made.set(this.#key(action.to), made);
          }
        }
        break;
      }
      case "drop":
        if (statement.object === "table") for (const name of statement.names) this.#forget(this.#key(name));
        break;
      default:
    }
  }

  #forget(key: string): void {
    this.#made.delete(key);
    this.#added.delete(key);
  }

  /** `SELECT * FROM t` with nothing that leaves rows or columns out is a copy of `t`. */
  #noteCopy(query: Query, copy: Name): void {
    const { body } = query;
    if (body.kind === "table-query") this.#copies.set(this.#key(body.name), copy.parts[copy.parts.length - 1].text);
    if (body.kind !== "select" || query.limit || body.top || body.where || body.groupBy.length > 0 || body.distinct)
      return;
    const source = body.from[0];
    if (
      body.from.length !== 1 ||
      source.kind !== "table" ||
      body.items.length !== 1 ||
      body.items[0].expr.kind !== "star"
    )
      return;
    this.#copies.set(this.#key(source.name), copy.parts[copy.parts.length - 1].text);
  }

  /** The copy of a change's whole target that stands before it. */
  copyOf(change: Change): string | null {
    if (this.#copies.size === 0) return null;
    return this.#copies.get(this.#key(change.name)) ?? null;
  }

  softener(change: Change, shown: string): Softener | null {
    const last = change.name.parts[change.name.parts.length - 1].text;
    const key = this.#made.size > 0 || this.#added.size > 0 ? this.#key(change.name) : "";
    const made = this.#made.get(key);
    if (made === true || change.table?.temporary || last.startsWith("#") || last.startsWith("@")) {
      return { kind: "temporary", text: `\`${shown}\` is temporary` };
    }
    // A dump sets the counters of the tables that it has just made.
    if (last.toLowerCase() === "sqlite_sequence" && this.#made.size > 0)
      return { kind: "fresh", text: "it counts for tables that were created in this script" };
    if (made === false) return { kind: "fresh", text: `\`${shown}\` was created in this script` };
    const named = this.#policy.tables && (policyClass(shown, this.#policy) ?? policyClass(last, this.#policy));
    if (named === "scratch" || named === "log")
      return { kind: named, text: `the policy calls \`${shown}\` ${named} data` };
    const added = this.#added.get(key);
    if (added && change.statement.kind === "update") {
      const columns = change.statement.assignments.flatMap((assignment) => assignment.targets);
      const backfill = columns.every(
        (column) => column.kind === "column" && added.has(foldName(column.path[column.path.length - 1], this.#dialect)),
      );
      if (backfill) return { kind: "backfill", text: "it fills columns that this script has just added" };
    }
    return null;
  }
}
