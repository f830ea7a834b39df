import type { CatalogObject, Column, Table, Trigger } from "../catalog/model.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";
import { directiveEnd } from "../sql/lexer/directives.ts";
import { keywordOf } from "../sql/lexer/words.ts";
import type { Added, Kept, OwnTrigger, PutBack } from "./kept.ts";
import type { Phase, PhaseFrame } from "./phase.ts";
import { RESERVED_NAMES } from "./reserved-names.ts";

/** What a change is asserted against. */
export interface Assertion {
  /** The number of rows, or a query for it. */
  expected: string;
  /** A query for the rows whose values really change: MariaDB counts either, as its client has asked for. */
  changing: string | null;
  /** A transaction of the script is open: the change does not get one of its own. */
  inside: boolean;
  line: number;
}

/** A restore in the order in which it is run. */
export interface Restoring {
  statements: string[];
  /** It may stand in one transaction with others. */
  transactional: boolean;
}

/** How one dialect writes the pieces of a rehearsal; what it says is standard SQL, and each dialect states its differences. */
export abstract class SqlWriter {
  readonly dialect: Dialect;
  readonly #countUpTo: number | null;

  constructor(dialect: Dialect, countUpTo: number | null = null) {
    this.dialect = dialect;
    this.#countUpTo = countUpTo;
  }

  // ------------------------------------------------------------ names

  /** A name between quotes. */
  quoted(text: string): string {
    return `"${text.replaceAll('"', '""')}"`;
  }

  /** A name, quoted where it has to be. */
  name(text: string): string {
    const { grammar, wordClass } = this.dialect;
    const plain =
      grammar.looseNames || grammar.fold === "keep"
        ? /^[A-Za-z_][A-Za-z0-9_]*$/
        : grammar.fold === "upper"
          ? /^[A-Z][A-Z0-9_$#]*$/
          : /^[a-z_][a-z0-9_]*$/;
    if (!plain.test(text) || RESERVED_NAMES.has(text.toLowerCase())) return this.quoted(text);
    const word = keywordOf(text);
    return word > 0 && wordClass[word] > 0 ? this.quoted(text) : text;
  }

  /** A column as its table spells it. */
  column(table: Pick<Table, "columns"> | null | undefined, name: string): string {
    return this.name(table?.columns.find((one) => one.name === name)?.spelling ?? name);
  }

  /** Columns, each with the alias of their table before it where one is given: `b.berth_id, b.code`. */
  columns(alias: string, table: Pick<Table, "columns"> | null | undefined, list: readonly string[]): string {
    const before = alias === "" ? "" : `${alias}.`;
    return list.map((one) => `${before}${this.column(table, one)}`).join(", ");
  }

  /** The name of a table as its definition writes it, with its schema where that does not go without saying. */
  table(table: Pick<Table, "schema" | "name" | "written">): string {
    const schema = this.#schemaOf(table);
    const own = this.name(table.written?.[table.written.length - 1] ?? table.name);
    return schema === "" ? own : `${schema}.${own}`;
  }

  /** A name for a copy, in the schema of the table that is copied. */
  beside(table: Pick<Table, "schema" | "name" | "written">, name: string): string {
    const schema = this.#schemaOf(table);
    return schema === "" ? this.name(name) : `${schema}.${this.name(name)}`;
  }

  /** The schema, with its database where it is another one, as it is written; empty where it goes without saying. */
  #schemaOf(table: Pick<Table, "schema" | "written">): string {
    const { defaultSchema, temporarySchema, temporaryBesides } = this.dialect.grammar;
    if (table.written && table.written.length > 1)
      return table.written
        .slice(0, -1)
        .map((part) => (part === "" ? "" : this.name(part)))
        .join(".");
    const beside = temporaryBesides && table.schema.startsWith(temporarySchema);
    const schema = beside ? table.schema.slice(temporarySchema.length) : table.schema;
    if (schema === "" || schema === "main" || schema === defaultSchema || schema === temporarySchema) return "";
    return (this.dialect.engine.threePartNames ? schema.split(".") : [schema]).map((part) => this.name(part)).join(".");
  }

  /** A table as FROM names it; `only` leaves the tables out that inherit from it. */
  from(table: Pick<Table, "schema" | "name" | "written">, only: boolean): string {
    return `${only ? "ONLY " : ""}${this.table(table)}`;
  }

