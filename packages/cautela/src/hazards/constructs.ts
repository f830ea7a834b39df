import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Span } from "../sql/nodes/tree.ts";
import type { Slice } from "../text/slice.ts";

// Constructs that the grammar reads in every dialect although not every engine has them. Where one stands that the engine
// lacks, it refuses the statement. Which engine has what is asked of PostgreSQL, MariaDB and SQLite in the tests; for the
// others it is read off their references: Transact-SQL (SQL Server 2022), Oracle SQL Language Reference 19c, Access SQL.

/** A construct that stands somewhere. */
export interface Found {
  what: keyof typeof CONSTRUCTS;
  at: Span;
}

export interface Construct {
  /** The dialects that have it, by their first letters: see `LETTERS`. */
  has: string;
  /** As a message names it. */
  shown: string;
  /** What to write, in the dialects where there is a plain answer. */
  instead?: Partial<Record<DialectId, string>>;
}

/** `p` PostgreSQL, `m` MySQL, `a` MariaDB, `s` SQLite, `t` T-SQL, `o` Oracle, `j` Jet. */
export const LETTERS: Record<DialectId, string> = {
  postgresql: "p",
  mysql: "m",
  mariadb: "a",
  sqlite: "s",
  tsql: "t",
  plsql: "o",
  jet: "j",
};

