import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { ForeignKey, Table } from "../../catalog/model.ts";
import type { ConstantValue } from "../conditions/conditions.ts";

/** The column that another one refers to. */
export interface Referenced {
  foreignKey: ForeignKey;
  table: Table;
  column: string;
}

/** What a column refers to by a foreign key of its own; null where there is none, or it takes several columns. */
export function referenced(table: Table, column: string, catalog: Catalog): Referenced | null {
  for (const foreignKey of table.foreignKeys) {
    if (!foreignKey.enabled || foreignKey.columns.length !== 1) continue;
    if (foreignKey.columns[0].toLowerCase() !== column.toLowerCase()) continue;
    const target = catalog.byKey(foreignKey.table);
    const named = foreignKey.referenced.length > 0 ? foreignKey.referenced : (target?.primaryKey?.columns ?? []);
    if (target && named.length === 1) return { foreignKey, table: target, column: named[0] };
  }
  return null;
}

/**
 * The column in which the values of a column come into being, as `table.column`: the end of its chain of
 * foreign keys, or the column itself when it is the key of a table that others refer to. Null where
 * nothing is declared.
 *
 * @example
 * domainOf(mooring, "vessel_id", catalog)   // "vessel.vessel_id"
 */
export function domainOf(table: Table, column: string, catalog: Catalog): string | null {
  let at = { table, column };
  for (let steps = 0; steps < 8; steps++) {
    const next = referenced(at.table, at.column, catalog);
    const key = tableKey(at.table.schema, at.table.name);
    if (!next) {
      if (steps === 0) {
        const alone = table.primaryKey?.columns;
        if (alone?.length !== 1 || alone[0].toLowerCase() !== column.toLowerCase()) return null;
        // A partition has the rows of its table; what nobody refers to may be a copy of what is meant.
        if (table.partitionOf !== null || table.inherits.length > 0) return null;
        if (catalog.referencing(key).length === 0) return null;
      }
      return `${key}.${at.column.toLowerCase()}`;
    }
    // A tree refers to itself.
    if (next.table === at.table) return `${key}.${next.column.toLowerCase()}`;
    at = { table: next.table, column: next.column };
  }
  return null;
}

/** A key by which the rows of a table are told apart, as `RowKeys` names it. */
export function keyOfColumn(table: Table, column: string): string {
  return `${tableKey(table.schema, table.name)}.${column.toLowerCase()}`;
}

const single = new WeakMap<Table, readonly string[]>();

/** The columns of a table that are a key alone. */
export function singleKeys(table: Table): readonly string[] {
  const known = single.get(table);
  if (known) return known;
  const keys: string[] = [];
  for (const key of [table.primaryKey, ...table.uniqueKeys])
    if (key && !key.partial && key.columns.length === 1) keys.push(key.columns[0].toLowerCase());
  single.set(table, keys);
  return keys;
}

/** Where a script has first spoken of a row by its key. */
export interface KeyUse<At> {
  at: At;
  /** The column and the table that refer to it, as messages show them. */
  from: string;
}

const KEPT = 20_000;

/** The keys of rows that a script has brought, removed and referred to so far, bounded however long it is. */
export class RowKeys<At> {
  readonly #brought = new Map<string, Set<string>>();
  readonly #removed = new Map<string, Map<string, number>>();
  readonly #wanted = new Map<string, Map<string, KeyUse<At>>>();
  #count = 0;

  /** A row with this key comes in. */
  bring(table: string, key: string): void {
    this.#removed.get(table)?.delete(key);
    this.#wanted.get(table)?.delete(key);
    if (this.#room()) setIn(this.#brought, table, () => new Set()).add(key);
  }

  /** Where the script has referred to this key before it brought the row; null where it has not. */
  wanted(table: string, key: string): KeyUse<At> | null {
    return this.#wanted.get(table)?.get(key) ?? null;
  }

  /** The row with this key goes. */
  remove(table: string, key: string, line: number): void {
    this.#brought.get(table)?.delete(key);
    this.#wanted.get(table)?.delete(key);
    if (this.#room()) setIn(this.#removed, table, () => new Map()).set(key, line);
  }

  /** A row refers to this key. */
  refer(table: string, key: string, use: KeyUse<At>): void {
    if (this.#brought.get(table)?.has(key)) return;
    const uses = setIn(this.#wanted, table, () => new Map<string, KeyUse<At>>());
    if (!uses.has(key) && this.#room()) uses.set(key, use);
  }

  /** The line on which the row with this key was removed; null when it was not, or came back. */
  removedOn(table: string, key: string): number | null {
    return this.#removed.get(table)?.get(key) ?? null;
  }

  /** Rows of the table came, went or changed in a way that is not followed. */
  lose(table: string): void {
    this.#brought.delete(table);
    this.#removed.delete(table);
    this.#wanted.delete(table);
  }

  /** What the script did may have been taken back. */
  clear(): void {
    this.#brought.clear();
    this.#removed.clear();
    this.#wanted.clear();
    this.#count = 0;
  }

  #room(): boolean {
    return ++this.#count < KEPT;
  }
}

function setIn<V>(map: Map<string, V>, key: string, make: () => V): V {
  const known = map.get(key);
  if (known !== undefined) return known;
  const made = make();
  map.set(key, made);
  return made;
}

/** A key as it is compared: 901 and '901' are the same row. */
export function keyText(value: ConstantValue): string | null {
  return value.type === "null" ? null : String(value.value);
}
