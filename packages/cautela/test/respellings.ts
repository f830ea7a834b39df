import type { DialectId } from "cautela";

/** Strings, quoted names, comments and bodies: what a change of spelling must leave alone. */
const KEPT =
  /'(?:[^'\\]|''|\\.)*'|"(?:[^"]|"")*"|`[^`]*`|\[[^\]\n]*\]|--[^\n]*\n?|\/\*[\s\S]*?\*\/|#[^#\n]*#|\$(\w*)\$[\s\S]*?\$\1\$/g;

function code(sql: string, change: (piece: string) => string): string {
  let out = "";
  let last = 0;
  for (const kept of sql.matchAll(KEPT)) {
    out += change(sql.slice(last, kept.index)) + kept[0];
    last = kept.index + kept[0].length;
  }
  return out + change(sql.slice(last));
}

const COMPARISON = String.raw`(?:\w+\.)?[a-z_]+ (?:=|<|>|<>|<=|>=) (?:'[^'%]*'|\d+)`;
const EQUAL = String.raw`((?:\w+\.)?[a-z_]+) = ('[^'%]*'|\d+)`;
const UNEQUAL = String.raw`((?:\w+\.)?[a-z_]+) <> ('[^'%]*'|\d+)`;
/** A condition that stands alone after WHERE or AND. */
const alone = (condition: string) => new RegExp(`(\\bWHERE\\s+|\\bAND\\s+)${condition}(?=\\s*(?:;|AND\\b|$))`, "gi");
/** A WHERE that is nothing but conditions. */
const PLAIN_WHERE = /\bWHERE\s+([^;()'"#/-]*?);/gi;
const MORE =
  /\b(?:ORDER|GROUP|RETURNING|LIMIT|UNION|OUTPUT|END|WITH|FETCH|FOR|CURRENT|OPTION|LOG|ON|SELECT|DO|THEN)\b/i;

const quote = (word: string, dialect: DialectId): string => {
  if (dialect === "mysql" || dialect === "mariadb") return `\`${word}\``;
  if (dialect === "tsql" || dialect === "jet") return `[${word}]`;
  return `"${dialect === "plsql" ? word.toUpperCase() : word.toLowerCase()}"`;
};

/** Ways of writing a script that leave its meaning as it is. */
export const respellings: Record<string, (sql: string, dialect: DialectId) => string> = {
  "in capitals": (sql) => code(sql, (piece) => piece.toUpperCase()),
  "in small letters": (sql) => code(sql, (piece) => piece.toLowerCase()),
  "with tabs": (sql) => code(sql, (piece) => piece.replace(/ /g, "\t ")),
  "with the line ends of another system": (sql) => sql.replace(/\r?\n/g, "\r\n"),
  "with comments between the words": (sql) => code(sql, (piece) => piece.replace(/ (?=\S)/g, " /* x */ ")),
  "with a line for each word": (sql) => (/#/.test(sql) ? sql : code(sql, (piece) => piece.replace(/ /g, "\n  "))),
  "with quoted names": (sql, dialect) =>
    code(sql, (piece) =>
      piece.replace(/\b(mooring_id|berth_id|vessel_id|fee|status|mooring|berth|vessel|class)\b/gi, (word) =>
        quote(word, dialect),
      ),
    ),
  "with != for <>": (sql, dialect) => (dialect === "jet" ? sql : code(sql, (piece) => piece.replace(/<>/g, "!="))),
  "in parentheses": (sql) =>
    sql.replace(PLAIN_WHERE, (all, where: string) => (MORE.test(where) ? all : `WHERE (${where});`)),
  "with the constant first": (sql) => sql.replace(alone(EQUAL), "$1$3 = $2").replace(alone(UNEQUAL), "$1$3 <> $2"),
  "as a list of one": (sql) => sql.replace(alone(EQUAL), "$1$2 IN ($3)"),
  "with NOT twice": (sql) => sql.replace(alone(`(${COMPARISON})`), "$1NOT (NOT ($2))"),
  "with NOT for the opposite": (sql) => sql.replace(alone(UNEQUAL), "$1NOT ($2 = $3)"),
  "with NOT … IS NULL": (sql) => sql.replace(/((?:\w+\.)?[a-z_]+) IS NOT NULL/gi, "NOT ($1 IS NULL)"),
  "with a condition twice": (sql) => sql.replace(new RegExp(`\\bWHERE (${COMPARISON});`, "gi"), "WHERE $1 AND $1;"),
  "with the conditions in another order": (sql) =>
    sql.replace(/\bWHERE ([^;()'"\n]*?) AND ([^;()'"\n]*?);/gi, (all, one: string, other: string) =>
      MORE.test(one + other) || /\b(?:OR|BETWEEN|AND|SET)\b/i.test(`${one} ${other}`)
        ? all
        : `WHERE ${other} AND ${one};`,
    ),
  "with a comma for JOIN": (sql, dialect) =>
    dialect === "jet"
      ? sql
      : sql.replace(
          /(?<!LEFT|RIGHT|FULL|CROSS|OUTER|NATURAL)( INNER)? JOIN (\w+)( AS)? (\w+) ON ([^;()]*?) WHERE ([^;]*?)(?=;)/g,
          (all, _inner, table: string, _as, alias: string, on: string, where: string) =>
            /\bJOIN\b|\bSET\b|\bOR\b/.test(on + where) ? all : `, ${table} ${alias} WHERE ${on} AND ${where}`,
        ),
  "with a common table that nothing uses": (sql, dialect) =>
    (dialect === "postgresql" || dialect === "sqlite" || dialect === "tsql") && !/\bWITH\b/i.test(sql)
      ? sql.replace(/^(UPDATE|DELETE FROM) (?=\w+)/gim, "WITH unused AS (SELECT 1 AS x) $1 ")
      : sql,
};

/** Lines for a client keep their places. */
const CLIENT = /^\s*(?:\\|\.\w|GO\b|:|@|\/\s*$|DELIMITER|WHENEVER\b|SET (?:ECHO|SQLBLANKLINES)\b)/im;

/** Whether a script can be written another way: nothing in it depends on its lines. */
export function isPlain(sql: string, dialect: DialectId): boolean {
  // A hole before a name is a part of it.
  return !CLIENT.test(sql) && !/\}\w/.test(sql) && (dialect === "tsql" || !/#|[/][*]!/.test(sql));
}