export const CONSTRUCTS = {
  // Oracle since 23ai.
  updateFrom: {
    has: "psto",
    shown: "FROM after SET of an UPDATE",
    instead: { mysql: "Write UPDATE t JOIN u ON … SET …", jet: "Write UPDATE t INNER JOIN u ON … SET …" },
  },
  aliasOfUpdate: {
    has: "pmasoj",
    shown: "an alias of the table after UPDATE",
    instead: { tsql: "Write the alias after FROM: UPDATE x SET … FROM t AS x" },
  },
  aliasOfDelete: {
    has: "pmso",
    shown: "an alias of the table after DELETE FROM",
    instead: { tsql: "Write DELETE x FROM t AS x", mariadb: "Write DELETE x FROM t AS x" },
  },
  deleteStar: { has: "j", shown: "a star after DELETE", instead: { tsql: "Leave the star out" } },
  deleteNamed: {
    has: "matj",
    shown: "the name of the table before FROM",
    instead: { plsql: "Write DELETE FROM t", postgresql: "Write DELETE FROM t" },
  },
  // MySQL until 5.7.3.
  ignoringAlter: {
    has: "a",
    shown: "IGNORE after ALTER",
    instead: { mysql: "Remove the rows with the same key first, and add the key without IGNORE" },
  },
  orderedChange: {
    has: "ma",
    shown: "ORDER BY in a change",
    instead: { tsql: "Choose the rows in a common table expression with TOP and ORDER BY, and change that" },
  },
  limitedChange: {
    has: "ma",
    shown: "LIMIT in a change",
    instead: { tsql: "Write TOP (n)", plsql: "Write WHERE ROWNUM <= n" },
  },
  topInChange: { has: "t", shown: "TOP in a change" },
  topInQuery: { has: "tj", shown: "TOP", instead: { plsql: "Write FETCH FIRST n ROWS ONLY" } },
  limitInQuery: {
    has: "pmas",
    shown: "LIMIT",
    instead: { tsql: "Write TOP (n)", plsql: "Write FETCH FIRST n ROWS ONLY", jet: "Write TOP n" },
  },
  fetchFirst: { has: "pato", shown: "FETCH FIRST", instead: { jet: "Write TOP n" } },
  fetchWithoutOffset: {
    has: "pao",
    shown: "FETCH FIRST without OFFSET",
    instead: { tsql: "Write TOP (n), or ORDER BY … OFFSET 0 ROWS before it", jet: "Write TOP n" },
  },
  asBeforeAlias: { has: "pmastj", shown: "AS before the alias of a table", instead: { plsql: "Leave AS out" } },
  parenthesizedArguments: {
    has: "pmasoj",
    shown: "parentheses around the arguments of EXEC",
    instead: { tsql: "Leave the parentheses out" },
  },
  offsetWithoutOrder: {
    has: "pmasoj",
    shown: "OFFSET without ORDER BY",
    instead: { tsql: "Write ORDER BY before it" },
  },
  deleteUsing: {
    has: "pma",
    shown: "USING in a DELETE",
    instead: { tsql: "Write DELETE t FROM t JOIN u ON …", plsql: "Write WHERE EXISTS (SELECT 1 FROM u WHERE …)" },
  },
  joinedUpdate: {
    has: "maj",
    shown: "a join between UPDATE and SET",
    instead: { tsql: "Write UPDATE t SET … FROM t JOIN u ON …", plsql: "Write MERGE, or WHERE EXISTS" },
  },
  returning: {
    has: "paso",
    shown: "RETURNING",
    instead: { tsql: "Write OUTPUT before WHERE, or before VALUES" },
  },
  updateReturning: { has: "pso", shown: "RETURNING in an UPDATE" },
  openReturning: {
    has: "pas",
    shown: "RETURNING",
    instead: { tsql: "Write OUTPUT before WHERE, or before VALUES", plsql: "Write RETURNING … INTO" },
  },
  openUpdateReturning: {
    has: "ps",
    shown: "RETURNING in an UPDATE",
    instead: { tsql: "Write OUTPUT before FROM and WHERE", plsql: "Write RETURNING … INTO" },
  },
  plainEquals: { has: "pmastj", shown: "= as an assignment", instead: { plsql: "Write :=" } },
  output: { has: "t", shown: "OUTPUT", instead: { plsql: "Write RETURNING … INTO", postgresql: "Write RETURNING" } },
  onConflict: {
    has: "ps",
    shown: "ON CONFLICT",
    instead: {
      tsql: "Write MERGE, or WHERE NOT EXISTS",
      plsql: "Write MERGE, or WHERE NOT EXISTS",
      mysql: "Write ON DUPLICATE KEY UPDATE",
      mariadb: "Write ON DUPLICATE KEY UPDATE",
    },
  },
  onDuplicateKey: {
    has: "ma",
    shown: "ON DUPLICATE KEY UPDATE",
    instead: {
      tsql: "Write MERGE",
      plsql: "Write MERGE",
      postgresql: "Write ON CONFLICT (key) DO UPDATE SET",
      sqlite: "Write ON CONFLICT (key) DO UPDATE SET",
    },
  },
  topBeforeDistinct: { has: "", shown: "TOP before DISTINCT", instead: { tsql: "Write SELECT DISTINCT TOP (n)" } },
  emptyIn: { has: "s", shown: "IN with nothing in the parentheses" },
  merge: {
    has: "pto",
    shown: "MERGE",
    instead: {
      mysql: "Write INSERT … ON DUPLICATE KEY UPDATE",
      mariadb: "Write INSERT … ON DUPLICATE KEY UPDATE",
      sqlite: "Write INSERT … ON CONFLICT (key) DO UPDATE SET",
      jet: "Write an UPDATE with a join, and an INSERT of the rows that are missing",
    },
  },
  mergeBranch: {
    has: "",
    shown: "this action in this branch of a MERGE",
    instead: { tsql: "A row that is not matched can only be inserted; one that the source lacks is BY SOURCE" },
  },
  unendedMerge: { has: "pmasoj", shown: "a MERGE without a semicolon", instead: { tsql: "End it with ;" } },
  mergeWithoutInto: { has: "t", shown: "MERGE without INTO", instead: { plsql: "Write MERGE INTO t" } },
  bareMergeCondition: { has: "pt", shown: "ON without parentheses in a MERGE", instead: { plsql: "Write ON (…)" } },
  bareTruncate: { has: "pma", shown: "TRUNCATE without TABLE", instead: { tsql: "Write TRUNCATE TABLE" } },
  truncate: { has: "pmato", shown: "TRUNCATE", instead: { jet: "Write DELETE FROM", sqlite: "Write DELETE FROM" } },
  joinUsing: { has: "pmaso", shown: "USING in a join", instead: { tsql: "Write ON" } },
  naturalJoin: { has: "pmaso", shown: "NATURAL JOIN", instead: { tsql: "Write ON" } },
  fullJoin: { has: "psto", shown: "FULL JOIN" },
  bareJoin: { has: "pmasto", shown: "JOIN without INNER", instead: { jet: "Write INNER JOIN" } },
  joinWithoutOn: { has: "mas", shown: "a join without ON", instead: { tsql: "Write ON, or CROSS JOIN" } },
  colonCast: { has: "p", shown: "a cast with ::", instead: { tsql: "Write CAST(a AS type)" } },
  cast: { has: "pmasto", shown: "CAST", instead: { jet: "Write CLng, CStr and their like" } },
  caseExpression: { has: "pmasto", shown: "CASE", instead: { jet: "Write IIf or Switch" } },
  windowFunction: { has: "pmasto", shown: "a window function" },
  withQuery: { has: "pmasto", shown: "WITH before a query" },
  exceptOrIntersect: { has: "pmasto", shown: "EXCEPT and INTERSECT" },
  concatenation: {
    has: "pmaso",
    shown: "|| between texts",
    instead: { tsql: "Write + or CONCAT", jet: "Write &" },
  },
  conditionOfBit: { has: "pmasoj", shown: "a column alone as a condition", instead: { tsql: "Write b = 1" } },
  isTrue: { has: "pmas", shown: "IS TRUE", instead: { tsql: "Write = 1" } },
  dateLiteral: {
    has: "pmao",
    shown: "DATE before a text",
    instead: { tsql: "Write '20261231'", jet: "Write #2026-12-31#" },
  },
  rowOfValues: { has: "pmaso", shown: "a row of values in parentheses" },
  rowAssignment: {
    has: "ps",
    shown: "(a, b) = (…, …) in SET",
    instead: { tsql: "Assign each column by itself", plsql: "Assign each column by itself" },
  },
  queryAssignment: {
    has: "pso",
    shown: "(a, b) = (SELECT …) in SET",
    instead: { tsql: "Write UPDATE t SET … FROM t JOIN …" },
  },
  defaultValues: { has: "pst", shown: "DEFAULT VALUES", instead: { mysql: "Write VALUES ()" } },
  severalRows: { has: "pmasto", shown: "several rows in VALUES", instead: { jet: "Write one INSERT for each row" } },
  insertSet: {
    has: "ma",
    shown: "SET in an INSERT",
    instead: { postgresql: "Write (a) VALUES (1)", tsql: "Write (a) VALUES (1)", plsql: "Write (a) VALUES (1)" },
  },
  replaceInto: {
    has: "mas",
    shown: "REPLACE INTO",
    instead: {
      postgresql: "Write INSERT … ON CONFLICT (key) DO UPDATE SET",
      tsql: "Write MERGE",
      plsql: "Write MERGE",
    },
  },
  ddlInBlock: { has: "pmastj", shown: "DDL in a block", instead: { plsql: "Write EXECUTE IMMEDIATE '…'" } },
  // DDL
  dropCascade: {
    has: "pmao",
    shown: "CASCADE after DROP TABLE",
    instead: { tsql: "Drop the keys that refer to it first", plsql: "Write CASCADE CONSTRAINTS" },
  },
  dropCascadeAlone: { has: "pma", shown: "CASCADE after DROP TABLE", instead: { plsql: "Write CASCADE CONSTRAINTS" } },
  modifyColumn: {
    has: "mao",
    shown: "MODIFY",
    instead: { tsql: "Write ALTER COLUMN", postgresql: "Write ALTER COLUMN … TYPE", jet: "Write ALTER COLUMN" },
  },
  modifyColumnWord: {
    has: "ma",
    shown: "MODIFY COLUMN",
    instead: {
      plsql: "Write MODIFY (column …)",
      tsql: "Write ALTER COLUMN",
      postgresql: "Write ALTER COLUMN … TYPE",
      jet: "Write ALTER COLUMN",
    },
  },
  dropBareColumn: {
    has: "pmas",
    shown: "DROP without COLUMN",
    instead: { plsql: "Write DROP COLUMN a", tsql: "Write DROP COLUMN a", jet: "Write DROP COLUMN a" },
  },
  changeColumn: { has: "ma", shown: "CHANGE", instead: { plsql: "Write RENAME COLUMN and MODIFY" } },
  renameColumn: {
    has: "pmaso",
    shown: "RENAME COLUMN",
    instead: { tsql: "Write EXEC sp_rename 't.a', 'b', 'COLUMN'" },
  },
  renameTable: { has: "pmaso", shown: "RENAME TO", instead: { tsql: "Write EXEC sp_rename 't', 'u'" } },
  renameTableStatement: { has: "ma", shown: "RENAME TABLE", instead: { plsql: "Write ALTER TABLE t RENAME TO u" } },
  alterColumn: { has: "pmatsj", shown: "ALTER COLUMN", instead: { plsql: "Write MODIFY" } },
  alterColumnType: { has: "p", shown: "ALTER COLUMN … TYPE", instead: { tsql: "Write ALTER COLUMN a type" } },
  // SQLite since 3.53.
  alterColumnNull: {
    has: "ps",
    shown: "SET NOT NULL of a column",
    instead: { tsql: "Write ALTER COLUMN a type NOT NULL", mysql: "Write MODIFY a type NOT NULL" },
  },
  alterColumnDefault: {
    has: "pma",
    shown: "SET DEFAULT and DROP DEFAULT of a column",
    instead: { tsql: "Write ADD CONSTRAINT … DEFAULT … FOR a, or drop that constraint" },
  },
  orReplaceTable: { has: "a", shown: "OR REPLACE with a table" },
  orReplaceView: { has: "pmao", shown: "OR REPLACE with a view", instead: { tsql: "Write CREATE OR ALTER VIEW" } },
  ifNotExistsTable: {
    has: "pmaso",
    shown: "IF NOT EXISTS with a table",
    instead: { tsql: "Write IF OBJECT_ID('t') IS NULL before it" },
  },
  ifExistsDrop: { has: "pmasto", shown: "IF EXISTS" },
  createTableAs: {
    has: "pmaso",
    shown: "CREATE TABLE … AS",
    instead: { tsql: "Write SELECT … INTO t FROM …", jet: "Write SELECT … INTO t FROM …" },
  },
  trigger: { has: "pmasto", shown: "a trigger" },
  beforeTrigger: { has: "pmaso", shown: "a BEFORE trigger", instead: { tsql: "Write INSTEAD OF or AFTER" } },
  rowTrigger: { has: "pmaso", shown: "FOR EACH ROW", instead: { tsql: "Read the rows from inserted and deleted" } },
  dropTriggerOn: { has: "p", shown: "ON after DROP TRIGGER" },
  onUpdateKey: {
    has: "pmastj",
    shown: "ON UPDATE of a foreign key",
    instead: { plsql: "Leave it out: a value that rows refer to cannot change there" },
  },
  typeWithoutLength: { has: "pmast", shown: "VARCHAR2 without a length", instead: { plsql: "Write VARCHAR2(n)" } },
  serial: {
    has: "pmas",
    shown: "SERIAL",
    instead: { tsql: "Write IDENTITY(1, 1)", plsql: "Write GENERATED AS IDENTITY" },
  },
  // SQLite takes any words for a type.
  autoIncrement: {
    has: "mas",
    shown: "AUTO_INCREMENT",
    instead: {
      tsql: "Write IDENTITY(1, 1)",
      plsql: "Write GENERATED AS IDENTITY",
      postgresql: "Write GENERATED ALWAYS AS IDENTITY",
    },
  },
  concurrently: {
    has: "p",
    shown: "CONCURRENTLY",
    instead: { plsql: "Write ONLINE", tsql: "Write WITH (ONLINE = ON)" },
  },
  startTransaction: {
    has: "pma",
    shown: "START TRANSACTION",
    instead: { tsql: "Write BEGIN TRANSACTION", sqlite: "Write BEGIN" },
  },
  commentOn: { has: "po", shown: "COMMENT ON" },
  grantOnTable: {
    has: "pmaj",
    shown: "TABLE in a GRANT",
    instead: { tsql: "Leave TABLE out", plsql: "Leave TABLE out" },
  },
  callStatement: { has: "pmao", shown: "CALL", instead: { tsql: "Write EXEC" } },
} satisfies Record<string, Construct>;

