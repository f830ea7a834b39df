// What a database holds, as data: plain objects that go into a snapshot and come back the same.
// Queries, conditions and bodies are kept as their text; `trees.ts` gives their trees.

/** A column of a table. */
export interface Column {
  /** The name as it compares, see `foldName`. */
  name: string;
  /** The name as its definition spells it, where that differs: `OrderId` (engines without regard to case). */
  spelling: string | null;
  /** The type under its one name in the dialect (`int4` is `integer`), lower-cased; empty where none is declared. */
  type: string;
  /** Length, precision and scale, as declared; the values of an enumeration. */
  typeArgs: readonly string[];
  array: boolean;
  /** NOT NULL, by its own declaration or as part of the primary key. */
  required: boolean;
  /** The text of its default; null without one. */
  default: string | null;
  /** Computed by the engine from other columns; null for an ordinary column. */
  generated: "stored" | "virtual" | null;
  /** The text of the expression that computes it. */
  expression: string | null;
  /** Numbered by the engine. */
  identity: "always" | "by default" | null;
  /** What the engine writes into it at every UPDATE: `CURRENT_TIMESTAMP` (mysql). */
  onUpdate: string | null;
  /** The collation as named; null for the database's own. */
  collation: string | null;
  comment: string | null;
  /** Estimates of the engine's statistics; null where nobody knows. */
  distinct: number | null;
  /** The share of NULLs, from 0 to 1. */
  nulls: number | null;
}

/** A primary or unique key, or a unique index. */
export interface Key {
  name: string | null;
  columns: readonly string[];
  /** Holds for only a part of the rows, or over expressions: it does not make its columns unique. */
  partial: boolean;
  /** The text of a partial index's condition. */
  where: string | null;
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
  match: "simple" | "full" | "partial";
  deferrable: boolean;
  initiallyDeferred: boolean;
  enabled: boolean;
  /** Rows that were there when it was made or switched on again have been checked. */
  trusted: boolean;
}

/** A CHECK constraint. */
export interface Check {
  name: string | null;
  /** The text of its condition. */
  condition: string;
  enabled: boolean;
}

/** A table of the catalog. */
export interface Table {
  object: "table";
  schema: string;
  name: string;
  /** The name as its definition spells it, the schema included where it names one; null: `name` alone. */
  written: readonly string[] | null;
  /** `linked`: a foreign table, a linked table (jet), a table behind a link. */
  kind: "table" | "virtual" | "partitioned" | "linked";
  temporary: boolean;
  columns: readonly Column[];
  primaryKey: Key | null;
  uniqueKeys: readonly Key[];
  foreignKeys: readonly ForeignKey[];
  checks: readonly Check[];
  /** The tables it inherits from, as the catalog's keys. */
  inherits: readonly string[];
  /** The table it is a partition of, as the catalog's key. */
  partitionOf: string | null;
  comment: string | null;
  /** About how many rows it holds; null where nobody knows. */
  rows: number | null;
  /** Not every column is known: it was made by a query that could not be followed. */
  partial: boolean;
  /** Sets of columns that are unique because of the query that has filled it; nothing declares them. */
  built: readonly (readonly string[])[];
}

/** A view. */
export interface View {
  object: "view";
  schema: string;
  name: string;
  /** The names of its columns, in order; null where they could not be told. */
  columns: readonly string[] | null;
  /** The text of its query; null where it was not given. */
  query: string | null;
  checkOption: "local" | "cascaded" | null;
  materialized: boolean;
  /** Whose rights count when it is read; null: the dialect's own rule. */
  security: "definer" | "invoker" | null;
  /** ALGORITHM = TEMPTABLE keeps the view's rows apart from its tables (mysql, mariadb). */
  algorithm: "merge" | "temptable" | null;
  /** WITH READ ONLY (plsql). */
  readOnly: boolean;
  comment: string | null;
}

export type TriggerEvent = "insert" | "update" | "delete" | "truncate";

/** A trigger. */
export interface Trigger {
  object: "trigger";
  schema: string;
  name: string;
  /** The table or view it belongs to, as the catalog's key. */
  table: string;
  timing: "before" | "after" | "instead";
  events: readonly TriggerEvent[];
  /** The columns of UPDATE OF; null: every column. */
  columns: readonly string[] | null;
  level: "row" | "statement";
  /** The text of its WHEN condition. */
  condition: string | null;
  /** `origin` fires in ordinary sessions, `replica` only in those that replay, `always` in both, `off` never. */
  enabled: "origin" | "off" | "replica" | "always";
  /** Its place among triggers that fire at the same time, where that is not by name. */
  order: number | null;
  /** The routine it calls, as the catalog's key (postgresql). */
  calls: string | null;
  /** The text of its body; null where it calls a routine. */
  body: string | null;
}

