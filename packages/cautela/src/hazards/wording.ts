import type { JudgedChange } from "./hazard.ts";

/** A number as people read it: 41,200. */
export function grouped(value: number): string {
  return String(value).replace(/\B(?=(\d{3})+(?!\d))/g, ",");
}

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