  /** An alias after a table. */
  as(alias: string): string {
    return ` AS ${alias}`;
  }

  /** `a.key = b.key AND …`. */
  match(a: string, b: string, table: Pick<Table, "columns">, key: readonly string[]): string {
    return key.map((one) => `${a}.${this.column(table, one)} = ${b}.${this.column(table, one)}`).join(" AND ");
  }

  // ------------------------------------------------------------ values

  /** Whether the engine can compare values of the column at all. */
  comparable(_column: Column): boolean {
    return true;
  }

  /** Whether `=` works on values of the column. */
  equatable(column: Column): boolean {
    return this.comparable(column);
  }

  /** Whether an UPDATE assigns from left to right, each value seeing those before it. */
  readonly assignsInOrder: boolean = false;

  /** Whether two values differ, NULLs taken for equal. */
  differs(a: string, b: string): string {
    return `(${a} <> ${b} OR (${a} IS NULL AND ${b} IS NOT NULL) OR (${a} IS NOT NULL AND ${b} IS NULL))`;
  }

  /** Whether a text differs in anything from what is made of it, case and trailing blanks included; NULL stays NULL. */
  altered(text: string, made: string, _column: Column | null | undefined): string {
    return `${text} <> ${made}`;
  }

  /** Whether the value that a column is given differs from the one it has, NULLs taken for equal. */
  givenDiffers(has: string, given: string, _column: Column | undefined): string {
    return this.differs(has, given);
  }

  /** Whether two stored values of a column differ in anything: in case, in trailing blanks, in their text. */
  contentDiffers(a: string, b: string, _column: Column): string {
    return this.differs(a, b);
  }

  /** Whether any of the columns differs between two aliases; null where none can be compared. */
  anyDiffers(a: string, b: string, table: Table, columns: readonly string[]): string | null {
    const parts: string[] = [];
    for (const column of table.columns) {
      if (!columns.includes(column.name) || !this.comparable(column)) continue;
      const name = this.column(table, column.name);
      parts.push(this.contentDiffers(`${a}.${name}`, `${b}.${name}`, column));
    }
    return parts.length === 0 ? null : parts.join("\n   OR ");
  }

  /** CASE for one of two values. */
  either(condition: string, yes: string, no: string): string {
    return `CASE WHEN ${condition} THEN ${yes} ELSE ${no} END`;
  }

  /** How many characters a text has. */
  characters(text: string): string {
    return `CHAR_LENGTH(${text})`;
  }

  /** The first of two values that is not NULL. */
  coalesce(a: string, b: string): string {
    return `COALESCE(${a}, ${b})`;
  }

  /** Today's date. */
  readonly today: string = "CURRENT_DATE";

  /** A date, in a form that no setting reads another way; the parts have their zeros. */
  date(year: string, month: string, day: string): string {
    return `'${year}-${month}-${day}'`;
  }

  /** How the engine reads a text such as 03/04/2025. */
  readonly dateOrder: string = "the order of day and month is a setting of the server or the session";

  /** True or false, as a column of that type takes it. */
  truth(value: boolean, column: Pick<Column, "type">): string {
    if (/^bool/.test(column.type)) return value ? "TRUE" : "FALSE";
    return value ? "1" : "0";
  }

  /** A value as the column will hold it: rounded to its decimals, where the engine rounds. */
  stored(value: string, _column: Column | undefined): string {
    return value;
  }

  // ------------------------------------------------------------ queries

  /** Whether a query ends in LIMIT here. */
  readonly limits: boolean = true;

  /** How rows of VALUES are read as a query: as a derived table, by themselves, or not at all. */
  get valuesQuery(): "derived" | "bare" | null {
    return null;
  }

  /** Whether a query may begin with WITH. */
  readonly hasWith: boolean = true;

