import { keyParts } from "../../../catalog/keys.ts";
import type { CatalogObject, Column, Table, Trigger } from "../../../catalog/model.ts";
import type { Circle, PutBack } from "../../../writing/kept.ts";
import { type Assertion, byTable, type Restoring, SqlWriter } from "../../../writing/writer.ts";

/** Types without an equality of their own, or one that compares areas. */
const UNEQUATABLE = /^(?:json|xml|point|box|circle|line|lseg|path|polygon|pg_snapshot|txid_snapshot|jsonpath)$/;

/** Types whose values are equal only when they are the same in every respect. */
const EXACT = /^(?:integer|bigint|smallint|text|character varying|varchar|date|timestamp|boolean|uuid|bytea)/;

/** PostgreSQL: triggers are switched off within the transaction, keys that form a circle are deferred within it. */
export class PostgresqlWriter extends SqlWriter {
  protected override readonly renameIfThere = "IF EXISTS ";

  override get client(): readonly string[] {
    return ["\\set ON_ERROR_STOP on"];
  }

  override get valuesQuery() {
    return "derived" as const;
  }

  override differs(a: string, b: string): string {
    return `${a} IS DISTINCT FROM ${b}`;
  }

  override contentDiffers(a: string, b: string, column: Column): string {
    const exact =
      !column.array && (EXACT.test(column.type) || (column.type === "numeric" && column.typeArgs.length > 1));
    return exact ? this.differs(a, b) : this.differs(`CAST(${a} AS text)`, `CAST(${b} AS text)`);
  }

  override equatable({ type }: Column): boolean {
    return !UNEQUATABLE.test(type);
  }

  override stored(value: string, column: Column | undefined): string {
    if (!column || column.array || !/^(?:numeric|integer|bigint|smallint|date|timestamp)$/.test(column.type))
      return value;
    const args = column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : "";
    return `CAST(${value} AS ${column.type}${args})`;
  }

  override updatable(table: Table): string[] {
    return this.writable(table).filter((name) => table.columns.find((one) => one.name === name)?.identity !== "always");
  }

  protected override overriding(table: Table): string {
    return table.columns.some(({ identity }) => identity === "always") ? "\nOVERRIDING SYSTEM VALUE" : "";
  }

  override restoring({ kept, added, triggers, circles }: PutBack, steps: readonly string[]): Restoring {
    const off: string[] = [];
    const on: string[] = [];
    for (const [table, own] of byTable(triggers)) {
      const target = this.table(table);
      for (const { trigger } of own) {
        off.push(`ALTER TABLE ${target} DISABLE TRIGGER ${this.name(trigger.name)}`);
        const state = trigger.enabled === "always" ? "ENABLE ALWAYS" : "ENABLE";
        on.push(`ALTER TABLE ${target} ${state} TRIGGER ${this.name(trigger.name)}`);
      }
    }
    for (const circle of circles) {
      if (circle.key.deferrable && circle.key.initiallyDeferred) continue;
      const alter = `ALTER TABLE ${this.table(circle.table)} ALTER CONSTRAINT ${this.name(constraintName(circle))}`;
      off.push(`${alter} DEFERRABLE INITIALLY DEFERRED`);
      on.push(`${alter} ${circle.key.deferrable ? "DEFERRABLE INITIALLY IMMEDIATE" : "NOT DEFERRABLE"}`);
    }
    const tables = [...kept, ...added].map(({ table }) => table);
    const deferred = circles.length > 0 || tables.some((one) => one.foreignKeys.some(({ deferrable }) => deferrable));
    // A table with checks that are still due cannot be altered.
    const settle = deferred && on.length > 0 ? ["SET CONSTRAINTS ALL IMMEDIATE"] : [];
    return { statements: [...off, ...steps, ...settle, ...on], transactional: true };
  }

  override collation(name: string): string {
    return name.startsWith('"') ? name : this.quoted(name);
  }

  override switchTrigger(table: Table, { name, enabled }: Trigger): string {
    const words = { origin: "ENABLE", off: "DISABLE", replica: "ENABLE REPLICA", always: "ENABLE ALWAYS" };
    return `ALTER TABLE ${this.table(table)} ${words[enabled]} TRIGGER ${this.name(name)}`;
  }

  override dropObject(object: CatalogObject): string | null {
    if (object.object !== "trigger") return super.dropObject(object);
    const { schema, name } = keyParts(object.table);
    return `DROP TRIGGER IF EXISTS ${this.name(object.name)} ON ${this.known(schema, name)}`;
  }

  override retype(table: Table, now: Column, before: Column): string[] {
    const alter = `ALTER TABLE ${this.table(table)} ALTER COLUMN ${this.column(table, before.name)}`;
    const value = this.column(table, before.name);
    return [
      ...(now.default !== null ? [`${alter} DROP DEFAULT`] : []),
      `${alter} TYPE ${this.typeOf(before)} USING CAST(CAST(${value} AS text) AS ${this.typeOf(before)})`,
      ...(now.default !== null && now.default === before.default ? [`${alter} SET DEFAULT ${before.default}`] : []),
    ];
  }

  override redefine(table: Table, now: Column, before: Column): string[] {
    const alter = `ALTER TABLE ${this.table(table)} ALTER COLUMN ${this.column(table, before.name)}`;
    const steps: string[] = [];
    if (now.required !== before.required) steps.push(`${alter} ${before.required ? "SET" : "DROP"} NOT NULL`);
    if (now.default !== before.default)
      steps.push(before.default === null ? `${alter} DROP DEFAULT` : `${alter} SET DEFAULT ${before.default}`);
    return steps;
  }

  override guarded(change: string, { expected, line }: Assertion): string {
    const tag = freeTag(change);
    return `DO ${tag}
#variable_conflict use_column
DECLARE
  cautela_expected bigint := ${expected};
  cautela_changed bigint;
BEGIN
${change};
GET DIAGNOSTICS cautela_changed = ROW_COUNT;
IF cautela_changed <> cautela_expected THEN
  RAISE EXCEPTION 'line ${line}: expected % rows, changed %', cautela_expected, cautela_changed;
END IF;
END
${tag}`;
  }
}

/** A dollar quote that the text does not hold. */
function freeTag(text: string): string {
  let tag = "$check$";
  for (let n = 2; text.includes(tag); n++) tag = `$check${n}$`;
  return tag;
}

/** PostgreSQL names a key without a name after its table and columns ("CREATE TABLE", notes). */
function constraintName({ table, key }: Circle): string {
  return key.name ?? `${table.name}_${key.columns.join("_")}_fkey`;
}
