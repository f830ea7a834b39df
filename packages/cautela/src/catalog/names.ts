import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Ident, Name } from "../sql/tree.ts";

/**
 * A name as it compares under its dialect's rules: unquoted names folded to the dialect's case,
 * quoted ones kept, and both without regard to case where the engine has none.
 *
 * @example
 * foldName({ text: "Berth", quoted: false, … }, postgresql) // "berth"
 * foldName({ text: "Berth", quoted: true, … }, postgresql) // "Berth"
 */
export function foldName(name: Pick<Ident, "text" | "quoted">, dialect: Dialect): string {
  const { grammar } = dialect;
  if (grammar.looseNames) return name.text.toLowerCase();
  if (name.quoted) return name.text;
  return grammar.fold === "upper" ? name.text.toUpperCase() : name.text.toLowerCase();
}

/** The schema and the table that a dotted name speaks of; the database in front of them is dropped. */
export function tableNameOf(name: Name, dialect: Dialect): { schema: string; table: string } {
  const { parts } = name;
  const table = foldName(parts[parts.length - 1], dialect);
  const schema = parts.length > 1 ? foldName(parts[parts.length - 2], dialect) : dialect.grammar.defaultSchema;
  return { schema, table };
}

/** A dotted name as its author wrote it, without quotes. */
export function writtenName(name: Name): string {
  return name.parts.map((part) => part.text).join(".");
}
