import type { Column, Table } from "./model.ts";

/** Fewer columns than this are looked through faster than they are indexed. */
const FEW = 6;

interface Index {
  exact: Map<string, Column>;
  lower: Map<string, Column> | null;
}

const indexes = new WeakMap<Table, Index>();

function indexOf(table: Table): Index {
  const known = indexes.get(table);
  if (known) return known;
  const exact = new Map<string, Column>();
  for (const column of table.columns) if (!exact.has(column.name)) exact.set(column.name, column);
  const made: Index = { exact, lower: null };
  indexes.set(table, made);
  return made;
}

/** The column of that name, as it compares (see `foldName`). */
export function columnNamed(table: Table | null | undefined, name: string): Column | undefined {
  if (!table) return undefined;
  if (table.columns.length < FEW) return table.columns.find((column) => column.name === name);
  return indexOf(table).exact.get(name);
}

/** The column of that name without regard to case; the name is given in lower case. */
export function columnLike(table: Table | null | undefined, name: string): Column | undefined {
  if (!table) return undefined;
  if (table.columns.length < FEW) return table.columns.find((column) => column.name.toLowerCase() === name);
  const index = indexOf(table);
  if (!index.lower) {
    index.lower = new Map();
    for (const column of table.columns) {
      const lower = column.name.toLowerCase();
      if (!index.lower.has(lower)) index.lower.set(lower, column);
    }
  }
  return index.lower.get(name);
}
