import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Name } from "../sql/tree.ts";
import type { Table } from "./model.ts";
import { tableNameOf } from "./names.ts";

/** The key of a table in the catalog. */
export function tableKey(schema: string, table: string): string {
  return `${schema}\u0000${table}`;
}

/**
 * What a database holds. A catalog is never changed in place by a review: {@link fork} gives a
 * layer over it that takes the changes of a script and costs nothing until then.
 */
export class Catalog {
  readonly dialect: DialectId;
  readonly #parent: Catalog | null;
  readonly #own = new Map<string, Table | null>();
  /** No part of it is missing on purpose: a table that it lacks does not exist. */
  readonly complete: boolean;

  constructor(dialect: DialectId, options: { parent?: Catalog; complete?: boolean } = {}) {
    this.dialect = dialect;
    this.#parent = options.parent ?? null;
    this.complete = options.complete ?? options.parent?.complete ?? true;
  }

  /** A catalog that begins as this one and can be changed without touching it. */
  fork(): Catalog {
    return new Catalog(this.dialect, { parent: this });
  }

  /** The table of that schema and name, both folded. */
  get(schema: string, table: string): Table | undefined {
    return this.byKey(tableKey(schema, table));
  }

  byKey(key: string): Table | undefined {
    const own = this.#own.get(key);
    if (own !== undefined) return own ?? undefined;
    return this.#parent?.byKey(key);
  }

  /**
   * The table that a name in a statement means. A name without a schema is looked for in the
   * dialect's default schema first, then in any schema that holds just one table of that name.
   */
  resolve(name: Name): Table | undefined {
    const { schema, table } = tableNameOf(name, dialects[this.dialect]);
    const found = this.get(schema, table);
    if (found || name.parts.length > 1) return found;
    let only: Table | undefined;
    for (const candidate of this.tables()) {
      if (candidate.name !== table) continue;
      if (only) return undefined;
      only = candidate;
    }
    return only;
  }

  put(table: Table): void {
    this.#own.set(tableKey(table.schema, table.name), table);
  }

  drop(schema: string, table: string): void {
    const key = tableKey(schema, table);
    if (this.#parent?.byKey(key)) this.#own.set(key, null);
    else this.#own.delete(key);
  }

  /** Every table, those of the lower layers first. */
  *tables(): IterableIterator<Table> {
    if (this.#parent)
      for (const table of this.#parent.tables()) if (!this.#own.has(tableKey(table.schema, table.name))) yield table;
    for (const table of this.#own.values()) if (table) yield table;
  }

  get size(): number {
    let count = 0;
    for (const _ of this.tables()) count++;
    return count;
  }
}
