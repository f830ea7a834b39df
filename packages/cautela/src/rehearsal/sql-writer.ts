import type { Column, Table, Trigger } from "../catalog/model.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";
import { WORDS } from "../sql/keywords.ts";

/** How one dialect writes the pieces of a rehearsal. */
export class SqlWriter {
  readonly dialect: Dialect;
  readonly #countUpTo: number | null;

  constructor(dialect: Dialect, countUpTo: number | null = null) {
    this.dialect = dialect;
    this.#countUpTo = countUpTo;
  }

  /** A count under a name; `rest` is the query from FROM on. A capped one stops behind the number that was asked for. */
  count(name: string, rest: string, capped: boolean): string {
    if (!capped || this.#countUpTo === null || !/^(?:postgresql|mysql|mariadb|sqlite)$/.test(this.dialect.id))
      return `SELECT COUNT(*) AS ${name}\n${rest}`;
    return `SELECT COUNT(*) AS ${name}\nFROM (SELECT 1 AS one ${rest}\nLIMIT ${this.#countUpTo})${this.as("counted")}`;
  }

  /** A name, quoted where it has to be. */
  name(text: string): string {
    const { id, grammar, wordClass } = this.dialect;
    const plain =
      grammar.looseNames || grammar.fold === "keep"
        ? /^[A-Za-z_][A-Za-z0-9_]*$/
        : grammar.fold === "upper"
          ? /^[A-Z_][A-Z0-9_$#]*$/
          : /^[a-z_][a-z0-9_]*$/;
    const word = WORDS.indexOf(text.toUpperCase());
    if (plain.test(text) && (word <= 0 || wordClass[word] < 3)) return text;
    switch (id) {
      case "mysql":
      case "mariadb":
        return `\`${text.replaceAll("`", "``")}\``;
      case "tsql":
      case "jet":
        return `[${text.replaceAll("]", "]]")}]`;
      default:
        return `"${text.replaceAll('"', '""')}"`;
    }
  }

  names(list: readonly string[]): string {
    return list.map((one) => this.name(one)).join(", ");
  }

  /** The name of a table with its schema, where that is not the one that goes without saying. */
  table(table: Pick<Table, "schema" | "name">): string {
    const { defaultSchema } = this.dialect.grammar;
    return table.schema === "" || table.schema === "main" || table.schema === defaultSchema
      ? this.name(table.name)
      : `${this.name(table.schema)}.${this.name(table.name)}`;
  }

  /** Columns of an alias: `b.berth_id, b.code`. */
  columns(alias: string, list: readonly string[]): string {
    return list.map((one) => `${alias}.${this.name(one)}`).join(", ");
  }

  /** `a.key = b.key AND …`. */
  match(a: string, b: string, key: readonly string[]): string {
    return key.map((one) => `${a}.${this.name(one)} = ${b}.${this.name(one)}`).join(" AND ");
  }

  /** An alias behind a table. */
  as(alias: string): string {
    return this.dialect.id === "plsql" ? ` ${alias}` : ` AS ${alias}`;
  }

  /** Whether two values differ, NULLs taken for equal. */
  differs(a: string, b: string): string {
    switch (this.dialect.id) {
      case "postgresql":
        return `${a} IS DISTINCT FROM ${b}`;
      case "mysql":
      case "mariadb":
        return `NOT (${a} <=> ${b})`;
      case "sqlite":
        return `${a} IS NOT ${b}`;
      default:
        return `(${a} <> ${b} OR (${a} IS NULL AND ${b} IS NOT NULL) OR (${a} IS NOT NULL AND ${b} IS NULL))`;
    }
  }

  /** CASE for one of two values; jet has IIF only. */
  either(condition: string, yes: string, no: string): string {
    return this.dialect.id === "jet"
      ? `IIF(${condition}, ${yes}, ${no})`
      : `CASE WHEN ${condition} THEN ${yes} ELSE ${no} END`;
  }

  /** A value as the column will hold it: rounded to its decimals, where the engine rounds. */
  stored(value: string, column: Column | undefined): string {
    if (!column || column.array) return value;
    const args = column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : "";
    switch (this.dialect.id) {
      case "postgresql":
        return /^(?:numeric|integer|bigint|smallint|date|timestamp)$/.test(column.type)
          ? `CAST(${value} AS ${column.type}${args})`
          : value;
      case "mysql":
      case "mariadb":
        return column.type === "decimal" ? `CAST(${value} AS DECIMAL${args})` : value;
      case "tsql":
        return /^(?:decimal|numeric)$/.test(column.type) ? `CAST(${value} AS ${column.type}${args})` : value;
      case "plsql":
        return column.type === "number" && args !== "" ? `CAST(${value} AS NUMBER${args})` : value;
      default:
        return value;
    }
  }

  /** A SELECT that ends after so many rows. */
  first(rows: number, list: string, rest: string): string {
    switch (this.dialect.id) {
      case "tsql":
      case "jet":
        return `SELECT TOP ${this.dialect.id === "tsql" ? `(${rows})` : rows} ${list}\n${rest}`;
      case "plsql":
        return `SELECT ${list}\n${rest}\nFETCH FIRST ${rows} ROWS ONLY`;
      default:
        return `SELECT ${list}\n${rest}\nLIMIT ${rows}`;
    }
  }

  /** A new table from a query; `head` stands before SELECT (WITH …). */
  copy(into: string, list: string, rest: string, head = ""): string {
    if (this.dialect.id === "tsql" || this.dialect.id === "jet")
      return `${head}SELECT ${list}\nINTO ${this.name(into)}\n${rest}`;
    return `CREATE TABLE ${this.name(into)} AS\n${head}SELECT ${list}\n${rest}`;
  }

  /** Columns that take part in a copy back: not those that the engine computes. */
  writable(table: Table): string[] {
    return table.columns
      .filter(
        ({ generated, type }) => !generated && !(this.dialect.id === "tsql" && /^(?:timestamp|rowversion)$/.test(type)),
      )
      .map(({ name }) => name);
  }

  /** Puts rows of a copy back: all of them, or those that are missing. */
  putBack(table: Table, from: string, missingBy: readonly string[] | null): string[] {
    const columns = this.writable(table);
    const target = this.table(table);
    const identity = table.columns.some((column) => column.identity !== null);
    const overriding =
      this.dialect.id === "postgresql" && table.columns.some((column) => column.identity === "always")
        ? "\nOVERRIDING SYSTEM VALUE"
        : "";
    const where = missingBy
      ? `\nWHERE NOT EXISTS (SELECT 1 FROM ${target}${this.as("t")} WHERE ${this.match("t", "b", missingBy)})`
      : "";
    const insert = `INSERT INTO ${target} (${this.names(columns)})${overriding}\nSELECT ${this.columns("b", columns)}\nFROM ${this.name(from)}${this.as("b")}${where}`;
    if (this.dialect.id === "tsql" && identity)
      return [`SET IDENTITY_INSERT ${target} ON`, insert, `SET IDENTITY_INSERT ${target} OFF`];
    return [insert];
  }

  /** Gives columns their values from a copy back, for the rows that it holds. */
  setBack(table: Table, from: string, key: readonly string[], columns: readonly string[]): string {
    const target = this.table(table);
    const copy = this.name(from);
    if (this.dialect.id === "jet")
      return `UPDATE ${target} AS t INNER JOIN ${copy} AS b ON ${this.match("t", "b", key)}\nSET ${columns.map((one) => `t.${this.name(one)} = b.${this.name(one)}`).join(", ")}`;
    const sets = columns.map(
      (one) =>
        `${this.name(one)} = (SELECT b.${this.name(one)} FROM ${copy}${this.as("b")} WHERE ${this.matchOuter(target, key)})`,
    );
    return `UPDATE ${target}\nSET ${sets.join(",\n    ")}\nWHERE EXISTS (SELECT 1 FROM ${copy}${this.as("b")} WHERE ${this.matchOuter(target, key)})`;
  }

  /** `b.key = table.key`, for a subquery inside of a change of the table. */
  matchOuter(target: string, key: readonly string[]): string {
    return key.map((one) => `b.${this.name(one)} = ${target}.${this.name(one)}`).join(" AND ");
  }

  /** Takes away rows whose keys a copy does not hold. */
  removeNew(table: Table, from: string, key: readonly string[]): string {
    const target = this.table(table);
    return `DELETE FROM ${target}\nWHERE NOT EXISTS (SELECT 1 FROM ${this.name(from)}${this.as("b")} WHERE ${this.matchOuter(target, key)})`;
  }

  /** Switches the triggers of a table off, or on again; where the engine cannot, they are taken away and made anew. */
  triggers(table: Table, triggers: readonly Trigger[], on: boolean): string[] {
    const target = this.table(table);
    const word = on ? "ENABLE" : "DISABLE";
    switch (this.dialect.id) {
      case "postgresql":
        return [`ALTER TABLE ${target} ${word} TRIGGER USER`];
      case "tsql":
        return [`${word} TRIGGER ALL ON ${target}`];
      case "plsql":
        return [`ALTER TABLE ${target} ${word} ALL TRIGGERS`];
      case "jet":
        return [];
      default:
        return triggers.map(({ name, body }) => (on ? (body ?? "") : `DROP TRIGGER ${this.name(name)}`));
    }
  }

  /**
   * The change with an assertion on its row count that rolls it back; null in dialects that cannot.
   * `expected` is a number or a query for one. MariaDB counts rows that are met or rows whose values really change, as
   * the client has asked for when it connected: `changing` is the second number.
   */
  guarded(change: string, expected: string, shown: string, changing = expected): string | null {
    switch (this.dialect.id) {
      case "postgresql":
        return `DO $check$
DECLARE
  expected bigint := ${expected};
  changed bigint;
BEGIN
  ${indented(change)};
  GET DIAGNOSTICS changed = ROW_COUNT;
  IF changed <> expected THEN
    RAISE EXCEPTION 'expected % rows of ${shown}, changed %', expected, changed;
  END IF;
END
$check$;`;
      case "mariadb":
        return `BEGIN NOT ATOMIC
  DECLARE expected bigint DEFAULT ${expected};
  DECLARE changing bigint DEFAULT ${changing};
  DECLARE changed bigint;
  START TRANSACTION;
  ${indented(change)};
  SET changed = ROW_COUNT();
  IF changed <> expected AND changed <> changing THEN
    ROLLBACK;
    SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'another number of rows than expected; rolled back';
  END IF;
  COMMIT;
END`;
      case "tsql":
        return `DECLARE @expected int = ${expected};
DECLARE @changed int;
BEGIN TRANSACTION;
${change};
SET @changed = @@ROWCOUNT;
IF @changed <> @expected
BEGIN
  ROLLBACK TRANSACTION;
  THROW 50000, 'another number of rows than expected; rolled back', 1;
END;
COMMIT TRANSACTION;`;
      case "plsql":
        return `DECLARE
  expected NUMBER;
BEGIN
  SELECT ${expected} INTO expected FROM dual;
  ${indented(change)};
  IF SQL%ROWCOUNT <> expected THEN
    RAISE_APPLICATION_ERROR(-20000, 'expected ' || expected || ' rows, changed ' || SQL%ROWCOUNT);
  END IF;
END;
/`;
      case "sqlite":
        return `BEGIN;
CREATE TEMP TABLE expected_rows AS SELECT ${expected} AS n;
CREATE TEMP TABLE row_guard (ok integer CHECK (ok));
${change};
INSERT INTO row_guard SELECT changes() = n FROM expected_rows;
DROP TABLE row_guard;
DROP TABLE expected_rows;
COMMIT;`;
      default:
        return null;
    }
  }
}

function indented(text: string): string {
  return text.replace(/\n/g, "\n  ");
}
