import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Column, Table } from "./model.ts";
import { parted } from "./names.ts";

/** Fewer columns than this are looked through faster than they are indexed. */
const FEW = 6;

/** Places of columns by name, shared by lists that begin alike: what it says of one list is looked up there. */
interface Index {
  exact: Map<string, number>;
  lower: Map<string, number> | null;
}

const indexes = new WeakMap<readonly Column[], Index>();

function indexOf(columns: readonly Column[]): Index {
  const known = indexes.get(columns);
  if (known) return known;
  const exact = new Map<string, number>();
  for (let i = 0; i < columns.length; i++) if (!exact.has(columns[i].name)) exact.set(columns[i].name, i);
  const made: Index = { exact, lower: null };
  indexes.set(columns, made);
  return made;
}

/** The columns of a table and one more, whose name is new among them. */
export function withOneMore(columns: readonly Column[], column: Column): readonly Column[] {
  const more = [...columns, column];
  const index = indexes.get(columns);
  if (!index) return more;
  if (!index.exact.has(column.name)) index.exact.set(column.name, columns.length);
  const lower = column.name.toLowerCase();
  if (index.lower && !index.lower.has(lower)) index.lower.set(lower, columns.length);
  indexes.set(more, index);
  return more;
}

/** The column of that name, as it compares (see `foldName`). */
export function columnNamed(table: Table | null | undefined, name: string): Column | undefined {
  if (!table) return undefined;
  const { columns } = table;
  if (columns.length < FEW) return columns.find((column) => column.name === name);
  const at = indexOf(columns).exact.get(name);
  if (at === undefined) return undefined;
  // Another list that begins like this one may have had it at another place.
  return columns[at]?.name === name ? columns[at] : columns.find((column) => column.name === name);
}

/** The column of that name without regard to case; the name is given in lower case. */
export function columnLike(table: Table | null | undefined, name: string): Column | undefined {
  if (!table) return undefined;
  const { columns } = table;
  if (columns.length < FEW) return columns.find((column) => column.name.toLowerCase() === name);
  const index = indexOf(columns);
  if (!index.lower) {
    index.lower = new Map();
    for (const [name, at] of index.exact) {
      const lower = name.toLowerCase();
      const first = index.lower.get(lower);
      if (first === undefined || first > at) index.lower.set(lower, at);
    }
  }
  const at = index.lower.get(name);
  if (at === undefined) return undefined;
  const like = (column: Column | undefined): boolean => column?.name.toLowerCase() === name;
  return like(columns[at]) ? columns[at] : columns.find(like);
}

/** The name of a column as its definition spells it. */
export function spelledColumn(table: Table | null | undefined, name: string): string {
  const column = columnLike(table, name.toLowerCase());
  return column?.spelling ?? column?.name ?? name;
}

/** A name in small letters with its words parted, as what is looked for in names expects it: `LastName` is `last_name`. */
export function partedName({ name, spelling }: Pick<Column, "name"> & { spelling?: string | null }): string {
  return parted(spelling ?? name);
}

/** Whether the key of a table is one column that the engine numbers. */
export function isNumbered(table: Table | null | undefined, column: Column, dialect: Dialect): boolean {
  const key = table?.primaryKey?.columns;
  if (key?.length !== 1 || key[0] !== column.name) return false;
  const rowid = dialect.engine.rowidKey && column.type === "integer";
  return rowid || column.identity !== null || /^nextval\s*\(/i.test(column.default ?? "");
}

/** Whether a column, as it is written, has the name of a key: `id`, `owner_id`, `OwnerID`. */
export function namesKey(column: string): boolean {
  return /(?:^|_)(?:id|ID|Id)$|[a-z0-9]I[dD]$/.test(column);
}

/** Whether a column, in small letters, has the name of the key of that very table: `id`, `owner_id` of `owner` or `owners`. */
export function namesKeyOf(column: string, table: string): boolean {
  if (column === "id") return true;
  if (!column.endsWith("id")) return false;
  const own = table.toLowerCase();
  const stem = column.slice(0, column.endsWith("_id") ? -3 : -2);
  return stem === own || `${stem}s` === own || `${stem}es` === own || `${stem.replace(/y$/, "ie")}s` === own;
}