/** A rule (postgresql). */
export interface Rule {
  object: "rule";
  schema: string;
  name: string;
  table: string;
  event: "select" | "insert" | "update" | "delete";
  instead: boolean;
  condition: string | null;
  /** The text of what is done; null: nothing. */
  body: string | null;
  enabled: boolean;
}

/** A function or procedure. */
export interface Routine {
  object: "routine";
  schema: string;
  name: string;
  kind: "function" | "procedure" | "package";
  language: string;
  /** Its arguments, each as it is written: name, mode, type, default; null where they are not known. */
  arguments: readonly string[] | null;
  volatility: "immutable" | "stable" | "volatile" | null;
  /** The text of the whole definition; null where it could not be had. */
  definition: string | null;
}

export interface Sequence {
  object: "sequence";
  schema: string;
  name: string;
}

/** Another name for an object. */
export interface Synonym {
  object: "synonym";
  schema: string;
  name: string;
  /** What it stands for, as the catalog's key. */
  target: string;
}

/** An enumeration, a domain or a composite type. */
export interface TypeObject {
  object: "type";
  schema: string;
  name: string;
  enumeration: readonly string[] | null;
  /** The columns of a composite type; null for any other. */
  columns: readonly Column[] | null;
  base: string | null;
  required: boolean;
  /** Texts of conditions on VALUE. */
  checks: readonly string[];
}

export type CatalogObject = Table | View | Trigger | Rule | Routine | Sequence | Synonym | TypeObject;
export type ObjectKind = CatalogObject["object"];

/**
 * The name under which messages show an object: `public.mooring`, or `mooring` without a schema; as its definition spells it,
 * where the engine takes any spelling.
 */
export function shownName(
  object: Pick<Table, "schema" | "name"> & {
    written?: Table["written"];
    definition?: Routine["definition"];
    body?: Trigger["body"];
  },
): string {
  const { schema, written } = object;
  const spelled = written?.[written.length - 1] ?? spelledIn(object.definition ?? object.body ?? "", object.name);
  const name = spelled?.toLowerCase() === object.name.toLowerCase() ? spelled : object.name;
  return schema === "" || schema === "main" || schema.startsWith("(temporary)") ? name : `${schema}.${name}`;
}

/** A column with nothing said about it beyond its name. */
export function plainColumn(name: string, type = ""): Column {
  return {
    name,
    spelling: null,
    type,
    typeArgs: [],
    array: false,
    required: false,
    default: null,
    generated: null,
    expression: null,
    identity: null,
    onUpdate: null,
    collation: null,
    comment: null,
    distinct: null,
    nulls: null,
  };
}

/** A view of which nothing is said beyond its name. */
export function emptyView(schema: string, name: string): View {
  return {
    object: "view",
    schema,
    name,
    columns: null,
    query: null,
    checkOption: null,
    materialized: false,
    security: null,
    algorithm: null,
    readOnly: false,
    comment: null,
  };
}

/** A table of which nothing is known but its name, as a statement writes it. */
export function unknownTable(written: string): Table {
  const at = written.lastIndexOf(".");
  return { ...emptyTable(written.slice(0, Math.max(at, 0)), written.slice(at + 1)), partial: true };
}

/** A table without columns, to start from. */
export function emptyTable(schema: string, name: string): Table {
  return {
    object: "table",
    schema,
    name,
    written: null,
    kind: "table",
    temporary: false,
    columns: [],
    primaryKey: null,
    uniqueKeys: [],
    foreignKeys: [],
    checks: [],
    inherits: [],
    partitionOf: null,
    comment: null,
    rows: null,
    partial: false,
    built: [],
  };
}

export function uniqueKey(
  name: string | null,
  columns: readonly string[],
  partial = false,
  where: string | null = null,
): Key {
  return { name, columns, partial, where };
}

/** The name of a trigger as its definition spells it. */
export function shownTrigger({ name, body }: Pick<Trigger, "name" | "body">): string {
  return spelledIn(body ?? "", name) ?? name;
}

/** A name as the head of a definition spells it, where the engine keeps it in small letters; undefined: it is not there. */
function spelledIn(definition: string, name: string): string | undefined {
  const head = definition.slice(0, HEAD);
  const own = name.toLowerCase();
  const at = own === name ? head.toLowerCase().indexOf(own) : -1;
  const whole = at > 0 && !/\w/.test(head[at - 1] ?? "") && !/\w/.test(head[at + own.length] ?? "");
  return whole ? head.slice(at, at + own.length) : undefined;
}

/** The name stands within this many characters. */
const HEAD = 400;
