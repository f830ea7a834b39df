/** A column of a table. */
export interface Column {
  /** The name as it compares, see `foldName`. */
  name: string;
  /** The type as the dialect names it, lower-cased; empty where none is declared. */
  type: string;
  /** Length, precision and scale, or the values of an enumeration, as declared. */
  typeArgs: readonly string[];
  /** NOT NULL, by its own declaration or as part of the primary key. */
  required: boolean;
  /** The text of its default; null without one. */
  default: string | null;
  /** Computed by the engine from other columns; null for an ordinary column. */
  generated: "stored" | "virtual" | null;
  /** Numbered by the engine. */
  identity: "always" | "by default" | null;
}

/** A primary or unique key. */
export interface Key {
  name: string | null;
  columns: readonly string[];
  /** Holds for only a part of the rows, or over expressions: it does not make its columns unique. */
  partial: boolean;
}

export type ReferenceAction = "no action" | "restrict" | "cascade" | "set null" | "set default";

/** A foreign key. */
export interface ForeignKey {
  name: string | null;
  columns: readonly string[];
  /** The table it refers to, as the catalog's key. */
  table: string;
  /** Empty: the primary key of that table. */
  referenced: readonly string[];
  onDelete: ReferenceAction;
  onUpdate: ReferenceAction;
}

/** A table of the catalog. */
export interface Table {
  schema: string;
  name: string;
  kind: "table" | "virtual";
  temporary: boolean;
  columns: readonly Column[];
  primaryKey: Key | null;
  uniqueKeys: readonly Key[];
  foreignKeys: readonly ForeignKey[];
  /** About how many rows it holds; null where nobody knows. */
  rows: number | null;
  /** Not every column is known: it was made by a query that could not be followed. */
  partial: boolean;
}

/** The name under which messages show a table: `public.mooring`, or `mooring` without a schema. */
export function shownName(table: Pick<Table, "schema" | "name">): string {
  return table.schema === "" || table.schema === "main" ? table.name : `${table.schema}.${table.name}`;
}