/** The source with a blank in the place of each comment. */
export function withoutComments(slice: Slice): Slice {
  return (start, end) => slice(start, end).replace(/\/\*[^*]*(?:\*(?!\/)[^*]*)*(?:\*\/|$)|--[^\n]*/g, " ");
}

/** The constructs that each dialect lacks. */
const LACKED: ReadonlyMap<DialectId, ReadonlySet<Found["what"]>> = new Map(
  Object.entries(LETTERS).map(([id, letter]) => [
    id as DialectId,
    new Set((Object.keys(CONSTRUCTS) as Found["what"][]).filter((what) => !CONSTRUCTS[what].has.includes(letter))),
  ]),
);

/** What is looked for in a statement: the constructs that its dialect lacks, and where they stand. */
export class Lookout {
  readonly found: Found[] = [];
  readonly slice: Slice;
  readonly #lacked: ReadonlySet<Found["what"]>;

  constructor(dialect: DialectId, source: Slice) {
    this.slice = withoutComments(source);
    this.#lacked = LACKED.get(dialect) ?? new Set();
  }

  /** Whether the dialect lacks one of them: what it has needs no look at the text. */
  lacks(one: Found["what"], other: Found["what"] = one): boolean {
    return this.#lacked.has(one) || this.#lacked.has(other);
  }

  put(what: Found["what"], at: Span): void {
    if (this.#lacked.has(what)) this.found.push({ what, at });
  }
}
