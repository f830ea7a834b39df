import type { Dialect, DialectId } from "./dialect.ts";

/** A function that some dialects have and others lack. */
export interface PartialFunction {
  /** The dialects that have it. */
  ids: readonly DialectId[];
  /** What is written in the dialects that lack it. */
  instead: { others: string } & Partial<Record<DialectId, string>>;
}

const MARIA: readonly DialectId[] = ["mysql", "mariadb"];
const NOT_JET: readonly DialectId[] = ["postgresql", "mysql", "mariadb", "sqlite", "tsql", "plsql"];

const table: Record<string, [readonly DialectId[], string | PartialFunction["instead"]]> = {
  add_months: [["plsql", "mariadb"], "date arithmetic"],
  age: [["postgresql"], "date arithmetic"],
  cdate: [["jet"], "CAST"],
  cdbl: [["jet"], "CAST"],
  ceil: [["postgresql", "mysql", "mariadb", "sqlite", "plsql"], { others: "CEILING", jet: "-Int(-x)" }],
  ceiling: [["postgresql", "mysql", "mariadb", "sqlite", "tsql"], { others: "CEIL", jet: "-Int(-x)" }],
  charindex: [["tsql"], { others: "POSITION", sqlite: "INSTR", plsql: "INSTR", jet: "InStr" }],
  cint: [["jet"], "CAST"],
  clng: [["jet"], "CAST"],
  coalesce: [NOT_JET, "Nz or IIf"],
  cstr: [["jet"], "CAST"],
  curdate: [MARIA, { others: "CURRENT_DATE", tsql: "CAST(GETDATE() AS date)", jet: "Date()" }],
  curtime: [MARIA, { others: "CURRENT_TIME", tsql: "CAST(GETDATE() AS time)", jet: "Time()" }],
  date_add: [[...MARIA, "postgresql"], "date arithmetic"],
  date_format: [MARIA, "the dialect's own formatting of dates"],
  date_part: [["postgresql"], { others: "EXTRACT", tsql: "DATEPART", jet: "DatePart", sqlite: "STRFTIME" }],
  date_sub: [MARIA, "date arithmetic"],
  date_trunc: [["postgresql"], "date arithmetic"],
  dateadd: [["tsql", "jet"], "date arithmetic"],
  datediff: [[...MARIA, "tsql", "jet"], "date arithmetic"],
  datename: [["tsql"], "the dialect's own formatting of dates"],
  datepart: [["tsql", "jet"], { others: "EXTRACT", sqlite: "STRFTIME" }],
  decode: [["plsql", "mariadb", "postgresql"], { others: "CASE", jet: "Switch" }],
  dlookup: [["jet"], "a subquery"],
  eomonth: [["tsql"], "date arithmetic"],
  from_unixtime: [MARIA, "date arithmetic"],
  getdate: [["tsql"], { others: "CURRENT_TIMESTAMP", jet: "Now()" }],
  getutcdate: [["tsql"], { others: "CURRENT_TIMESTAMP", jet: "Now()" }],
  greatest: [["postgresql", "mysql", "mariadb", "plsql", "tsql"], { others: "IIf", sqlite: "MAX of several values" }],
  group_concat: [[...MARIA, "sqlite"], { others: "STRING_AGG", plsql: "LISTAGG", jet: "a function of a module" }],
  ifnull: [[...MARIA, "sqlite"], { others: "COALESCE", jet: "Nz" }],
  iif: [["jet", "tsql", "sqlite"], "CASE"],
  initcap: [["postgresql", "plsql"], "UPPER and LOWER of the parts"],
  instr: [[...MARIA, "sqlite", "plsql", "jet"], { others: "POSITION", tsql: "CHARINDEX" }],
  isnull: [["tsql", "mysql", "mariadb", "jet"], "COALESCE"],
  isnumeric: [["tsql", "jet"], "a pattern"],
  json_modify: [["tsql"], { others: "JSON_SET", postgresql: "JSONB_SET" }],
  julianday: [["sqlite"], "date arithmetic"],
  last_day: [["plsql", ...MARIA], "date arithmetic"],
  last_insert_id: [MARIA, "the dialect's own number of the last row"],
  last_insert_rowid: [["sqlite"], "the dialect's own number of the last row"],
  lcase: [[...MARIA, "jet"], "LOWER"],
  least: [["postgresql", "mysql", "mariadb", "plsql", "tsql"], { others: "IIf", sqlite: "MIN of several values" }],
  left: [["postgresql", "mysql", "mariadb", "tsql", "jet"], "SUBSTR"],
  len: [["tsql", "jet"], "LENGTH"],
  length: [["postgresql", "mysql", "mariadb", "sqlite", "plsql"], "LEN"],
  listagg: [
    ["plsql"],
    { others: "STRING_AGG", mysql: "GROUP_CONCAT", mariadb: "GROUP_CONCAT", jet: "a function of a module" },
  ],
  locate: [MARIA, { others: "POSITION", tsql: "CHARINDEX", sqlite: "INSTR", plsql: "INSTR", jet: "InStr" }],
  lower: [NOT_JET, "LCase"],
  lpad: [["postgresql", "mysql", "mariadb", "plsql"], "a piece of padding and RIGHT"],
  mid: [[...MARIA, "jet"], { others: "SUBSTRING", plsql: "SUBSTR" }],
  months_between: [["plsql"], "date arithmetic"],
  newid: [["tsql"], "the dialect's own identifiers"],
  now: [["postgresql", "mysql", "mariadb", "jet"], "CURRENT_TIMESTAMP"],
  nullif: [NOT_JET, "IIf"],
  nvl: [["plsql", "mariadb"], { others: "COALESCE", jet: "Nz" }],
  nvl2: [["plsql", "mariadb"], { others: "CASE", jet: "IIf" }],
  nz: [["jet"], "COALESCE"],
  patindex: [["tsql"], "a pattern"],
  quotename: [["tsql"], "the dialect's own quoting"],
  rand: [[...MARIA, "tsql"], { others: "RANDOM", plsql: "DBMS_RANDOM.VALUE", jet: "Rnd" }],
  random: [["postgresql", "sqlite"], { others: "RAND", plsql: "DBMS_RANDOM.VALUE", jet: "Rnd" }],
  repeat: [["postgresql", "mysql", "mariadb"], { others: "RPAD", tsql: "REPLICATE", jet: "String" }],
  replicate: [["tsql"], { others: "REPEAT", plsql: "RPAD", jet: "String" }],
  right: [["postgresql", "mysql", "mariadb", "tsql", "jet"], "SUBSTR"],
  rnd: [["jet"], { others: "RAND", postgresql: "RANDOM", sqlite: "RANDOM", plsql: "DBMS_RANDOM.VALUE" }],
  rpad: [["postgresql", "mysql", "mariadb", "plsql"], "a piece of padding and LEFT"],
  scope_identity: [["tsql"], "the dialect's own number of the last row"],
  str_to_date: [MARIA, "a date literal"],
  strftime: [["sqlite"], "the dialect's own formatting of dates"],
  string_agg: [
    ["postgresql", "tsql", "sqlite"],
    { others: "GROUP_CONCAT", plsql: "LISTAGG", jet: "a function of a module" },
  ],
  stuff: [["tsql"], "SUBSTR of the parts"],
  substr: [["postgresql", "mysql", "mariadb", "sqlite", "plsql"], { others: "SUBSTRING", jet: "Mid" }],
  substring: [["postgresql", "mysql", "mariadb", "sqlite", "tsql"], { others: "SUBSTR", jet: "Mid" }],
  substring_index: [MARIA, "SUBSTR up to the place of the separator"],
  sysdatetime: [["tsql"], { others: "CURRENT_TIMESTAMP", jet: "Now()" }],
  timestampadd: [MARIA, "date arithmetic"],
  timestampdiff: [MARIA, "date arithmetic"],
  to_char: [["plsql", "postgresql", "mariadb"], "CAST, or the dialect's own formatting"],
  to_date: [["plsql", "postgresql", "mariadb"], "a date literal"],
  to_number: [["plsql", "postgresql"], "CAST"],
  to_timestamp: [["plsql", "postgresql"], "a literal of a time stamp"],
  ucase: [[...MARIA, "jet"], "UPPER"],
  unix_timestamp: [MARIA, "date arithmetic"],
  upper: [NOT_JET, "UCase"],
  utc_date: [MARIA, { others: "CURRENT_DATE", tsql: "CAST(GETUTCDATE() AS date)", jet: "Date()" }],
  utc_timestamp: [MARIA, { others: "CURRENT_TIMESTAMP", tsql: "GETUTCDATE()", jet: "Now()" }],
};

/**
 * Functions that not every dialect has, by their names in small letters (from the engines' manuals; what the
 * engines at hand say is tested).
 *
 * @example
 * partialFunctions.get("nvl") // { ids: ["plsql", "mariadb"], instead: { others: "COALESCE", jet: "Nz" } }
 */
export const partialFunctions: ReadonlyMap<string, PartialFunction> = new Map(
  Object.entries(table).map(([name, [ids, instead]]) => [
    name,
    { ids, instead: typeof instead === "string" ? { others: instead } : instead },
  ]),
);

/** Whether a dialect has a function; one that is not in the table is in none or in all. */
export function hasFunction(known: PartialFunction | undefined, { id }: Dialect): boolean {
  return known === undefined || known.ids.includes(id);
}

/** What a dialect writes instead. */
export function insteadIn({ id }: Dialect, instead: PartialFunction["instead"]): string {
  return instead[id] ?? instead.others;
}
