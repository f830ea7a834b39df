import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Ident, Name } from "../sql/nodes/tree.ts";

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

/** The schema and the table that a dotted name refers to; the database in front of them is dropped. */
export function tableNameOf(name: Name, dialect: Dialect): { schema: string; table: string } {
  const { parts } = name;
  const table = foldName(parts[parts.length - 1], dialect);
  const given = parts.length > 1 ? foldName(parts[parts.length - 2], dialect) : "";
  return { schema: given === "" ? dialect.grammar.defaultSchema : given, table };
}

/** A name as messages show it, without its schema. */
export function bareName(shown: string): string {
  return shown.slice(shown.lastIndexOf(".") + 1);
}

/** A name in small letters with its words parted: `MooringBackup` is `mooring_backup`. */
export function parted(name: string): string {
  return name.replace(/([a-z0-9])([A-Z])/g, "$1_$2").toLowerCase();
}

/** How a name is spelled, where that is not how it compares; null: the same. */
export function spellingOf(name: Pick<Ident, "text" | "quoted">, dialect: Dialect): string | null {
  return dialect.grammar.looseNames && name.text !== foldName(name, dialect) ? name.text : null;
}

/** The parts of a table's name as it is spelled; null where it is the plain name that compares. */
export function spelledName({ parts }: Name, dialect: Dialect): readonly string[] | null {
  const own = parts
    .slice(dialect.engine.threePartNames ? -3 : -2)
    .map((part) => spellingOf(part, dialect) ?? foldName(part, dialect));
  return own.length === 1 && own[0] === foldName(parts[0], dialect) ? null : own;
}

/** A dotted name as its author wrote it, without quotes. */
export function writtenName(name: Name): string {
  return name.parts.map((part) => part.text).join(".");
}

/** A name as a text gives it, without quotes: `dbo.berth`. */
export function nameFrom(text: string): Name {
  const span = { start: 0, end: 0 };
  const parts = text.split(".").map((part) => ({ text: part, quoted: false, hole: false, ...span }));
  return { kind: "name", parts, link: null, ...span };
}
