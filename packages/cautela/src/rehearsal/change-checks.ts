import { shownName } from "../catalog/model.ts";
import type { AssignedText } from "../writing/change-text.ts";
import type { Added, Kept } from "../writing/kept.ts";
import type { ChangeCopies } from "./change-copies.ts";
import type { Target } from "./change-target.ts";
import { figures } from "./looks.ts";
import type { ScriptStep } from "./script-steps.ts";
import { PREVIEW, type Sheet } from "./sheet.ts";

/** What is compared after a change. */
export function changeChecks(step: ScriptStep, sheet: Sheet, targets: readonly Target[], copies: ChangeCopies): void {
  const { source, written } = step;
  for (const { table, text } of targets) {
    if (!table) continue;
    const kept = copies.keptOf.get(table);
    if (kept && source.tree.kind === "delete") gone(sheet, kept);
    else if (kept?.key) compared(sheet, kept, text.assignments);
    if (targets.length === 1 && step.dependsOn === null)
      figures(
        sheet,
        "after",
        table,
        text.assignments,
        written.map((one) => one.table),
      );
  }
  for (const { kept, added } of copies.images) {
    if (kept && !targets.some(({ table }) => table && copies.keptOf.get(table) === kept))
      sheet.add(
        "after",
        "check",
        `Rows of ${shownName(kept.table)} as they were, those that have changed or are gone`,
        sheet.writer.first(PREVIEW, "b.*", `FROM ${kept.copy}${sheet.writer.as("b")}`),
      );
    if (added) came(sheet, added);
  }
}

function gone(sheet: Sheet, { table, copy, key, only }: Kept): void {
  if (!key) return;
  const { writer } = sheet;
  sheet.add(
    "after",
    "check",
    "None of the rows is left (0 is right)",
    `SELECT COUNT(*) AS still_there\nFROM ${writer.from(table, only)}${writer.as("t")}\nWHERE EXISTS (SELECT 1 FROM ${copy}${writer.as("b")} WHERE ${writer.match("b", "t", table, key)})`,
  );
}

function came(sheet: Sheet, { table, only, list, key }: Added): void {
  const { writer } = sheet;
  sheet.add(
    "after",
    "check",
    `The rows of ${shownName(table)} that have come`,
    writer.first(
      PREVIEW,
      "t.*",
      `FROM ${writer.from(table, only)}${writer.as("t")}\nINNER JOIN ${list}${writer.as("b")} ON ${writer.match("b", "t", table, key)}\nORDER BY ${writer.columns("t", table, key)}`,
    ),
  );
}

/** Old and new values of the rows that were kept. */
function compared(sheet: Sheet, kept: Kept, assignments: readonly AssignedText[]): void {
  const { table, copy, key, newKey, only } = kept;
  const { writer } = sheet;
  // A column that the script has made was not there to be copied.
  const columns = [...new Set(assignments.map(({ column }) => column))].filter((one) =>
    table.columns.some(({ name }) => name === one),
  );
  if (!key || columns.length === 0) return;
  const list = [
    writer.columns("b", table, key),
    ...columns.flatMap((one) => [
      `b.${writer.column(table, one)} AS ${writer.name(`was_${one.toLowerCase()}`)}`,
      `t.${writer.column(table, one)} AS ${writer.name(`is_${one.toLowerCase()}`)}`,
    ]),
  ].join(",\n       ");
  const match = key
    .map((one) => `t.${writer.column(table, one)} = b.${newKey?.get(one) ?? writer.column(table, one)}`)
    .join(" AND ");
  sheet.add(
    "after",
    "check",
    "Before and now, row by row",
    writer.first(
      PREVIEW,
      list,
      `FROM ${copy}${writer.as("b")}\nLEFT JOIN ${writer.from(table, only)}${writer.as("t")} ON ${match}\nORDER BY ${writer.columns("b", table, key)}`,
    ),
  );
}
