import type { Column } from "../../catalog/model.ts";
import { textLimit, valueKind } from "../../catalog/types.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";

/**
 * Why no value of a column can equal a text, or begin with it; null where one can.
 *
 * @example
 * // berth.code varchar(4):   code = 'NORTH', code LIKE 'NORTH%'
 */
export function tooLongFor(text: string, column: Column | undefined, dialect: Dialect): string | null {
  if (!column || column.type === "enum" || column.type === "set" || valueKind(column, dialect) !== "text") return null;
  const limit = textLimit(column, dialect);
  // Blanks at the end are often not compared.
  if (limit === null || text.length <= limit) return null;
  const length = [...text.trimEnd()].length;
  return length > limit ? `it has ${length} characters, and \`${column.name}\` takes ${limit}` : null;
}

/** The text with which every match of a LIKE pattern begins; null where an escape makes that unclear. `stars`: Jet's own wildcards. */
export function likePrefix(pattern: string, stars = false): string | null {
  if (stars) return /^[^*?#[%_]*/.exec(pattern)?.[0] ?? "";
  if (/[\\[]/.test(pattern)) return null;
  return /^[^%_]*/.exec(pattern)?.[0] ?? "";
}
