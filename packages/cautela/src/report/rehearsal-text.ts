import { PHASES, type Phase, type Rehearsal, type RehearsalSheet } from "../rehearsal/rehearsal.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import { sqlWriter } from "../sql/dialects/writing.ts";
import { inOneLine } from "../text/visible.ts";
import { escapedMarkdown, fence } from "./markdown-text.ts";

/** What the phases of a rehearsal are for, as headings. */
export const PHASE_HEADINGS: Record<Phase, string> = {
  before: "BEFORE: look, count, and keep a copy",
  change: "THE CHANGE",
  after: "AFTER: compare",
  restore: "RESTORE: only if the result is wrong",
};

/** A query of a rehearsal as a client program takes it, with what ends it. */
export function terminated(sql: string, dialect: DialectId): string {
  return sqlWriter(dialects[dialect], null).terminated(sql);
}

/** One phase of a rehearsal as a file that can be run, with headings; null where it holds nothing. */
export function rehearsalPhase(rehearsal: Rehearsal, phase: Phase): string | null {
  // What was done last is undone first.
  const sheets = phase === "restore" ? [...rehearsal.sheets].reverse() : rehearsal.sheets;
  const parts = sheets.map((sheet) => sheetPhase(sheet, phase, rehearsal)).filter((part) => part !== null);
  if (parts.length === 0) return null;
  const { dialect, frames, path } = rehearsal;
  const { batchEnd } = sqlWriter(dialects[dialect], null);
  const { note, client, head, foot } = frames[phase];
  const above = [...client, ...head.map((sql) => terminated(sql, dialect))];
  // What follows may have to stand first in its batch.
  if (batchEnd !== null && above.length > 0) above.push(batchEnd);
  return [
    `-- ${PHASE_HEADINGS[phase]}${path === "" ? "" : ` (${inOneLine(path)})`}\n`,
    ...(note !== null ? [`-- ${note}\n`] : []),
    ...(above.length > 0 ? [`${above.join("\n")}\n`] : []),
    ...parts,
    ...(foot.length > 0 ? [`${foot.map((sql) => terminated(sql, dialect)).join("\n")}\n`] : []),
  ].join("\n");
}

function sheetPhase(sheet: RehearsalSheet, phase: Phase, { dialect }: Rehearsal): string | null {
  const queries = sheet.queries.filter((query) => query.phase === phase);
  const reasons = phase === "before" ? sheet.reasons : [];
  if (queries.length === 0 && reasons.length === 0) return null;
  const lines = [`-- ${inOneLine(headline(sheet))}`];
  if (phase === "before" && sheet.privileges.length > 0)
    lines.push(
      `-- needs: ${inOneLine(sheet.privileges.map(({ right, object }) => `${right} on ${object}`).join(", "))}`,
    );
  for (const reason of reasons) lines.push(`-- note: ${inOneLine(reason)}`);
  for (const { title, sql } of queries) {
    if (title !== "") lines.push("", `-- ${inOneLine(title)}`);
    lines.push(terminated(sql, dialect));
  }
  const { batchEnd } = sqlWriter(dialects[dialect], null);
  if (phase === "change" && sheet.endsBatch && batchEnd !== null) lines.push(batchEnd);
  return `${lines.join("\n")}\n`;
}

function headline({ line, kind, target }: RehearsalSheet): string {
  return `line ${line}: ${kind}${target === "" ? "" : ` of ${target}`}`;
}

/** All phases one after the other, as text. */
export function rehearsalText(rehearsal: Rehearsal): string {
  if (rehearsal.sheets.length === 0) return "-- No statement of this script changes rows.\n";
  return PHASES.map((phase) => rehearsalPhase(rehearsal, phase))
    .filter((part) => part !== null)
    .join("\n");
}

/** The rehearsal as Markdown: statement by statement, its phases as sections. */
export function rehearsalMarkdown(rehearsal: Rehearsal): string {
  const { path, dialect } = rehearsal;
  const lines = [`# Rehearsal${path === "" ? "" : `: ${escapedMarkdown(inOneLine(path))}`}`, ""];
  if (rehearsal.sheets.length === 0) lines.push("No statement of this script changes rows.", "");
  for (const sheet of rehearsal.sheets) {
    lines.push(`## ${escapedMarkdown(inOneLine(headline(sheet)))}`, "");
    for (const reason of sheet.reasons) lines.push(`- ${escapedMarkdown(inOneLine(reason))}`);
    if (sheet.reasons.length > 0) lines.push("");
    for (const phase of PHASES) {
      const queries = sheet.queries.filter((query) => query.phase === phase);
      if (queries.length === 0) continue;
      lines.push(`### ${PHASE_HEADINGS[phase]}`, "");
      for (const { title, sql } of queries) {
        if (title !== "") lines.push(`${escapedMarkdown(inOneLine(title))}:`, "");
        const text = terminated(sql, dialect);
        const ticks = fence(text);
        lines.push(`${ticks}sql`, text, ticks, "");
      }
    }
  }
  return lines.join("\n");
}
