import { keyParts } from "../catalog/keys.ts";
import type { Column, ForeignKey, Key, Table } from "../catalog/model.ts";
import type { SqlWriter } from "./writer.ts";

// Definitions of columns, keys and tables as a catalog holds them.

/** A column as CREATE TABLE and ADD COLUMN take it; `loose`: without NOT NULL, which is put on when it is filled. */
export function columnDefinition(writer: SqlWriter, table: Table, column: Column, loose = false): string {
  const parts = [writer.column(table, column.name), writer.typeOf(column)];
  if (column.collation) parts.push(`COLLATE ${writer.collation(column.collation)}`);
  if (column.generated && column.expression !== null) parts.push(writer.generatedAs(column));
  else if (column.identity) parts.push(writer.identity(column));
  else if (column.default !== null) parts.push(`DEFAULT ${column.default}`);
  if (column.required && !loose) parts.push("NOT NULL");
  if (column.onUpdate) parts.push(`ON UPDATE ${column.onUpdate}`);
  return parts.filter((part) => part !== "").join(" ");
}

/** The constraints of a table, each as ADD takes it. */
export function constraintsOf(writer: SqlWriter, table: Table): string[] {
  const list: string[] = [];
  if (table.primaryKey && !table.primaryKey.partial) list.push(keyText(writer, table, table.primaryKey, "PRIMARY KEY"));
  for (const key of table.uniqueKeys) if (!key.partial) list.push(keyText(writer, table, key, "UNIQUE"));
  for (const check of table.checks) list.push(`${named(writer, check.name)}CHECK (${check.condition})`);
  for (const key of table.foreignKeys) list.push(foreignKeyText(writer, table, key));
  return list;
}

function named(writer: SqlWriter, name: string | null): string {
  return name === null ? "" : `CONSTRAINT ${writer.name(name)} `;
}

function keyText(writer: SqlWriter, table: Table, key: Key, what: string): string {
  return `${named(writer, key.name)}${what} (${writer.columns("", table, key.columns)})`;
}

function foreignKeyText(writer: SqlWriter, table: Table, key: ForeignKey): string {
  const { schema, name } = keyParts(key.table);
  const referenced = key.referenced.length > 0 ? ` (${key.referenced.map((one) => writer.name(one)).join(", ")})` : "";
  const rules = [
    key.onDelete === "no action" ? "" : ` ON DELETE ${key.onDelete.toUpperCase()}`,
    key.onUpdate === "no action" ? "" : ` ON UPDATE ${key.onUpdate.toUpperCase()}`,
    key.deferrable ? ` DEFERRABLE${key.initiallyDeferred ? " INITIALLY DEFERRED" : ""}` : "",
  ].join("");
  const parent = writer.known(schema, name);
  return `${named(writer, key.name)}FOREIGN KEY (${writer.columns("", table, key.columns)}) REFERENCES ${parent}${referenced}${rules}`;
}

/** A table as the catalog knows it. */
export function createTable(writer: SqlWriter, table: Table): string {
  const lines = [
    ...table.columns.map((column) => columnDefinition(writer, table, column)),
    ...constraintsOf(writer, table),
  ];
  return `CREATE TABLE ${writer.table(table)} (\n  ${lines.join(",\n  ")}\n)`;
}
