import { fileURLToPath } from "node:url";
import { catalogFromDdl, type DialectId, hazards, type Review, readScript, review } from "cautela";
import { describe, expect, test } from "vitest";
import { casesOf } from "./cases.ts";

// The same script written another way: the same is found in it, whatever the hand that wrote it.

const families = ["rows", "joins", "values", "views", "ripples", "recovery", "order"];
const cases = families.flatMap((family) =>
  casesOf(fileURLToPath(new URL(`cases/${family}`, import.meta.url))).flatMap((one) =>
    one.dialects.map((dialect) => ({ ...one, dialect })),
  ),
);

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
/** A condition that stands alone behind WHERE or AND. */
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

const ways: Record<string, (sql: string, dialect: DialectId) => string> = {
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
    dialect === "postgresql" || dialect === "sqlite" || dialect === "tsql"
      ? sql.replace(/^(UPDATE|DELETE FROM) (?=\w+)/gim, "WITH unused AS (SELECT 1 AS x) $1 ")
      : sql,
};

/** Lines for a client keep their places, and so do comments that hold for a statement. */
const CLIENT = /^\s*(?:\\|\.\w|GO\b|:|@|\/\s*$|DELIMITER)/im;

const found = (result: Review): string[] =>
  result.findings.map((one) => `${one.statement} ${one.hazard} ${one.weight} ${one.accepted !== null}`).sort();

describe.each(Object.entries(ways))("%s", (_, change) => {
  test("the same is found", () => {
    let changed = 0;
    for (const { name, dialect, ddl, sql } of cases) {
      const other = change(sql, dialect);
      if (other === sql || CLIENT.test(sql) || (/#|[/][*]!/.test(sql) && dialect !== "tsql")) continue;
      changed++;
      const catalog = catalogFromDdl(ddl, { dialect });
      expect(found(review(other, { dialect, catalog })), `${name} (${dialect})\n${other}`).toEqual(
        found(review(sql, { dialect, catalog })),
      );
    }
    expect(changed).toBeGreaterThan(2);
  });
});

test("inside a block the same is found of rows, joins and values", () => {
  const within: Partial<Record<DialectId, (sql: string) => string>> = {
    postgresql: (sql) => `DO $do$\nBEGIN\n${sql}\nEND $do$;`,
    plsql: (sql) => `BEGIN\n${sql}\nEND;\n/`,
    tsql: (sql) => `BEGIN\n${sql}\nEND;`,
  };
  // In code a name may be a variable, a portion is taken until nothing is left, and errors may be meant.
  const other = new Set(["unknown-name", "unordered-limit", "dropped-rows", "dangling-reference"]);
  const about = new Set(
    hazards
      .filter(({ id, family }) => ["rows", "joins", "values", "views", "ripples"].includes(family) && !other.has(id))
      .map(({ id }) => id),
  );
  let count = 0;
  for (const { name, dialect, ddl, sql } of cases) {
    const block = within[dialect];
    const changes = ["update", "delete", "insert", "merge", "truncate"];
    const { statements } = readScript(sql, { dialect });
    if (!block || statements.some(({ kind }) => !changes.includes(kind)) || CLIENT.test(sql)) continue;
    // A TRUNCATE of PL/SQL has to be put together.
    if (dialect === "plsql" && statements.some(({ kind }) => kind === "truncate")) continue;
    const catalog = catalogFromDdl(ddl, { dialect });
    const ids = (text: string): string[] =>
      review(text, { dialect, catalog })
        .findings.filter(({ hazard }) => about.has(hazard))
        .map(({ hazard, weight }) => `${hazard} ${weight}`)
        .sort();
    expect(ids(block(sql)), `${name} (${dialect})`).toEqual(ids(sql));
    count++;
  }
  expect(count).toBeGreaterThan(250);
});

test("what a hazard needs is never missing where it is found", () => {
  const needs = hazards.map((hazard) => hazard.needs);
  const all = (): string[] =>
    cases.map(({ dialect, ddl, sql }) => {
      const { findings } = review(sql, { dialect, catalog: catalogFromDdl(ddl, { dialect }) });
      return JSON.stringify(findings);
    });
  const chosen = all();
  try {
    for (const hazard of hazards) hazard.needs = undefined;
    expect(all()).toEqual(chosen);
  } finally {
    hazards.forEach((hazard, i) => {
      hazard.needs = needs[i];
    });
  }
});