  /** A count under a name; `rest` is the query from FROM on. A capped one stops after the number that was asked for. */
  count(name: string, rest: string, capped: boolean): string {
    if (!capped || this.#countUpTo === null || !this.limits) return `SELECT COUNT(*) AS ${name}\n${rest}`;
    return `SELECT COUNT(*) AS ${name}\nFROM (SELECT 1 AS one ${rest}\nLIMIT ${this.#countUpTo})${this.as("counted")}`;
  }

  /** A SELECT that ends after this many rows. */
  first(rows: number, list: string, rest: string): string {
    return `SELECT ${list}\n${rest}\nLIMIT ${rows}`;
  }

  /** The rows of a table whose keys a query gives; `keys` lists the key's columns under their own names. */
  amongKeys(alias: string, table: Pick<Table, "columns">, key: readonly string[], keys: string): string {
    if (key.length === 1) return `${alias}.${this.column(table, key[0])} IN (${keys})`;
    return `EXISTS (SELECT 1 FROM (${keys})${this.as("m")} WHERE ${this.match("m", alias, table, key)})`;
  }

  // ------------------------------------------------------------ copies

  /** A new table from a query; `head` stands before SELECT (WITH …). */
  copy(into: string, list: string, rest: string, head = ""): string {
    return `CREATE TABLE ${into} AS\n${head}SELECT ${list}\n${rest}`;
  }

  /** The columns of a table as a copy takes them that is filled later; `alias` stands before them. */
  copied(_table: Table, alias: string): string {
    return `${alias}.*`;
  }

  /** Whether WITH stands before INSERT, and not before its SELECT. */
  readonly headFirst: boolean = false;

  /** Why a table cannot be copied by a query; null: it can. */
  copyProblem(_table: Table): string | null {
    return null;
  }

  /** Whether a restore drops triggers and creates them again, for want of a way to switch them off. */
  readonly recreatesTriggers: boolean = false;

  /** The columns of a table one by one, as a copy takes them that is filled later. */
  copiedColumns(table: Table, alias: string): string {
    return this.columns(
      alias,
      table,
      table.columns.map(({ name }) => name),
    );
  }

  /** An empty table with the columns of another, or some of them. */
  emptyCopy(into: string, table: Table, columns: readonly string[] | null): string {
    const list = columns ? this.columns("t", table, columns) : this.copiedColumns(table, "t");
    return this.copy(into, list, `FROM ${this.table(table)}${this.as("t")}\nWHERE 1 = 0`);
  }

  /** An image of a table as it is at a point of the script: what is run before the script, there, and after the change. */
  image(
    name: string,
    table: Table,
    only: boolean,
    columns: readonly string[] | null,
  ): {
    before: string[];
    take: string[];
    drop: string[];
    name: string;
  } {
    const own = this.scratchName(name);
    const list = columns ? this.columns("t", table, columns) : this.copied(table, "t");
    return {
      name: own,
      before: [],
      take: [this.scratch(own, list, `FROM ${this.from(table, only)} AS t`)],
      drop: [`DROP ${this.scratchDropped} ${own}`],
    };
  }

  /** What DROP calls a table that lasts for the session. */
  protected readonly scratchDropped: string = "TABLE";

  protected scratchName(name: string): string {
    return this.name(name);
  }

  /** Fills a table that lasts for the session. */
  protected scratch(name: string, list: string, rest: string): string {
    return `CREATE TEMP TABLE ${name} AS\nSELECT ${list}\n${rest}`;
  }

  /** Columns that take part in a copy back: not those that the engine computes. */
  writable(table: Table): string[] {
    return table.columns.filter(({ generated }) => !generated).map(({ name }) => name);
  }

  /** Columns that an UPDATE may set. */
  updatable(table: Table): string[] {
    return this.writable(table);
  }

  // ------------------------------------------------------------ restore

  /** Puts rows of a copy back that are missing. */
  putBack({ table, only, copy, key }: Kept): string[] {
    const columns = this.writable(table);
    const target = this.table(table);
    const same = key
      ? this.match("t", "b", table, key)
      : `NOT (${this.anyDiffers("t", "b", table, columns) ?? "1 = 0"})`;
    return this.inserting(
      table,
      `INSERT INTO ${target} (${this.columns("", table, columns)})${this.overriding(table)}\nSELECT ${this.columns("b", table, columns)}\nFROM ${copy}${this.as("b")}\nWHERE NOT EXISTS (SELECT 1 FROM ${this.from(table, only)}${this.as("t")} WHERE ${same})`,
    );
  }

  /** What stands before SELECT so that numbered columns take the values they are given. */
  protected overriding(_table: Table): string {
    return "";
  }

  /** An INSERT with what it needs around it. */
  protected inserting(_table: Table, insert: string): string[] {
    return [insert];
  }

  /** Gives columns their values from a copy back, for the rows that it holds and that differ. */
  setBack(kept: Kept, columns: readonly string[]): string {
    const { table, only, copy } = kept;
    const sets = columns.map((one) => `${this.column(table, one)} = b.${this.column(table, one)}`);
    return `UPDATE ${this.from(table, only)} AS t\nSET ${sets.join(",\n    ")}\nFROM ${copy} AS b\nWHERE ${this.matchKept("t", kept)}${this.andDiffers("t", kept, columns)}`;
  }

  /** `alias.key = b.key`, with the key's new values where the change has given it others. */
  protected matchKept(alias: string, { table, key, newKey }: Kept): string {
    return (key ?? [])
      .map((one) => `${alias}.${this.column(table, one)} = b.${newKey?.get(one) ?? this.column(table, one)}`)
      .join(" AND ");
  }

  /** `AND (…)`: at least one of the columns differs from the copy. */
  protected andDiffers(alias: string, { table, newKey }: Kept, columns: readonly string[]): string {
    if (newKey) return "";
    const comparable = table.columns.every((one) => !columns.includes(one.name) || this.comparable(one));
    const differing = comparable ? this.anyDiffers(alias, "b", table, columns) : null;
    return differing === null ? "" : `\n  AND (${differing})`;
  }

  /** Removes the rows that have come. */
  removeAdded({ table, only, list, key }: Added): string {
    const target = this.table(table);
    const match = key.map((one) => `b.${this.column(table, one)} = ${target}.${this.column(table, one)}`).join(" AND ");
    return `DELETE FROM ${this.from(table, only)}\nWHERE EXISTS (SELECT 1 FROM ${list}${this.as("b")} WHERE ${match})`;
  }

  /** The steps of a restore with what they need around them: triggers off and on again, keys put off. */
  abstract restoring(putBack: PutBack, steps: readonly string[]): Restoring;

  // ------------------------------------------------------------ structure

  /** A type as a definition writes it. */
  typeOf({ type, typeArgs, array }: Column): string {
    return `${type}${typeArgs.length > 0 ? `(${typeArgs.join(", ")})` : ""}${array ? "[]" : ""}`;
  }

  collation(name: string): string {
    return this.name(name);
  }

  generatedAs({ expression, generated }: Column): string {
    return `GENERATED ALWAYS AS (${expression}) ${generated === "virtual" ? "VIRTUAL" : "STORED"}`;
  }

  identity({ identity }: Column): string {
    return `GENERATED ${(identity ?? "").toUpperCase()} AS IDENTITY`;
  }

  /** A table by its schema and name as they compare. */
  known(schema: string, name: string): string {
    return this.table(this.spelled(schema, name) ?? { schema, name, written: null });
  }

  /** Tables by their keys, as the catalog spells them; set by whoever has the catalog. */
  spelled: (schema: string, name: string) => Pick<Table, "schema" | "name" | "written"> | undefined = () => undefined;

  /** Whether RENAME TABLE gives several tables their names in one step. */
  readonly renamesTogether: boolean = false;

  /** Whether foreign keys that refer to a table by its name follow a rename, even one that frees the name of another. */
  readonly keysFollowNames: boolean = false;

  /** Whether CREATE VIEW and the like may stand among other statements. */
  readonly bareDefinitions: boolean = true;

  /** `IF EXISTS ` where the engine takes it: a restore tolerates what has never come about. */
  get ifThere(): string {
    return "IF EXISTS ";
  }

  dropColumn(table: Table, name: string): string {
    return `ALTER TABLE ${this.table(table)} DROP COLUMN ${this.ifThere}${this.column(table, name)}`;
  }

  /** What stands after ADD. */
  get addColumn(): string {
    return "COLUMN ";
  }

  /** Where a column stands among the others; null: always at the end. */
  columnPlace(_table: Table, _at: number): string | null {
    return null;
  }

  /** `IF EXISTS ` where a rename takes it. */
  protected readonly renameIfThere: string = "";

  renameTable(from: Table, to: Table): string {
    return `ALTER TABLE ${this.renameIfThere}${this.table(from)} RENAME TO ${this.name(to.written?.[to.written.length - 1] ?? to.name)}`;
  }

  renameColumn(table: Table, from: string, to: string): string {
    return `ALTER TABLE ${this.table(table)} RENAME COLUMN ${this.column(table, from)} TO ${this.name(to)}`;
  }

  dropConstraint(table: Table, name: string, _text: string): string | null {
    return `ALTER TABLE ${this.table(table)} DROP CONSTRAINT ${name}`;
  }

  addConstraint(table: Table, text: string): string | null {
    return `ALTER TABLE ${this.table(table)} ADD ${text}`;
  }

  dropIndex(_table: Table, name: { text: string; quoted: boolean }): string {
    return `DROP INDEX ${this.ifThere}${name.quoted ? this.quoted(name.text) : name.text}`;
  }

  /** Removes an object that the script has made; null: there is nothing to remove. */
  dropObject(object: CatalogObject): string | null {
    switch (object.object) {
      case "table":
        return `DROP TABLE IF EXISTS ${this.table(object)}`;
      case "view":
        return `DROP ${object.materialized ? "MATERIALIZED " : ""}VIEW IF EXISTS ${this.table({ ...object, written: null })}`;
      case "trigger":
        return `DROP TRIGGER IF EXISTS ${this.name(object.name)}`;
      case "routine":
        return object.kind === "package"
          ? `DROP PACKAGE ${this.name(object.name)}`
          : `DROP ${object.kind.toUpperCase()} IF EXISTS ${this.table({ ...object, written: null })}`;
      case "sequence":
        return `DROP SEQUENCE IF EXISTS ${this.table({ ...object, written: null })}`;
      default:
        return null;
    }
  }

  /** Gives a trigger the state back that it had; null where that cannot be said. */
  switchTrigger(_table: Table, _trigger: Trigger): string | null {
    return null;
  }

  /** Gives a column its old type back; what it held is set back afterwards. Null: the engine cannot. */
  retype(_table: Table, _now: Column, _before: Column): string[] | null {
    return null;
  }

  /** Gives a column its default and NOT NULL back; null: the engine cannot. */
  redefine(_table: Table, now: Column, before: Column): string[] | null {
    return now.required === before.required && now.default === before.default ? [] : null;
  }

  /** Lets numbering go on after the rows that have come back. */
  numbersOn(_table: Table): string[] {
    return [];
  }

  // ------------------------------------------------------------ running

  /** The change with an assertion on its row count that undoes it; null in dialects that cannot. */
  guarded(_change: string, _assertion: Assertion): string | null {
    return null;
  }

  /** Whether the assertion counts the rows whose values really change, and not those that are met. */
  readonly countsChanged: boolean = false;

  /** Whether cascades remove rows while the statement still runs, and not when it has ended. */
  readonly cascadesAtOnce: boolean = false;

  /** Whether the assertion counts the rows of all targets of one statement. */
  readonly countsAllTargets: boolean = false;

  /** Whether a statement of a restore commits what is open. */
  commits(_sql: string): boolean {
    return false;
  }

  /** Begins and ends a transaction. */
  get transaction(): { begin: string; commit: string } | null {
    return { begin: "BEGIN", commit: "COMMIT" };
  }

  /** The line by which a client program sends what stands above it; null: none is needed between statements. */
  readonly batchEnd: string | null = null;

  /** A statement as a client program takes it, with what ends it. */
  terminated(sql: string): string {
    if (this.#isForClient(sql)) return sql;
    return this.whole(sql) ?? (/;\s*$/.test(sql) ? sql : `${sql};`);
  }

  /** A line for the client program, which nothing ends. */
  #isForClient(sql: string): boolean {
    const line = sql.trim();
    return line.startsWith("\\") || directiveEnd(line, 0, this.dialect.lexical.client) === line.length;
  }

  /** A statement that holds semicolons of its own, with what ends it then; null: it is ended by one. */
  protected whole(_sql: string): string | null {
    return null;
  }

  /** Lines that make a client program stop at the first error. */
  get client(): readonly string[] {
    return [];
  }

  /** `structure`: the phase drops or renames tables. */
  frame(phase: Phase, transactional: boolean, head: readonly string[], _structure = false): PhaseFrame {
    const around = phase === "restore" && transactional ? this.transaction : null;
    return {
      note: null,
      client: this.client,
      head: around && around.begin !== "" ? [...head, around.begin] : head,
      foot: around ? [around.commit] : [],
    };
  }
}

/** Triggers as they are named, each with its table. */
export function byTable(triggers: readonly OwnTrigger[]): Map<Table, OwnTrigger[]> {
  const map = new Map<Table, OwnTrigger[]>();
  for (const one of triggers) map.set(one.table, [...(map.get(one.table) ?? []), one]);
  return map;
}
