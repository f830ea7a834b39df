import type { Column, Table, Trigger } from "../../../catalog/model.ts";
import type { Added, Kept, PutBack } from "../../../writing/kept.ts";
import { type Assertion, byTable, type Restoring, SqlWriter } from "../../../writing/writer.ts";

const CHARACTERS = /^(?:n?varchar|n?char|sysname)/;

/** T-SQL, after the Transact-SQL reference. */
export class TsqlWriter extends SqlWriter {
  override characters(text: string): string {
    return `LEN(${text})`;
  }

  override readonly today = "CAST(GETDATE() AS date)";

  override date(year: string, month: string, day: string): string {
    return `'${year}${month}${day}'`;
  }

  override readonly batchEnd = "GO";

  override quoted(text: string): string {
    return `[${text.replaceAll("]", "]]")}]`;
  }

  override readonly headFirst = true;

  override readonly limits = false;

  override get client(): readonly string[] {
    return ["SET XACT_ABORT ON;"];
  }

  override get transaction() {
    return { begin: "BEGIN TRANSACTION", commit: "COMMIT TRANSACTION" };
  }

  // Most collations tell neither case nor trailing blanks apart.
  override altered(text: string, made: string): string {
    return `CAST(${text} AS varbinary(max)) <> CAST(${made} AS varbinary(max))`;
  }

  override givenDiffers(has: string, given: string, column: Column | undefined): string {
    if (!column || !CHARACTERS.test(column.type)) return this.differs(has, given);
    const whole = (value: string): string => `CAST(${value} AS nvarchar(max)) COLLATE Latin1_General_100_BIN2`;
    return `EXISTS (SELECT ${whole(has)} EXCEPT SELECT ${whole(given)})`;
  }

  override contentDiffers(a: string, b: string, column: Column): string {
    const whole = (value: string): string => {
      if (/^(?:n?text|xml|json)$/.test(column.type)) return `CAST(${value} AS nvarchar(max))`;
      if (/^(?:image|rowversion|timestamp)$/.test(column.type)) return `CAST(${value} AS varbinary(max))`;
      if (/^(?:geography|geometry)$/.test(column.type)) return `${value}.STAsBinary()`;
      return CHARACTERS.test(column.type) ? `${value} COLLATE Latin1_General_100_BIN2` : value;
    };
    // EXCEPT takes NULLs for equal.
    return `EXISTS (SELECT ${whole(a)} EXCEPT SELECT ${whole(b)})`;
  }

  override equatable({ type }: Column): boolean {
    return !/^(?:n?text|xml|json|image|geography|geometry)$/.test(type);
  }

  override stored(value: string, column: Column | undefined): string {
    if (!column || !/^(?:decimal|numeric)$/.test(column.type)) return value;
    return `CAST(${value} AS ${column.type}${column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : ""})`;
  }

  override first(rows: number, list: string, rest: string): string {
    return `SELECT TOP (${rows}) ${list}\n${rest}`;
  }

  override copy(into: string, list: string, rest: string, head = ""): string {
    return `${head}SELECT ${list}\nINTO ${into}\n${rest}`;
  }

  /** SELECT INTO takes the identity and the row version along; a copy that is filled later can hold neither. */
  override copied(table: Table, alias: string): string {
    return table.columns
      .map((column) => {
        const name = this.column(table, column.name);
        if (/^(?:timestamp|rowversion)$/.test(column.type)) return `CAST(${alias}.${name} AS binary(8)) AS ${name}`;
        if (column.identity === null) return `${alias}.${name}`;
        const args = column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : "";
        return `CAST(${alias}.${name} AS ${column.type}${args}) AS ${name}`;
      })
      .join(", ");
  }

  override copiedColumns(table: Table, alias: string): string {
    return this.copied(table, alias);
  }

  protected override scratchName(name: string): string {
    return this.quoted(`#${name}`);
  }

  protected override scratch(name: string, list: string, rest: string): string {
    return `SELECT ${list}\nINTO ${name}\n${rest}`;
  }

  override writable(table: Table): string[] {
    return table.columns
      .filter(({ generated, type }) => !generated && !/^(?:timestamp|rowversion)$/.test(type))
      .map(({ name }) => name);
  }

  override updatable(table: Table): string[] {
    return this.writable(table).filter((name) => table.columns.find((one) => one.name === name)?.identity === null);
  }

