import type { CatalogObject, Column, Table, Trigger } from "../../../catalog/model.ts";
import type { Kept, PutBack } from "../../../writing/kept.ts";
import { type Assertion, type Restoring, SqlWriter } from "../../../writing/writer.ts";

/** Types that cannot be compared, not even as texts. */
const INCOMPARABLE = /^(?:long|bfile|xmltype|json|sdo_geometry|anydata)/;

/** Oracle, after the SQL Language Reference. DDL commits, so what is filled in the middle of a change is made before. */
/** What SQL*Plus runs at a line with a slash, and not at a semicolon. */
const CODE =
  /^\s*(?:declare|begin|create\s+(?:or\s+replace\s+)?(?:(?:non)?editionable\s+)?(?:function|procedure|trigger|package|type))\b/i;

export class PlsqlWriter extends SqlWriter {
  override characters(text: string): string {
    return `LENGTH(${text})`;
  }

  override readonly today = "TRUNC(SYSDATE)";

  override readonly dateOrder: string = "NLS_DATE_FORMAT of the session decides how it is read";

  override date(year: string, month: string, day: string): string {
    return `DATE '${year}-${month}-${day}'`;
  }

  protected override whole(sql: string): string | null {
    return CODE.test(sql) ? `${sql.replace(/;?\s*$/, ";")}\n/` : null;
  }

  override readonly cascadesAtOnce = true;

  override readonly limits = false;

  override get client(): readonly string[] {
    return ["WHENEVER SQLERROR EXIT FAILURE ROLLBACK"];
  }

  override commits(sql: string): boolean {
    return /^(?:alter|create|drop|rename|begin)\b/i.test(sql);
  }

  override get transaction() {
    return { begin: "", commit: "COMMIT" };
  }

  override as(alias: string): string {
    return ` ${alias}`;
  }

  override copyProblem({ columns }: Table): string | null {
    const long = columns.find(({ type }) => /^long\b/.test(type));
    return long ? `its column ${long.name} is a LONG, which no query copies` : null;
  }

  override comparable({ type }: Column): boolean {
    return !INCOMPARABLE.test(type);
  }

  override equatable(column: Column): boolean {
    return this.comparable(column) && !/^(?:clob|nclob|blob)$/.test(column.type);
  }

  override contentDiffers(a: string, b: string, column: Column): string {
    if (!/^(?:clob|nclob|blob)$/.test(column.type)) return this.differs(a, b);
    return `(DBMS_LOB.COMPARE(${a}, ${b}) <> 0 OR (${a} IS NULL AND ${b} IS NOT NULL) OR (${a} IS NOT NULL AND ${b} IS NULL))`;
  }

  override stored(value: string, column: Column | undefined): string {
    if (column?.type !== "number" || column.typeArgs.length === 0) return value;
    return `CAST(${value} AS NUMBER(${column.typeArgs.join(", ")}))`;
  }

  override first(rows: number, list: string, rest: string): string {
    return `SELECT ${list}\n${rest}\nFETCH FIRST ${rows} ROWS ONLY`;
  }

  override image(name: string, table: Table, _only: boolean, columns: readonly string[] | null) {
    const own = this.name(name);
    const list = columns ? this.columns("t", table, columns) : "t.*";
    return {
      name: own,
      before: [this.copy(own, list, `FROM ${this.table(table)} t\nWHERE 1 = 0`)],
      take: [`INSERT INTO ${own}\nSELECT ${list}\nFROM ${this.table(table)} t`],
      drop: [`DELETE FROM ${own}`],
    };
  }

  override updatable(table: Table): string[] {
    return this.writable(table).filter((name) => table.columns.find((one) => one.name === name)?.identity !== "always");
  }

  override setBack(kept: Kept, columns: readonly string[]): string {
    const { table, copy } = kept;
    const match = this.matchKept("t", kept);
    return `UPDATE ${this.table(table)} t\nSET (${this.columns("", table, columns)}) = (SELECT ${this.columns("b", table, columns)} FROM ${copy} b WHERE ${match})\nWHERE EXISTS (SELECT 1 FROM ${copy} b WHERE ${match}${this.andDiffers("t", kept, columns)})`;
  }

  override restoring({ triggers, circles }: PutBack, steps: readonly string[]): Restoring {
    const off: string[] = [];
    const on: string[] = [];
    for (const { table, trigger } of triggers) {
      off.push(`ALTER TRIGGER ${this.beside(table, trigger.name)} DISABLE`);
      on.push(`ALTER TRIGGER ${this.beside(table, trigger.name)} ENABLE`);
    }
    for (const { table, key } of circles) {
      if (key.name === null) continue;
      off.push(`ALTER TABLE ${this.table(table)} DISABLE CONSTRAINT ${this.name(key.name)}`);
      on.push(`ALTER TABLE ${this.table(table)} ENABLE CONSTRAINT ${this.name(key.name)}`);
    }
    if (off.length === 0) return { statements: [...steps], transactional: true };
    // DDL commits: whatever becomes of the rows, the triggers are on again at the end.
    const again = on.map((one) => `  EXECUTE IMMEDIATE '${one.replaceAll("'", "''")}';`).join("\n");
    return {
      statements: [
        ...off,
        `BEGIN\n${steps.map((one) => `${one};`).join("\n")}\n  COMMIT;\n${again}\nEXCEPTION\n  WHEN OTHERS THEN\n  ROLLBACK;\n${again}\n  RAISE;\nEND`,
      ],
      transactional: false,
    };
  }

  override get ifThere(): string {
    return "";
  }

  override get addColumn(): string {
    return "";
  }

  override dropObject(object: CatalogObject): string | null {
    return super.dropObject(object)?.replace(" IF EXISTS", "") ?? null;
  }

  override switchTrigger(table: Table, { name, enabled }: Trigger): string {
    return `ALTER TRIGGER ${this.beside(table, name)} ${enabled === "off" ? "DISABLE" : "ENABLE"}`;
  }

  override redefine(table: Table, now: Column, before: Column): string[] {
    const modify = `ALTER TABLE ${this.table(table)} MODIFY ${this.column(table, before.name)}`;
    const steps: string[] = [];
    if (now.default !== before.default) steps.push(`${modify} DEFAULT ${before.default ?? "NULL"}`);
    if (now.required !== before.required) steps.push(`${modify} ${before.required ? "NOT NULL" : "NULL"}`);
    return steps;
  }

  override guarded(change: string, { expected, line }: Assertion): string {
    return `DECLARE
  cautela_expected NUMBER;
BEGIN
  SELECT ${expected} INTO cautela_expected FROM dual;
${change};
  IF SQL%ROWCOUNT <> cautela_expected THEN
    RAISE_APPLICATION_ERROR(-20000, 'line ${line}: expected ' || cautela_expected || ' rows, changed ' || SQL%ROWCOUNT);
  END IF;
END`;
  }
}
