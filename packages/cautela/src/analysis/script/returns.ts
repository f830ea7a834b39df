import type { Catalog } from "../../catalog/catalog.ts";
import { newKey, relationKey, renamedKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Query } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { isConstantRow } from "../changes/constant-rows.ts";
import type { Step } from "./step.ts";

/** Rows that come back into a table which the script has emptied. */
export interface Refill {
  /** `literals`: the script itself holds them; `query`: they are derived from tables that are there. */
  from: "literals" | "query";
  /** How many rows of literals; null where that is not known. */
  rows: number | null;
}

interface Fills {
  literals: number;
  rows: number | null;
  query: number;
}

/** What comes back later in a script of what it has emptied or dropped. */
export class Returns {
  readonly #made = new Map<string, number>();
  readonly #filled = new Map<string, Fills>();
  readonly #dialect: Dialect;

  constructor(dialect: Dialect) {
    this.#dialect = dialect;
  }

  /** Whether a table is made again after a statement. */
  isMadeAfter(key: string, statement: number): boolean {
    return (this.#made.get(key) ?? -1) > statement;
  }

  /** The rows that come into a table after a statement; null: none. */
  refillAfter(key: string, statement: number): Refill | null {
    const fills = this.#filled.get(key);
    if (!fills) return null;
    if (fills.query > statement) return { from: "query", rows: null };
    return fills.literals > statement ? { from: "literals", rows: fills.rows } : null;
  }

  note({ tree, at, catalog, changes }: Step): void {
    const dialect = this.#dialect;
    const make = (key: string): void => {
      this.#made.set(key, at.statement);
    };
    for (const { change, result } of changes)
      if (change.action !== "update" && result.reach.bound === "every")
        this.#filled.delete(relationKey(change.name, catalog, dialect));
    switch (tree.kind) {
      case "create-table":
        make(newKey(tree.name, catalog, dialect, tree.temporary));
        if (tree.query)
          this.#fill(newKey(tree.name, catalog, dialect, tree.temporary), at.statement, tree.query, catalog);
        break;
      case "alter-table":
        for (const action of tree.actions)
          if (action.what === "rename")
            make(renamedKey(relationKey(tree.name, catalog, dialect), action.to, catalog, dialect));
        break;
      case "rename":
        for (const { from, to } of tree.renames)
          make(renamedKey(relationKey(from, catalog, dialect), to, catalog, dialect));
        break;
      case "insert": {
        if (tree.target.kind !== "table") break;
        const key = relationKey(tree.target.name, catalog, dialect);
        if (tree.source) this.#fill(key, at.statement, tree.source, catalog);
        else if (tree.set || tree.defaults) this.#fillRows(key, at.statement, 1);
        break;
      }
      case "copy":
        if (tree.table && tree.direction === "in")
          this.#fillRows(relationKey(tree.table, catalog, dialect), at.statement, null);
        break;
      default:
    }
  }

  #fill(key: string, statement: number, query: Query, catalog: Catalog | null): void {
    const { body } = query;
    if (body.kind === "values") {
      // A value that is read from the table itself is no literal.
      if (body.rows.every((row) => isConstantRow(row, this.#dialect))) this.#fillRows(key, statement, body.rowCount);
      return;
    }
    if (body.kind === "select" && body.from.length === 0) {
      this.#fillRows(key, statement, 1);
      return;
    }
    let itself = false;
    walk(query, (node) => {
      if (node.kind === "table" && relationKey(node.name, catalog, this.#dialect) === key) itself = true;
      return undefined;
    });
    if (!itself) this.#fills(key).query = statement;
  }

  #fillRows(key: string, statement: number, rows: number | null): void {
    const fills = this.#fills(key);
    fills.literals = statement;
    fills.rows = rows === null || fills.rows === null ? null : fills.rows + rows;
  }

  #fills(key: string): Fills {
    let fills = this.#filled.get(key);
    if (!fills) {
      fills = { literals: -1, rows: 0, query: -1 };
      this.#filled.set(key, fills);
    }
    return fills;
  }
}