  protected override inserting(table: Table, insert: string): string[] {
    if (!table.columns.some(({ identity }) => identity !== null)) return [insert];
    const target = this.table(table);
    return [`SET IDENTITY_INSERT ${target} ON`, insert, `SET IDENTITY_INSERT ${target} OFF`];
  }

  override setBack(kept: Kept, columns: readonly string[]): string {
    const { table, copy } = kept;
    const sets = columns.map((one) => `${this.column(table, one)} = b.${this.column(table, one)}`);
    return `UPDATE t\nSET ${sets.join(",\n    ")}\nFROM ${this.table(table)} AS t\nINNER JOIN ${copy} AS b ON ${this.matchKept("t", kept)}${this.andDiffers("t", kept, columns).replace(/^\n {2}AND /, "\nWHERE ")}`;
  }

  override removeAdded({ table, list, key }: Added): string {
    return `DELETE t\nFROM ${this.table(table)} AS t\nINNER JOIN ${list} AS b ON ${this.match("b", "t", table, key)}`;
  }

  override restoring({ triggers, circles }: PutBack, steps: readonly string[]): Restoring {
    const off: string[] = [];
    const on: string[] = [];
    for (const [table, own] of byTable(triggers)) {
      const names = own.map(({ trigger }) => this.name(trigger.name)).join(", ");
      off.push(`ALTER TABLE ${this.table(table)} DISABLE TRIGGER ${names}`);
      on.push(`ALTER TABLE ${this.table(table)} ENABLE TRIGGER ${names}`);
    }
    for (const { table, key } of circles) {
      if (key.name === null) continue;
      off.push(`ALTER TABLE ${this.table(table)} NOCHECK CONSTRAINT ${this.name(key.name)}`);
      on.push(`ALTER TABLE ${this.table(table)} WITH CHECK CHECK CONSTRAINT ${this.name(key.name)}`);
    }
    return { statements: [...off, ...steps, ...on], transactional: true };
  }

  override readonly bareDefinitions = false;

  override get addColumn(): string {
    return "";
  }

  override identity(): string {
    return "IDENTITY";
  }

  override renameTable(from: Table, to: Table): string {
    return `EXEC sp_rename N'${this.table(from).replaceAll("'", "''")}', N'${(to.written?.[to.written.length - 1] ?? to.name).replaceAll("'", "''")}'`;
  }

  override renameColumn(table: Table, from: string, to: string): string {
    const path = `${this.table(table)}.${this.column(table, from)}`.replaceAll("'", "''");
    return `EXEC sp_rename N'${path}', N'${to.replaceAll("'", "''")}', N'COLUMN'`;
  }

  override dropIndex(table: Table, name: { text: string; quoted: boolean }): string {
    return `${super.dropIndex(table, name)} ON ${this.table(table)}`;
  }

  override switchTrigger(table: Table, { name, enabled }: Trigger): string {
    return `ALTER TABLE ${this.table(table)} ${enabled === "off" ? "DISABLE" : "ENABLE"} TRIGGER ${this.name(name)}`;
  }

  override retype(table: Table, _now: Column, before: Column): string[] {
    return [
      `ALTER TABLE ${this.table(table)} ALTER COLUMN ${this.column(table, before.name)} ${this.typeOf(before)} NULL`,
    ];
  }

  override redefine(table: Table, now: Column, before: Column): string[] | null {
    if (now.default !== before.default) return null;
    const type = this.typeOf(before);
    return before.required
      ? [`ALTER TABLE ${this.table(table)} ALTER COLUMN ${this.column(table, before.name)} ${type} NOT NULL`]
      : [];
  }

  override guarded(change: string, { expected, inside, line }: Assertion): string {
    return `DECLARE @cautela_expected_${line} bigint = ${expected};
DECLARE @cautela_changed_${line} bigint;
${inside ? "" : "BEGIN TRANSACTION;\n"}${change};
SET @cautela_changed_${line} = @@ROWCOUNT;
IF @cautela_changed_${line} <> @cautela_expected_${line}
BEGIN
  ROLLBACK TRANSACTION;
  THROW 50000, 'line ${line}: another number of rows than expected; rolled back', 1;
END${inside ? "" : ";\nCOMMIT TRANSACTION"}`;
  }
}
