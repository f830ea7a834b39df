import type { Finding } from "cautela";

/** A script with the edits of a finding carried out. */
export function fixed(script: string, fix: NonNullable<Finding["fix"]>): string {
  const starts = [0];
  for (const { index } of script.matchAll(/\n/g)) starts.push(index + 1);
  const at = (line: number, column: number): number => starts[line - 1] + column - 1;
  return [...fix.edits]
    .map((edit) => ({ from: at(edit.line, edit.column), to: at(edit.endLine, edit.endColumn), text: edit.text }))
    .sort((a, b) => b.from - a.from)
    .reduce((text, { from, to, text: put }) => text.slice(0, from) + put + text.slice(to), script);
}

/** The SQL with which a remedy ends; null: it ends in words. */
export function printedSql(remedy: string): string | null {
  const found = /: ((?:CREATE TABLE|SELECT|INSERT INTO|UPDATE|DELETE FROM|WITH) .+)$/.exec(remedy)?.[1];
  return found === undefined || found.includes("…") ? null : found;
}

/** The condition that a remedy tells to add, with AND or WHERE before it; null: none, or only in outline. */
export function addedCondition(remedy: string): string | null {
  const [, found] =
    /^Add ((?:AND|WHERE) .+?)(?: to leave the others as they are\.|, or (?:write|SET) .*| if the rows without a match are meant;.*|\.? Copy first: .*|\.)?$/.exec(
      remedy,
    ) ?? [];
  return found === undefined || found.includes("…") ? null : found;
}
