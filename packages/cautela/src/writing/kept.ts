import type { ForeignKey, Table, Trigger } from "../catalog/model.ts";

/** Rows of a table that a sheet keeps, and what the change may have done to them. */
export interface Kept {
  table: Table;
  /** The rows of this table alone, not those of the tables that inherit from it (postgresql). */
  only: boolean;
  /** The name of the copy, ready to be written. */
  copy: string;
  /** The columns by which its rows are told apart afterwards; null: by all their values. */
  key: readonly string[] | null;
  /** The columns of the copy that hold the key's new values, where the change gives it others. */
  newKey: ReadonlyMap<string, string> | null;
  /** Rows may be gone. */
  removed: boolean;
  /** The columns whose values may be others now; empty: none. */
  changed: readonly string[];
}

/** The keys of the rows that have come. */
export interface Added {
  table: Table;
  only: boolean;
  list: string;
  key: readonly string[];
}

/** A trigger that would disturb a restore. */
export interface OwnTrigger {
  table: Table;
  trigger: Trigger;
}

/** A foreign key that a restore cannot keep at every step, because tables refer to each other in a circle. */
export interface Circle {
  table: Table;
  key: ForeignKey;
}

/** Everything that is put back for one statement. */
export interface PutBack {
  kept: readonly Kept[];
  added: readonly Added[];
  triggers: readonly OwnTrigger[];
  circles: readonly Circle[];
}

/** The key by which rows of a table are told apart, of columns that are not given new values. */
export function keyOf(table: Table, changed: readonly string[] = []): readonly string[] | null {
  for (const key of [table.primaryKey, ...table.uniqueKeys]) {
    if (!key || key.partial || key.columns.length === 0) continue;
    if (key.columns.some((column) => changed.includes(column))) continue;
    // A unique key may hold NULLs, which match nothing.
    if (key !== table.primaryKey && key.columns.some((name) => !columnOf(table, name)?.required)) continue;
    return key.columns;
  }
  return null;
}

function columnOf(table: Table, name: string): Table["columns"][number] | undefined {
  return table.columns.find((column) => column.name === name);
}
