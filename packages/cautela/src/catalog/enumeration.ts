import { dialects } from "../sql/dialects/index.ts";
import type { Catalog } from "./catalog.ts";
import type { Column } from "./model.ts";

/** The values of an enumeration; null for any other type. */
export function enumeration(column: Column, catalog: Catalog): readonly string[] | null {
  if (column.type === "enum") return column.typeArgs.map((one) => one.replace(/^'(.*)'$/s, "$1").replaceAll("''", "'"));
  if (!dialects[catalog.dialect].engine.exactEnumerations) return null;
  return catalog.type(column.type)?.enumeration ?? null;
}
