import type { Dialect } from "../sql/dialects/dialect.ts";
import type { TypeName } from "../sql/nodes/tree.ts";
import type { Column } from "./model.ts";

// The one name of each type, so that `int4`, `int` and `integer` compare as what they are.

/** Types of mysql whose argument is a display width and says nothing about the values. */
const WIDTHS = new Set(["int", "bigint", "smallint", "tinyint", "mediumint", "year"]);

/** The type of a column as the catalog keeps it. */
export function columnType(type: TypeName | null, dialect: Dialect): Pick<Column, "type" | "typeArgs" | "array"> {
  if (type === null) return { type: "", typeArgs: [], array: false };
  let name = type.name.replace(/^pg_catalog\./, "");
  let args: readonly string[] = type.args;
  if (/\bwith time zone\b/i.test(type.modifiers) && !name.includes("with time zone")) name += " with time zone";
  const known = dialect.engine.typeNames[name] ?? name;
  if (dialect.engine.dropsWidths && (WIDTHS.has(known) || /^(?:bool|boolean)$/.test(name))) args = [];
  if (dialect.engine.jsonIsText && name === "json") args = [];
  const unsigned = /\bunsigned\b/i.test(type.modifiers) && !known.includes("unsigned") ? `${known} unsigned` : known;
  // numeric(10) is numeric(10,0); a character without a length is one character.
  if ((known === "numeric" || known === "decimal") && args.length === 1) args = [args[0], "0"];
  if (known === "decimal" && args.length === 0 && dialect.engine.decimalDefault) args = dialect.engine.decimalDefault;
  if ((known === "character" || known === "char") && args.length === 0) args = ["1"];
  if (
    /^(?:text|tinytext|mediumtext|longtext|blob|tinyblob|mediumblob|longblob)$/.test(known) &&
    !dialect.engine.textLengths
  )
    args = [];
  return { type: unsigned, typeArgs: args, array: type.array };
}

/** Whether a serial type of postgresql stands here: a column with a default and NOT NULL. */
export function isSerial(type: TypeName | null, dialect: Dialect): boolean {
  return dialect.engine.serialTypes && type !== null && /^(?:big|small)?serial[248]?$/.test(type.name);
}

/** What kind of values a type holds, as far as comparing them goes. */
export type ValueKind =
  | "integer"
  | "decimal"
  | "float"
  | "text"
  | "date"
  | "time"
  | "timestamp"
  | "boolean"
  | "binary"
  | "other";

const KINDS: readonly [RegExp, ValueKind][] = [
  [
    /^(?:tiny|small|medium|big)?int(?:eger)?(?: unsigned)?$|^(?:long|byte|short|counter|pls_integer|binary_integer|year)$/,
    "integer",
  ],
  [/^(?:numeric|decimal|number|money|smallmoney|currency)(?: unsigned)?$/, "decimal"],
  [/^(?:real|double precision|double|float|single|binary_float|binary_double)(?: unsigned)?$/, "float"],
  [
    /char|text|clob|string|memo|^(?:name|citext|enum|set|xml|json|jsonb|uuid|uniqueidentifier|sysname|long|inet|cidr)$/,
    "text",
  ],
  [/^(?:timestamp|datetime|datetime2|smalldatetime|datetimeoffset)/, "timestamp"],
  [/^date$/, "date"],
  [/^time/, "time"],
  [/^(?:boolean|bool|bit|yesno)$/, "boolean"],
  [/binary|blob|bytea|raw|image/, "binary"],
];

const kinds = new Map<Dialect, Map<string, ValueKind>>();

/** The kind of values that a column holds; `other` where the type says nothing that matters here. */
export function valueKind({ type, array }: Pick<Column, "type" | "array">, dialect: Dialect): ValueKind {
  if (array) return "other";
  let known = kinds.get(dialect);
  if (!known) {
    known = new Map();
    kinds.set(dialect, known);
  }
  let kind = known.get(type);
  if (kind === undefined) {
    kind = kindOf(type, dialect);
    // A database has some dozens of types.
    if (known.size < 2000) known.set(type, kind);
  }
  return kind;
}

function kindOf(type: string, dialect: Dialect): ValueKind {
  // A DATE of Oracle holds a time as well.
  if (dialect.engine.dateHasTime && type === "date") return "timestamp";
  if (dialect.engine.affinities) return sqliteKind(type);
  for (const [pattern, kind] of KINDS) if (pattern.test(type)) return kind;
  return "other";
}

/** The affinity of a declared type (sqlite's manual, "Datatypes", 3.1), dates by their names. */
function sqliteKind(type: string): ValueKind {
  if (/int/.test(type)) return "integer";
  if (/char|clob|text/.test(type)) return "text";
  if (/blob/.test(type) || type === "") return "other";
  if (/real|floa|doub/.test(type)) return "float";
  if (/^(?:numeric|decimal)/.test(type)) return "decimal";
  if (/^bool/.test(type)) return "boolean";
  if (/^date$/.test(type)) return "date";
  if (/^(?:datetime|timestamp)/.test(type)) return "timestamp";
  return "other";
}

/** How many characters a text column takes; null where there is no bound. */
export function textLimit(column: Pick<Column, "type" | "typeArgs">, dialect: Dialect): number | null {
  // sqlite takes any length whatever is declared.
  if (dialect.engine.affinities || !/char|^text$|^varchar2$/.test(column.type)) return null;
  const length = Number.parseInt(column.typeArgs[0] ?? "", 10);
  if (Number.isNaN(length)) return column.type === "text" ? dialect.engine.defaultTextLength : null;
  return length;
}

/** The digits before and after the point that a decimal column takes; null where there is no bound. */
export function decimalLimit(
  column: Pick<Column, "type" | "typeArgs">,
  dialect: Dialect,
): { whole: number; scale: number } | null {
  if (dialect.engine.affinities || !/^(?:numeric|decimal|number)/.test(column.type)) return null;
  const precision = Number.parseInt(column.typeArgs[0] ?? "", 10);
  if (Number.isNaN(precision)) return null;
  const scale = Number.parseInt(column.typeArgs[1] ?? "0", 10);
  return { whole: precision - scale, scale };
}

/** The smallest and the largest whole number of an integer type; null where there is no bound. */
export function integerLimit(column: Pick<Column, "type">, dialect: Dialect): { low: number; high: number } | null {
  if (!dialect.engine.boundedIntegers) return null;
  const unsigned = column.type.endsWith(" unsigned");
  const name = column.type.replace(" unsigned", "");
  const bits: Record<string, number> = {
    tinyint: 8,
    byte: 8,
    smallint: 16,
    short: 16,
    mediumint: 24,
    int: 32,
    integer: 32,
    long: 32,
    counter: 32,
  };
  const size = bits[name];
  if (size === undefined) return null;
  if (unsigned || (dialect.engine.unsignedTinyint && size === 8)) return { low: 0, high: 2 ** size - 1 };
  return { low: -(2 ** (size - 1)), high: 2 ** (size - 1) - 1 };
}
