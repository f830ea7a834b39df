import { shownName } from "../catalog/model.ts";
import { keyOfTarget, type Target, viewed } from "./change-target.ts";
import { harmOf } from "./harmless.ts";
import { insertLooks } from "./insert-looks.ts";
import { arithmetic, count, figures, preview, rows } from "./looks.ts";
import type { ScriptStep } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/** What is looked at before a change: the count, old and new values, control figures. */
export function changeLooks(step: ScriptStep, sheet: Sheet, targets: readonly Target[]): void {
  const { source, written } = step;
  const { tree } = source;
  if (tree.kind === "insert") lookAtInsert(step, sheet);
  if (tree.kind === "merge")
    sheet.reason("which branch of MERGE takes a row depends on both tables: its rows are compared afterwards");
  if (tree.kind === "truncate")
    for (const { table } of written)
      sheet.add(
        sheet.early,
        "count",
        `How many rows ${shownName(table)} holds`,
        `SELECT COUNT(*) AS rows_touched\nFROM ${sheet.writer.table(table)}`,
      );
  for (const target of targets) {
    const { text, table, change, filter, values } = target;
    if (targets.length > 1 && table) sheet.titled(shownName(table));
    const key = keyOfTarget(step, target);
    if (filter?.writes) {
      sheet.reason(`${filter.why}, so no query was written that would call it beforehand`);
      continue;
    }
    if (filter) sheet.reason(`${filter.why}: make sure that it only reads before you run the queries`);
    if (text.unsettled)
      sheet.reason(
        text.unsettled === "clock"
          ? "its filter depends on the clock, so the copy decides which rows are changed"
          : "nobody can say beforehand which rows it takes, so the copy decides: the looks may show others",
      );
    const setHarm = table ? values : null;
    if (setHarm) sheet.reason(`${setHarm}, so the new values are not shown`);
    count(sheet, setHarm ? { ...text, assignments: [] } : text, table, key);
    if (source.tree.kind === "delete") rows(sheet, text, table, key);
    else if (!setHarm) preview(sheet, text, table, key);
    if (!table) continue;
    const phase = sheet.early;
    figures(
      sheet,
      phase,
      table,
      text.assignments,
      written.map((one) => one.table),
    );
    if (targets.length === 1 && !viewed(step, change) && !setHarm && step.dependsOn === null)
      arithmetic(sheet, text, table, step.fired);
  }
  sheet.titled("");
}

function lookAtInsert(step: ScriptStep, sheet: Sheet): void {
  const { source, catalog } = step;
  const { tree, into } = source;
  if (tree.kind !== "insert") return;
  const query = tree.source
    ? source.text.slice(tree.source.start - source.start, tree.source.end - source.start)
    : null;
  const harm = query !== null && catalog && tree.source?.body.kind !== "values" ? harmOf(query, catalog) : null;
  if (harm?.writes) sheet.reason(`${harm.why}, so its rows are not shown beforehand`);
  else insertLooks(sheet, source, into?.object === "table" ? into : null);
  if (into?.object !== "table") return;
  for (const phase of [sheet.early, "after"] as const)
    if (phase !== "after" || sheet.early === "before") figures(sheet, phase, into, [], []);
}
