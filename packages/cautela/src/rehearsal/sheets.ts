import type { Change } from "../analysis/change.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { shownName, type Table } from "../catalog/model.ts";
import type { ChangeSource, StatementReview } from "../result.ts";
import { afterCheck, guarded } from "./after.ts";
import { type ChangeText, changeText } from "./change-text.ts";
import { copyOf, rippleCopies } from "./copies.ts";
import type { CopyNames } from "./copy-names.ts";
import { insertSheet } from "./insert-sheet.ts";
import { arithmetic, count, figures, preview, rows, warn } from "./looks.ts";
import type { RehearsalSheet } from "./rehearsal.ts";
import { restore } from "./restore.ts";
import { type Kept, keyOf, Sheet } from "./sheet.ts";
import type { SqlWriter } from "./sql-writer.ts";

/** The sheets of one statement: one for each table that it changes. */
export function sheetsOf(
  statement: StatementReview,
  source: ChangeSource,
  ripples: readonly FiredRipple[],
  writer: SqlWriter,
  names: CopyNames,
): RehearsalSheet[] {
  if (source.tree.kind === "insert" || source.tree.kind === "merge")
    return [insertSheet(statement, source, ripples, writer, names)];
  return source.changes.map((judged) => {
    const sheet = new Sheet(statement, judged.target, source, writer);
    const fired = ripples.filter(
      ({ firing }) => firing.change === judged.change || sameChange(firing.change, judged.change),
    );
    changeSheet(sheet, source, judged.change, fired, names);
    return sheet.done();
  });
}

/** Two readings of the same change: the ripple has its own. */
function sameChange(a: Change | null, b: Change): boolean {
  return a !== null && a.statement === b.statement && a.relation?.source === b.relation?.source;
}

function changeSheet(
  sheet: Sheet,
  source: ChangeSource,
  change: Change,
  fired: readonly FiredRipple[],
  names: CopyNames,
): void {
  const { writer } = sheet;
  const view = fired.find(({ ripple }) => ripple.nodes[0]?.object === "view");
  const table = (view && baseOf(view)) ?? change.table;
  if (source.tree.kind === "truncate") {
    if (!table) {
      sheet.reason("the table is not in the catalog, so its columns are not known");
      return;
    }
    truncateSheet(sheet, source, table, fired, names);
    return;
  }
  const text = changeText(source, change, writer.dialect);
  if (typeof text === "string") {
    sheet.reason(`no query was written: ${text}`);
    return;
  }
  // Through a view rows are told apart by the columns that it shows.
  const shownColumns = view?.ripple.nodes[0].relation?.columns?.map((one) =>
    typeof one === "string" ? one : one.name,
  );
  const ownKey = table ? keyOf(table) : null;
  const look = ownKey?.every((one) => shownColumns?.includes(one) ?? true) ? ownKey : null;
  count(sheet, text, table, look);
  if (source.tree.kind === "update") preview(sheet, text, table, look);
  else rows(sheet, text, look);
  warn(sheet, fired);
  if (!table) {
    sheet.reason(
      "the table is not in the catalog: without its key and columns neither figures nor a restore can be written",
    );
    sheet.add("before", "copy", "Keep the rows", copyOf(writer, names.next({ name: bareName(change) }), text));
    sheet.add("change", "change", "The change", source.text);
    return;
  }
  const changed = changedColumns(text, table, view);
  const key = keyOf(table, changed);
  const copies: Kept[] = [];
  const own = names.next(table);
  const whole = view !== undefined || text.unsettled;
  figures(sheet, "before", table, text.assignments, fired);
  if (!view) arithmetic(sheet, text, table, fired);
  sheet.add(
    "before",
    "copy",
    whole ? `Keep all rows of ${shownName(table)}` : "Keep the rows that will change",
    whole ? writer.copy(own, "*", `FROM ${writer.table(table)}`) : copyOf(writer, own, text),
  );
  rippleCopies(sheet, fired, table, own, names, copies);
  if (view?.ripple.edges.some(({ from, how }) => from === 0 && how === "trigger")) {
    sheet.reason("a trigger writes in the view's place, and what the engine counts is not what that writes");
    sheet.add("change", "change", "The change", source.text);
  } else if (fired.some(({ ripple }) => ripple.notes.some(({ kind }) => kind === "swallows"))) {
    sheet.reason("a trigger or rule may drop rows in silence, so fewer may change than the count says");
    sheet.add("change", "change", "The change", source.text);
  } else guarded(sheet, source, text, table, look);
  afterCheck(sheet, source.tree.kind, table, key, own, changed, whole);
  figures(sheet, "after", table, text.assignments, fired);
  restore(sheet, source.tree.kind, table, key, own, copies, fired, changed);
}

/** The table behind a view that a change is passed on to. */
function baseOf({ ripple }: FiredRipple): Table | undefined {
  const to = ripple.edges
    .filter(({ how, from }) => how === "view" && ripple.nodes[from].object === "view")
    .map((edge) => ripple.nodes[edge.to].relation);
  for (const relation of to) if (relation?.object === "table") return relation;
  return undefined;
}

/** The columns of the table that are given values: under a view's own names they are other ones. */
function changedColumns(text: ChangeText, table: Table, view: FiredRipple | undefined): string[] {
  if (!view) return [...new Set(text.assignments.map(({ column }) => column))];
  const columns = new Set<string>();
  for (const { relation, columns: written } of view.ripple.nodes)
    if (relation === table) for (const column of written ?? []) columns.add(column);
  return [...columns];
}

function bareName({ name }: Change): string {
  return name.parts[name.parts.length - 1].text;
}

function truncateSheet(
  sheet: Sheet,
  source: ChangeSource,
  table: Table,
  fired: readonly FiredRipple[],
  names: CopyNames,
): void {
  const { writer } = sheet;
  const own = names.next(table);
  const kept: Kept[] = [];
  sheet.add(
    "before",
    "count",
    "How many rows it touches",
    `SELECT COUNT(*) AS rows_touched\nFROM ${writer.table(table)}`,
  );
  sheet.add(
    "before",
    "copy",
    `Keep all rows of ${shownName(table)}`,
    writer.copy(own, "*", `FROM ${writer.table(table)}`),
  );
  rippleCopies(sheet, fired, table, null, names, kept);
  warn(sheet, fired);
  sheet.add("change", "change", "The change", source.text);
  sheet.add("after", "check", "No row is left", `SELECT COUNT(*) AS still_there\nFROM ${writer.table(table)}`);
  restore(sheet, "truncate", table, keyOf(table), own, kept, fired, []);
}
