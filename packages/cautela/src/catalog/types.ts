import type { DialectId } from "../sql/dialects/dialect.ts";
import type { TypeName } from "../sql/nodes/tree.ts";
import type { Column } from "./model.ts";

// The one name of each type, so that `int4`, `int` and `integer` compare as what they are.

const POSTGRESQL: Record<string, string> = {
  int: "integer",
  int4: "integer",
  int8: "bigint",
  int2: "smallint",
  bool: "boolean",
  varchar: "character varying",
  char: "character",
  bpchar: "character",
  decimal: "numeric",
  dec: "numeric",
  float8: "double precision",
  float: "double precision",
  double: "double precision",
  float4: "real",
  timestamptz: "timestamp with time zone",
  "timestamp without time zone": "timestamp",
  "time without time zone": "time",
  timetz: "time with time zone",
  "national character varying": "character varying",
  "national character": "character",
  varbit: "bit varying",
  serial: "integer",
  serial4: "integer",
  bigserial: "bigint",
  serial8: "bigint",
  smallserial: "smallint",
  serial2: "smallint",
};

const MYSQL: Record<string, string> = {
  integer: "int",
  int4: "int",
  int8: "bigint",
  int2: "smallint",
  int1: "tinyint",
  int3: "mediumint",
  middleint: "mediumint",
  numeric: "decimal",
  dec: "decimal",
  fixed: "decimal",
  number: "decimal",
  bool: "tinyint",
  boolean: "tinyint",
  character: "char",
  "character varying": "varchar",
  "char varying": "varchar",
  varchar2: "varchar",
  "national varchar": "varchar",
  "national char": "char",
  nchar: "char",
  nvarchar: "varchar",
  "double precision": "double",
  real: "double",
  float8: "double",
  float4: "float",
  long: "mediumtext",
  "long varchar": "mediumtext",
  serial: "bigint unsigned",
  json: "longtext",
};

const TSQL: Record<string, string> = {
  integer: "int",
  dec: "decimal",
  numeric: "decimal",
  character: "char",
  "character varying": "varchar",
  "national character varying": "nvarchar",
  "national char varying": "nvarchar",
  "national character": "nchar",
  "double precision": "float",
  rowversion: "timestamp",
};

const PLSQL: Record<string, string> = {
  integer: "number",
  int: "number",
  smallint: "number",
  decimal: "number",
  dec: "number",
  numeric: "number",
  varchar: "varchar2",
  "character varying": "varchar2",
  character: "char",
  "double precision": "float",
  real: "float",
};

const JET: Record<string, string> = {
  integer: "long",
  int: "long",
  autoincrement: "counter",
  varchar: "text",
  char: "text",
  string: "text",
  longtext: "memo",
  bit: "yesno",
  boolean: "yesno",
  date: "datetime",
  time: "datetime",
  timestamp: "datetime",
  money: "currency",
  float: "double",
  number: "double",
  real: "single",
};

const NAMES: Partial<Record<DialectId, Record<string, string>>> = {
  postgresql: POSTGRESQL,
  mysql: { ...MYSQL, json: "json" },
  mariadb: MYSQL,
  tsql: TSQL,
  plsql: PLSQL,
  jet: JET,
};

/** Types of mysql whose argument is a display width and says nothing about the values. */
const WIDTHS = new Set(["int", "bigint", "smallint", "tinyint", "mediumint", "year"]);

/** The type of a column as the catalog keeps it. */
export function columnType(type: TypeName | null, dialect: DialectId): Pick<Column, "type" | "typeArgs" | "array"> {
  if (type === null) return { type: "", typeArgs: [], array: false };
  let name = type.name.replace(/^pg_catalog\./, "");
  let args: readonly string[] = type.args;
  if (/\bwith time zone\b/i.test(type.modifiers) && !name.includes("with time zone")) name += " with time zone";
  const known = NAMES[dialect]?.[name] ?? name;
  if ((dialect === "mysql" || dialect === "mariadb") && (WIDTHS.has(known) || /^(?:bool|boolean)$/.test(name)))
    args = [];
  if (dialect === "mariadb" && name === "json") args = [];
  const unsigned = /\bunsigned\b/i.test(type.modifiers) && !known.includes("unsigned") ? `${known} unsigned` : known;
  // numeric(10) is numeric(10,0); a character without a length is one character.
  if ((known === "numeric" || known === "decimal") && args.length === 1) args = [args[0], "0"];
  if (known === "decimal" && args.length === 0 && dialect !== "postgresql")
    args = dialect === "tsql" ? ["18", "0"] : ["10", "0"];
  if ((known === "character" || known === "char") && args.length === 0) args = ["1"];
  if (/^(?:text|tinytext|mediumtext|longtext|blob|tinyblob|mediumblob|longblob)$/.test(known) && dialect !== "jet")
    args = [];
  return { type: unsigned, typeArgs: args, array: type.array };
}

/** Whether a serial type of postgresql stands here: a column with a default and NOT NULL. */
export function isSerial(type: TypeName | null, dialect: DialectId): boolean {
  return dialect === "postgresql" && type !== null && /^(?:big|small)?serial[248]?$/.test(type.name);
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

const kinds = new Map<DialectId, Map<string, ValueKind>>();

/** The kind of values that a column holds; `other` where the type says nothing that matters here. */
export function valueKind({ type, array }: Pick<Column, "type" | "array">, dialect: DialectId): ValueKind {
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

function kindOf(type: string, dialect: DialectId): ValueKind {
  // A DATE of Oracle holds a time as well.
  if (dialect === "plsql" && type === "date") return "timestamp";
  if (dialect === "sqlite") return sqliteKind(type);
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
export function textLimit(column: Pick<Column, "type" | "typeArgs">, dialect: DialectId): number | null {
  // sqlite takes any length whatever is declared.
  if (dialect === "sqlite" || !/char|^text$|^varchar2$/.test(column.type)) return null;
  const length = Number.parseInt(column.typeArgs[0] ?? "", 10);
  if (Number.isNaN(length)) return dialect === "jet" && column.type === "text" ? 255 : null;
  return length;
}

/** The digits before and behind the point that a decimal column takes; null where there is no bound. */
export function decimalLimit(
  column: Pick<Column, "type" | "typeArgs">,
  dialect: DialectId,
): { whole: number; scale: number } | null {
  if (dialect === "sqlite" || !/^(?:numeric|decimal|number)/.test(column.type)) return null;
  const precision = Number.parseInt(column.typeArgs[0] ?? "", 10);
  if (Number.isNaN(precision)) return null;
  const scale = Number.parseInt(column.typeArgs[1] ?? "0", 10);
  return { whole: precision - scale, scale };
}

/** The smallest and the largest whole number of an integer type; null where there is no bound. */
export function integerLimit(column: Pick<Column, "type">, dialect: DialectId): { low: number; high: number } | null {
  if (dialect === "sqlite" || dialect === "plsql") return null;
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
  if (unsigned || ((dialect === "tsql" || dialect === "jet") && size === 8)) return { low: 0, high: 2 ** size - 1 };
  return { low: -(2 ** (size - 1)), high: 2 ** (size - 1) - 1 };
}
