import { asserted } from "./change-assertion.ts";
import { changeChecks } from "./change-checks.ts";
import { ChangeCopies } from "./change-copies.ts";
import { changeLooks } from "./change-looks.ts";
import { type Target, targetsOf } from "./change-target.ts";
import { warn } from "./looks.ts";
import type { RehearsalSheet } from "./rehearsal.ts";
import { restore } from "./restore.ts";
import type { ScriptStep } from "./script-steps.ts";
import { Sheet, type SheetContext } from "./sheet.ts";

/** The sheet of a statement that changes rows: looks, copies, the change, the checks, the way back. */
export function changeSheet(step: ScriptStep, context: SheetContext): RehearsalSheet {
  const { source, catalog, unknown, fired } = step;
  const sheet = new Sheet(step, context.writer, context.alone);
  if (source.repeat > 1) sheet.reason(`its batch runs ${source.repeat} times; the change stands here once`);
  if (catalog) for (const name of unknown) sheet.reason(`${name} is not in the catalog, so its rows are not kept`);
  warn(sheet, fired);
  const targets = targetsOf(step, sheet);
  changeLooks(step, sheet, targets);
  const copies = new ChangeCopies(step, sheet, context);
  const rewritten = copies.make(targets);
  writeChange(step, sheet, targets, copies, rewritten);
  changeChecks(step, sheet, targets, copies);
  if (source.elsewhere !== null)
    sheet.reason(`no copy is made, for ${source.elsewhere}: what has to come back comes back from there`);
  else if (catalog && copies.lost) return sheet.done();
  else if (catalog) restore(sheet, step, context.policy, copies.kept, copies.added);
  else if (source.changes.length > 0)
    sheet.reason("the table is not in the catalog: without its key and columns no restore can be written");
  return sheet.done();
}

/** The change itself, with what is kept right before it and right after it. */
function writeChange(
  step: ScriptStep,
  sheet: Sheet,
  targets: readonly Target[],
  copies: ChangeCopies,
  rewritten: string | null | undefined,
): void {
  const { source, inside } = step;
  const { writer } = sheet;
  if (rewritten === null) {
    copies.kept.length = 0;
    copies.added.length = 0;
    return;
  }
  const text = rewritten ?? source.text;
  const title = rewritten === undefined ? "The change" : "The change, on the rows of the copy";
  const own = copies.first.length > 0 && !inside ? writer.transaction : null;
  if (own && own.begin !== "") sheet.add("change", "script", "One transaction", own.begin);
  sheet.addAll("change", "copy", "Keep the rows as they are right before the change", copies.first);
  const form = asserted(step, sheet, targets, {
    change: text,
    inside: inside || own !== null,
    rewritten: rewritten !== undefined,
    exact: copies.exact,
  });
  if (form) sheet.add("change", "guarded", `${title}, undone at another number of rows`, form);
  else sheet.add("change", "change", title, text);
  sheet.addAll("change", "copy", "Keep what has changed in the tables that it reaches besides", copies.last);
  if (own) sheet.add("change", "script", "", own.commit);
}
