import { PHASES, type Phase, type Rehearsal, type RehearsalSheet } from "../rehearsal/rehearsal.ts";

const HEADINGS: Record<Phase, string> = {
  before: "BEFORE: look, count, and keep a copy",
  change: "THE CHANGE",
  after: "AFTER: compare",
  restore: "RESTORE: only if the result is wrong",
};

/** One phase of a rehearsal as a file that can be run, with headings; null where it holds nothing. */
export function rehearsalPhase(rehearsal: Rehearsal, phase: Phase): string | null {
  // What was done last is undone first.
  const sheets = phase === "restore" ? [...rehearsal.sheets].reverse() : rehearsal.sheets;
  const parts = sheets.map((sheet) => sheetPhase(sheet, phase, rehearsal)).filter((part) => part !== null);
  if (parts.length === 0) return null;
  return `-- ${HEADINGS[phase]}${rehearsal.path === "" ? "" : ` (${rehearsal.path})`}\n\n${parts.join("\n")}`;
}

function sheetPhase(sheet: RehearsalSheet, phase: Phase, { dialect }: Rehearsal): string | null {
  const queries = sheet.queries.filter((query) => query.phase === phase);
  const reasons = phase === "before" ? sheet.reasons : [];
  if (queries.length === 0 && reasons.length === 0) return null;
  const lines = [`-- line ${sheet.line}: ${sheet.kind} of ${sheet.target}`];
  if (phase === "before" && sheet.privileges.length > 0)
    lines.push(`-- needs: ${sheet.privileges.map(({ right, object }) => `${right} on ${object}`).join(", ")}`);
  for (const reason of reasons) lines.push(`-- note: ${reason}`);
  for (const { title, sql } of queries) {
    lines.push("", `-- ${title}`);
    // Oracle's blocks end with a line of their own.
    // The client of MySQL and MariaDB ends a statement at the first semicolon, unless it is told otherwise.
    if (/^(?:mysql|mariadb)$/.test(dialect) && /^BEGIN NOT ATOMIC|^CREATE\s(?:.|\n)*\bTRIGGER\b/i.test(sql))
      lines.push("DELIMITER //", `${sql}//`, "DELIMITER ;");
    else lines.push(/\n\/$/.test(sql) || /;$/.test(sql) ? sql : `${sql};`);
    if (dialect === "tsql" && /TRIGGER|IDENTITY_INSERT/.test(sql)) lines.push("GO");
  }
  return `${lines.join("\n")}\n`;
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
  const lines = [`# Rehearsal${rehearsal.path === "" ? "" : `: ${rehearsal.path}`}`, ""];
  if (rehearsal.sheets.length === 0) lines.push("No statement of this script changes rows.", "");
  for (const sheet of rehearsal.sheets) {
    lines.push(`## Line ${sheet.line}: ${sheet.kind} of ${sheet.target}`, "");
    for (const reason of sheet.reasons) lines.push(`- ${reason}`);
    if (sheet.reasons.length > 0) lines.push("");
    for (const phase of PHASES) {
      const queries = sheet.queries.filter((query) => query.phase === phase);
      if (queries.length === 0) continue;
      lines.push(`### ${HEADINGS[phase]}`, "");
      for (const { title, sql } of queries)
        lines.push(`${title}:`, "", "```sql", /;$|\n\/$/.test(sql) ? sql : `${sql};`, "```", "");
    }
  }
  return lines.join("\n");
}
