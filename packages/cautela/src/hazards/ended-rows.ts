import { plainColumn } from "../analysis/conditions/constants.ts";
import type { Expr } from "../sql/nodes/tree.ts";

// Columns that tell rows which are over from those which are not.

/** Columns that end a row: a state, a flag, a date. */
export const ENDS =
  /^(?:status|state|active|is_active|enabled|deleted|is_deleted|deleted_at|deleted_on|archived|archived_at|closed_at|closed_on|ended_on|end_date|left_on|valid_to|valid_until)$/i;

export const ACTIVE = /^(?:active|is_active|enabled)$/i;
export const DELETED = /^(?:deleted|is_deleted|archived)$/i;

const HAPPENS =
  /^(?:end|ends|ended|end_date|enddate|valid_?(?:to|until|till)|expir(?:es|ed|y|ation)?(?:_?(?:at|on|date))?|(?:ends|left|sent|paid|read|due|done|sold|seen)_?(?:at|on|date)|last_?\w+|\w*ed_?(?:at|on|date|time))$/i;
/** What has happened to every row that is there. */
const BEGINS = /(?:creat|updat|modifi|chang|insert|add|register|load|import)ed_?(?:at|on|date|time)$/i;

/** Whether a column holds when something happened that need not happen: no value means that it has not. */
export function holdsAnEvent(column: string): boolean {
  return HAPPENS.test(column) && !BEGINS.test(column);
}

/** What a condition says to lie in the past: `closed_on < …`, `closed_on IS NOT NULL`; null where it says another thing. */
export function pastOf(part: Expr): Expr | null {
  switch (part.kind) {
    case "is":
      return part.test === "null" && part.negated ? part.operand : null;
    case "between":
      return part.negated ? null : part.operand;
    case "binary":
      if (/^(?:<=?|=)$/.test(part.op) && plainColumn(part.left)) return part.left;
      return /^>=?$/.test(part.op) && plainColumn(part.right) ? part.right : null;
    default:
      return null;
  }
}
