import type { Reach } from "../analysis/changes/reach.ts";
import type { Statement } from "../sql/nodes/tree.ts";
import { singleBlanks } from "../text/blanks.ts";
import type { JudgedChange } from "./hazard.ts";

/** A number as people read it: 41,200. */
export function grouped(value: number): string {
  if (Number.isInteger(value) && Math.abs(value) < 1000) return String(value);
  numbers ??= new Intl.NumberFormat("en");
  return numbers.format(value);
}

/** "1 row", "41,200 rows". */
export function rowCount(rows: number): string {
  return `${grouped(rows)} ${rows === 1 ? "row" : "rows"}`;
}

// Made when first needed: the language data that they load takes a quarter of the command's start.
let numbers: Intl.NumberFormat | null = null;
let lists: Intl.ListFormat | null = null;

/** "all rows of `mooring`, about 41,200" or, without an estimate, "all rows of `mooring`". */
export function allRows(judged: JudgedChange): string {
  const rows = judged.change.table?.rows;
  const estimate = rows === null || rows === undefined ? "" : `, about ${grouped(rows)}`;
  return `all rows of \`${judged.target}\`${estimate}`;
}

const VERBS = { update: "changes", delete: "deletes", truncate: "empties the table and deletes" } as const;

/** The verb of what a change does to rows. */
export function verb(judged: JudgedChange): string {
  return VERBS[judged.change.action];
}

/** A text with its first letter as a capital. */
export function capital(text: string): string {
  return text[0].toUpperCase() + text.slice(1);
}

/** A piece of source in one line, cut when it is long. */
export function oneLine(text: string): string {
  const line = singleBlanks(text).trim();
  return line.length > 70 ? `${line.slice(0, 67)}…` : line;
}

/** "a, b and c", each as code. */
export function listed(names: readonly string[]): string {
  const quoted = names.map((name) => `\`${name}\``);
  if (quoted.length < 2) return quoted.join("");
  lists ??= new Intl.ListFormat("en-GB", { type: "conjunction" });
  return lists.format(quoted);
}

/** "a, b, c and 7 more", each of the named ones as code: at most so many are named. */
export function listedShort(names: readonly string[], most = 6): string {
  if (names.length <= most) return listed(names);
  return `${names
    .slice(0, most)
    .map((name) => `\`${name}\``)
    .join(", ")} and ${grouped(names.length - most)} more`;
}

/** A reach in words: "one row at most", "3 rows at most", "every row, about 41,200". */
export function reachWords(reach: Reach): string {
  switch (reach.bound) {
    case "none":
      return "no row";
    case "one":
      return "one row at most";
    case "few":
      return `${grouped(reach.rows ?? 0)} rows at most`;
    case "some":
      return reach.rows === undefined || reach.of === undefined
        ? "a filtered part of the rows"
        : `about ${grouped(reach.rows)} of ${grouped(reach.of)} rows`;
    case "every":
      return reach.rows === undefined ? "every row" : `every row, about ${grouped(reach.rows)}`;
    case "multiplied":
      return "rows that are met several times";
    case "unknown":
      return "not known how many rows";
  }
}

/** How a condition comes into a statement: an OR in its filter would take an AND for its last part alone. */
export function addition(statement: Statement, condition: string): string {
  const where = "where" in statement ? statement.where : null;
  if (!where) return `add WHERE ${condition}`;
  const open = where.kind === "logic" && where.op !== "and" && !where.parenthesised;
  return open ? `put the filter in parentheses and add AND ${condition}` : `add AND ${condition}`;
}
