import type { CatalogObject, Column, Table } from "../../../catalog/model.ts";
import type { Added, Kept, PutBack } from "../../../writing/kept.ts";
import { RESERVED_BY_JET } from "../../../writing/reserved-names.ts";
import { type Restoring, SqlWriter } from "../../../writing/writer.ts";

/** The SQL of Jet files: one statement at a time, no transactions of its own, no triggers. */
export class JetWriter extends SqlWriter {
  override characters(text: string): string {
    return `Len(${text})`;
  }

  override readonly today = "Date()";

  override date(year: string, month: string, day: string): string {
    return `#${year}-${month}-${day}#`;
  }

  override truth(value: boolean): string {
    return value ? "True" : "False";
  }

  override coalesce(a: string, b: string): string {
    return `IIf(${a} IS NULL, ${b}, ${a})`;
  }

  override quoted(text: string): string {
    return `[${text}]`;
  }

  override name(text: string): string {
    return RESERVED_BY_JET.has(text.toLowerCase()) ? this.quoted(text) : super.name(text);
  }

  override readonly limits = false;

  override commits(): boolean {
    return true;
  }

  override get transaction() {
    return null;
  }

  override readonly hasWith = false;

  override copyProblem({ columns }: Table): string | null {
    const held = columns.find(({ type }) => /^(?:attachment|complex)/.test(type));
    return held ? `its column ${held.name} holds several values, which no query copies` : null;
  }

  override comparable({ type }: Column): boolean {
    return !/^(?:longbinary|oleobject|image|attachment|complex|general)/.test(type);
  }

  override either(condition: string, yes: string, no: string): string {
    return `IIF(${condition}, ${yes}, ${no})`;
  }

  override altered(text: string, made: string): string {
    return `StrComp(${text}, ${made}, 0) <> 0`;
  }

  override givenDiffers(has: string, given: string, column: Column | undefined): string {
    return column ? this.contentDiffers(has, given, column) : this.differs(has, given);
  }

  override contentDiffers(a: string, b: string, column: Column): string {
    if (!/^(?:text|char|varchar|memo|longtext|longchar|string|alphanumeric|long text)/.test(column.type))
      return this.differs(a, b);
    // Texts compare without regard to case; StrComp with 0 tells them apart, and gives NULL for NULL.
    return `(StrComp(${a}, ${b}, 0) <> 0 OR (${a} IS NULL AND ${b} IS NOT NULL) OR (${a} IS NOT NULL AND ${b} IS NULL))`;
  }

  override first(rows: number, list: string, rest: string): string {
    return `SELECT TOP ${rows} ${list}\n${rest}`;
  }

  override copy(into: string, list: string, rest: string, head = ""): string {
    return `${head}SELECT ${list}\nINTO ${into}\n${rest}`;
  }

  protected override scratch(name: string, list: string, rest: string): string {
    return this.copy(name, list, rest);
  }

  override updatable(table: Table): string[] {
    return this.writable(table).filter((name) => table.columns.find((one) => one.name === name)?.identity === null);
  }

  override setBack(kept: Kept, columns: readonly string[]): string {
    const { table, copy } = kept;
    const sets = columns.map((one) => `t.${this.column(table, one)} = b.${this.column(table, one)}`);
    const differs = this.andDiffers("t", kept, columns).replace(/^\n {2}AND /, "\nWHERE ");
    return `UPDATE ${this.table(table)} AS t INNER JOIN ${copy} AS b ON ${this.matchKept("t", kept)}\nSET ${sets.join(", ")}${differs}`;
  }

  override removeAdded({ table, list, key }: Added): string {
    return `DELETE t.*\nFROM ${this.table(table)} AS t\nWHERE EXISTS (SELECT 1 FROM ${list} AS b WHERE ${this.match("b", "t", table, key)})`;
  }

  override dropObject(object: CatalogObject): string | null {
    return object.object === "table" ? `DROP TABLE ${this.table(object)}` : null;
  }

  override get ifThere(): string {
    return "";
  }

  override identity(): string {
    return "";
  }

  override dropIndex(table: Table, name: { text: string; quoted: boolean }): string {
    return `${super.dropIndex(table, name)} ON ${this.table(table)}`;
  }

  override restoring(_putBack: PutBack, steps: readonly string[]): Restoring {
    return { statements: [...steps], transactional: false };
  }
}
