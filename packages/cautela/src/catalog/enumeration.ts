import { dialects } from "../sql/dialects/index.ts";
import type { Catalog } from "./catalog.ts";
import type { Column } from "./model.ts";

/** The values of an enumeration; null for any other type. */
export function enumeration(column: Column, catalog: Catalog): readonly string[] | null {
  if (column.type === "enum") return listedValues(column.typeArgs);
  if (!dialects[catalog.dialect].engine.exactEnumerations) return null;
  return catalog.type(column.type)?.enumeration ?? null;
}

/** The members of which a value of a SET column is put together (mysql, mariadb); null for any other type. */
export function setMembers({ type, typeArgs }: Pick<Column, "type" | "typeArgs">): readonly string[] | null {
  return type === "set" ? listedValues(typeArgs) : null;
}

/** The values of ENUM and SET as the definition lists them, without their quotes. */
export function listedValues(args: readonly string[]): string[] {
  return args.map((one) => one.replace(/^'(.*)'$/s, "$1").replaceAll("''", "'"));
}
