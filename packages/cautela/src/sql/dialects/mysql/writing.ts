import type { Column, Table } from "../../../catalog/model.ts";
import { columnDefinition } from "../../../writing/definitions.ts";
import type { Kept, OwnTrigger, PutBack } from "../../../writing/kept.ts";
import { type Assertion, type Restoring, SqlWriter } from "../../../writing/writer.ts";

const TEXT = /^(?:varchar|char|text|tinytext|mediumtext|longtext|enum|set|json|nvarchar|nchar)/;

/**
 * MySQL: triggers cannot be switched off, so a restore drops those that would disturb it and creates them again, whatever
 * becomes of the rows; keys are checked row by row, so those that form a circle are not checked meanwhile.
 */
export class MysqlWriter extends SqlWriter {
  override readonly dateOrder: string = "dates are read with the year first here, so this is another date, or none";

  override readonly renamesTogether = true;

  protected override whole(sql: string): string | null {
    return sql.includes(";") ? `DELIMITER //\n${sql}//\nDELIMITER ;` : null;
  }

  override quoted(text: string): string {
    return `\`${text.replaceAll("`", "``")}\``;
  }

  override get ifThere(): string {
    return "";
  }

  override readonly recreatesTriggers = true;

  override readonly cascadesAtOnce = true;

  override readonly assignsInOrder = true;

  override commits(sql: string): boolean {
    return /^(?:alter|create|drop|rename|call|begin)\b/i.test(sql);
  }

  override get transaction() {
    return { begin: "START TRANSACTION", commit: "COMMIT" };
  }

  override differs(a: string, b: string): string {
    return `NOT (${a} <=> ${b})`;
  }

  // Collations tell neither case nor, mostly, trailing blanks apart; what counts as changed does.
  override altered(text: string, made: string): string {
    return `CAST(${text} AS BINARY) <> CAST(${made} AS BINARY)`;
  }

  override givenDiffers(has: string, given: string, column: Column | undefined): string {
    if (!column || !TEXT.test(column.type)) return this.differs(has, given);
    // A literal may come in another character set than the column's; its ASCII is the same in all of them.
    const plain = !/[^ -~\s]/.test(given);
    const bytes = (value: string): string => `CAST(${plain ? value : `CONVERT(${value} USING utf8mb4)`} AS BINARY)`;
    return this.differs(bytes(has), bytes(given));
  }

  override contentDiffers(a: string, b: string, column: Column): string {
    return TEXT.test(column.type) ? this.differs(`CAST(${a} AS BINARY)`, `CAST(${b} AS BINARY)`) : this.differs(a, b);
  }

  override stored(value: string, column: Column | undefined): string {
    if (column?.type !== "decimal") return value;
    return `CAST(${value} AS DECIMAL${column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : ""})`;
  }

  // A temporary table does not commit what is open.
  protected override readonly scratchDropped = "TEMPORARY TABLE";

  protected override scratch(name: string, list: string, rest: string): string {
    return `CREATE TEMPORARY TABLE ${name} AS\nSELECT ${list}\n${rest}`;
  }

  protected override inserting(table: Table, insert: string): string[] {
    if (!table.columns.some(({ identity }) => identity !== null)) return [insert];
    // A number 0 would be taken for "the next one".
    return [
      "SET @cautela_mode = @@sql_mode, sql_mode = CONCAT(@@sql_mode, ',NO_AUTO_VALUE_ON_ZERO')",
      insert,
      "SET sql_mode = @cautela_mode",
    ];
  }

  override setBack(kept: Kept, columns: readonly string[]): string {
    const { table, copy } = kept;
    const sets = columns.map((one) => `t.${this.column(table, one)} = b.${this.column(table, one)}`);
    // What is set to its own value is not stamped.
    for (const { name, onUpdate } of table.columns)
      if (onUpdate !== null && !columns.includes(name))
        sets.push(`t.${this.column(table, name)} = t.${this.column(table, name)}`);
    const differs = this.andDiffers("t", kept, columns).replace(/^\n {2}AND /, "\nWHERE ");
    return `UPDATE ${this.table(table)} AS t\nINNER JOIN ${copy} AS b ON ${this.matchKept("t", kept)}\nSET ${sets.join(",\n    ")}${differs}`;
  }

  override collation(name: string): string {
    return name;
  }

  override identity(): string {
    return "AUTO_INCREMENT";
  }

  override columnPlace(table: Table, at: number): string {
    return at === 0 ? " FIRST" : ` AFTER ${this.column(table, table.columns[at - 1].name)}`;
  }

