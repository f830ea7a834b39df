import type { Span } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { annotation } from "./annotations.ts";

/** How many rows an author expects a statement to change. */
export interface Expectation {
  rows: number;
  /** The number is a bound, and fewer will do. */
  atMost: boolean;
}

/**
 * Reads the text after `expect`: `7 rows`, `1 row`, `at most 20 rows`, `no rows`; null for anything else.
 *
 * @example
 * expectation("at most 20 rows")   // { rows: 20, atMost: true }
 */
export function expectation(text: string): Expectation | null {
  const match = /^(at most\s+)?(no|\d[\d,_]*)\s*(?:rows?)?\s*\.?$/i.exec(text.trim());
  if (!match) return null;
  const rows = match[2].toLowerCase() === "no" ? 0 : Number(match[2].replace(/[,_]/g, ""));
  return { rows, atMost: match[1] !== undefined };
}

/** How many rows the comments of a statement say that it should change; null where none of them says so. */
export function expectedRows(comments: readonly Span[], slice: Slice): Expectation | null {
  let expected: Expectation | null = null;
  for (const comment of comments) {
    const said = annotation(slice(comment.start, comment.end), comment);
    if (said?.what === "expect") expected = expectation(said.text);
  }
  return expected;
}

/** The row count that a comment has kept from an earlier run: "13 rows affected", "Rows matched: 4"; null without one. */
export function pastedCount(comments: string): number | null {
  const match =
    /\brows matched:\s*(\d+)/i.exec(comments) ??
    /\b(\d+)\s+rows?\s+(?:affected|updated|deleted|inserted|changed)\b/i.exec(comments) ??
    /^\W*(?:UPDATE|DELETE|INSERT 0)\s+(\d+)\s*$/m.exec(comments);
  return match ? Number(match[1]) : null;
}
