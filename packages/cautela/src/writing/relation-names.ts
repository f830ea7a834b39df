import type { BoundRelation } from "../analysis/names/resolution.ts";
import type { SqlWriter } from "./writer.ts";

/** The name by which a statement refers to a relation, as it is written there. */
export function relationText({ source, name }: BoundRelation, writer: SqlWriter): string {
  const alias = source && "alias" in source ? source.alias : null;
  const own = alias ?? (source?.kind === "table" ? source.name.parts[source.name.parts.length - 1] : null);
  if (!own) return writer.name(name);
  return own.quoted ? writer.quoted(own.text) : own.text;
}

/** A column with the name of its relation before it: `v.vessel_id`. */
export function columnText(relation: BoundRelation, column: string, writer: SqlWriter): string {
  return `${relationText(relation, writer)}.${writer.column(relation.table, column)}`;
}
