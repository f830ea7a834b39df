import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import { shownName, type Table } from "../catalog/model.ts";
import { type Kept, keyOf, type Sheet } from "./sheet.ts";

export function restore(
  sheet: Sheet,
  kind: string,
  table: Table,
  key: readonly string[] | null,
  copy: string,
  kept: readonly Kept[],
  fired: readonly FiredRipple[],
  changed: readonly string[],
): void {
  const { writer } = sheet;
  const own: string[] = [];
  const wholeCopy = fired.some(({ ripple }) => ripple.nodes[0]?.object === "view");
  if (kind === "update") {
    if (!key) {
      sheet.reason(
        "the key of its rows changes and they have no other one: which row was which cannot be told afterwards, so no restore was written",
      );
      return;
    }
    const columns = writer.writable(table).filter((column) => !key.includes(column));
    const touched = touchedColumns(table, changed, fired);
    const back = touched ? columns.filter((column) => touched.has(column)) : columns;
    if (back.length === 0) {
      sheet.reason("the catalog knows none of the columns that it sets, so no restore was written");
      return;
    }
    own.push(writer.setBack(table, copy, key, back));
  } else if (wholeCopy && key) own.push(...writer.putBack(table, copy, key));
  else if (wholeCopy)
    sheet.reason(
      "rows of the view's table have no key, so those that are missing cannot be told: no restore was written",
    );
  else own.push(...writer.putBack(table, copy, null));
  putTogether(sheet, table, own, kept);
}

/** The columns of a table that a change gives other values, triggers and the engine included; null where it may be any. */
function touchedColumns(table: Table, changed: readonly string[], fired: readonly FiredRipple[]): Set<string> | null {
  const touched = new Set(changed);
  for (const { ripple } of fired) {
    for (const node of ripple.nodes) {
      if (node.relation !== table) continue;
      // A trigger that changes the table again.
      if (node.id !== 0 && node.columns === null) return null;
      for (const column of node.columns ?? []) touched.add(column);
    }
    for (const { kind, node, columns } of ripple.notes)
      if ((kind === "rewrites" || kind === "stamps") && ripple.nodes[node].relation === table)
        for (const column of columns) touched.add(column);
  }
  return touched;
}

/** The statements of a restore in their order, with triggers off where the engine can do that. */
export function putTogether(sheet: Sheet, table: Table, own: readonly string[], kept: readonly Kept[]): void {
  const { writer } = sheet;
  if (own.length === 0) return;
  const steps: string[] = [];
  const guarded = [table, ...kept.map((one) => one.table)].flatMap((one) => {
    const own = sheet.triggers.get(one)?.filter(({ timing }) => timing !== "instead") ?? [];
    return own.length > 0 ? [{ table: one, triggers: own }] : [];
  });
  for (const one of guarded) steps.push(...writer.triggers(one.table, one.triggers, false));
  steps.push(...own);
  for (const one of kept) steps.push(...keptBack(sheet, one));
  for (const one of guarded) steps.push(...writer.triggers(one.table, one.triggers, true));
  if (guarded.length > 0 && /^(?:sqlite|mysql|mariadb)$/.test(writer.dialect.id))
    sheet.reason(
      `${writer.dialect.title} cannot switch triggers off: the restore takes them away and makes them anew, so nobody else should be at work then`,
    );
  for (const [i, step] of steps.entries())
    sheet.add("restore", "restore", i === 0 ? `Put ${shownName(table)} back as it was` : `Step ${i + 1}`, step);
}

function keptBack(sheet: Sheet, { table, copy, how }: Kept): string[] {
  const { writer } = sheet;
  const key = keyOf(table);
  const shown = shownName(table);
  switch (how) {
    case "added":
      return key ? [writer.removeNew(table, copy, key)] : [];
    case "deleted":
      return writer.putBack(table, copy, key);
    case "updated":
    case "whole": {
      if (!key) {
        if (how === "whole") return [`DELETE FROM ${writer.table(table)}`, ...writer.putBack(table, copy, null)];
        sheet.reason(`rows of ${shown} have no key, so they cannot be put back one by one`);
        return [];
      }
      const columns = writer.writable(table).filter((column) => !key.includes(column));
      const steps = how === "whole" ? [writer.removeNew(table, copy, key)] : [];
      if (columns.length > 0) steps.push(writer.setBack(table, copy, key, columns));
      if (how === "whole") steps.push(...writer.putBack(table, copy, key));
      return steps;
    }
  }
}