  override dropIndex(table: Table, name: { text: string; quoted: boolean }): string {
    return `${super.dropIndex(table, name)} ON ${this.table(table)}`;
  }

  override dropConstraint(table: Table, name: string, text: string): string {
    const what = /^CONSTRAINT \S+ FOREIGN/.test(text)
      ? "FOREIGN KEY"
      : /^CONSTRAINT \S+ UNIQUE/.test(text)
        ? "INDEX"
        : "CONSTRAINT";
    return `ALTER TABLE ${this.table(table)} DROP ${what} ${name}`;
  }

  override retype(table: Table, _now: Column, before: Column): string[] {
    return [`ALTER TABLE ${this.table(table)} MODIFY COLUMN ${columnDefinition(this, table, before)}`];
  }

  override redefine(table: Table, now: Column, before: Column): string[] {
    return now.required === before.required && now.default === before.default ? [] : this.retype(table, now, before);
  }

  override restoring({ triggers, circles }: PutBack, steps: readonly string[]): Restoring {
    const before = circles.length > 0 ? ["SET @cautela_checks = @@foreign_key_checks, foreign_key_checks = 0"] : [];
    const after = circles.length > 0 ? ["SET foreign_key_checks = @cautela_checks"] : [];
    if (triggers.length === 0) return { statements: [...before, ...steps, ...after], transactional: true };
    return {
      statements: [
        ...before,
        ...triggers.map((one) => `DROP TRIGGER ${this.triggerName(one)}`),
        ...this.whatever(steps),
        ...triggers.map(({ trigger }) => (trigger.body ?? "").replace(/[;\s]+$/, "")),
        ...this.saying(),
        ...after,
      ],
      transactional: false,
    };
  }

  /** The name of a trigger, in the schema of its table. */
  protected triggerName({ table, trigger }: OwnTrigger): string {
    return this.beside(table, trigger.name);
  }

  /** Steps in one transaction that never ends the client: the triggers have to be created again. */
  protected whatever(steps: readonly string[]): string[] {
    return [
      "DROP PROCEDURE IF EXISTS cautela_restore",
      `CREATE PROCEDURE cautela_restore()\n${this.handled(steps, "BEGIN")}`,
      "CALL cautela_restore()",
      "DROP PROCEDURE cautela_restore",
    ];
  }

  protected handled(steps: readonly string[], begin: string): string {
    return `${begin}
  DECLARE EXIT HANDLER FOR SQLEXCEPTION
  BEGIN
    GET DIAGNOSTICS CONDITION 1 @cautela_failure = MESSAGE_TEXT;
    ROLLBACK;
  END;
  SET @cautela_failure = NULL;
  START TRANSACTION;
${steps.map((one) => `${one};`).join("\n")}
  COMMIT;
END`;
  }

  /** Says what went wrong in {@link whatever}, when the triggers are there again. */
  protected saying(): string[] {
    return ["SELECT COALESCE(@cautela_failure, 'restored') AS outcome"];
  }
}

/** MariaDB: as MySQL, with blocks outside of routines. */
export class MariadbWriter extends MysqlWriter {
  override get ifThere(): string {
    return "IF EXISTS ";
  }

  override get valuesQuery() {
    return "bare" as const;
  }

  override readonly countsChanged = true;

  override readonly countsAllTargets = true;

  protected override whatever(steps: readonly string[]): string[] {
    return [this.handled(steps, "BEGIN NOT ATOMIC")];
  }

  protected override saying(): string[] {
    return [
      "BEGIN NOT ATOMIC\n  IF @cautela_failure IS NOT NULL THEN\n    SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = @cautela_failure;\n  END IF;\nEND",
    ];
  }

  override guarded(change: string, { expected, changing, inside, line }: Assertion): string {
    return `BEGIN NOT ATOMIC
  DECLARE cautela_expected bigint DEFAULT ${expected};
  DECLARE cautela_changing bigint DEFAULT ${changing ?? "cautela_expected"};
  DECLARE cautela_changed bigint;
${inside ? "" : "  START TRANSACTION;\n"}${change};
  SET cautela_changed = ROW_COUNT();
  IF cautela_changed <> cautela_expected AND cautela_changed <> cautela_changing THEN
    ROLLBACK;
    SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'line ${line}: another number of rows than expected; rolled back';
  END IF;
${inside ? "" : "  COMMIT;\n"}END`;
  }
}
