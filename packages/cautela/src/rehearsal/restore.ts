import { tableKey } from "../catalog/keys.ts";
import { shownName, type Table } from "../catalog/model.ts";
import type { Policy } from "../policy/policy.ts";
import type { Added, Circle, Kept, OwnTrigger } from "../writing/kept.ts";
import { onlyTells } from "./audit.ts";
import type { ScriptStep } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/**
 * Writes how the rows of one statement are put back: rows that came go, children first; rows that went come, parents
 * first; then values are set back. Each step compares first, so that what has come back already, or has never gone, stays.
 */
export function restore(
  sheet: Sheet,
  step: ScriptStep,
  policy: Policy,
  kept: readonly Kept[],
  added: readonly Added[],
): void {
  if (kept.length === 0 && added.length === 0) return;
  const { writer } = sheet;
  const { order, circles } = inOrder([...new Set([...kept, ...added].map(({ table }) => table))]);
  const place = (table: Table): number => order.indexOf(table);
  const parentsFirst = [...kept].sort((a, b) => place(a.table) - place(b.table));
  const childrenFirst = [...added].sort((a, b) => place(b.table) - place(a.table));
  // Where keys were rewritten, children are moved back before the rows with the new keys go.
  const rekeyed = (table: Table): boolean =>
    step.written.some((one) => sameTable(one.table, table) && one.columns !== null && !one.actions.has("insert"));
  const steps: string[] = [];
  for (const one of childrenFirst) if (!rekeyed(one.table)) steps.push(writer.removeAdded(one));
  for (const one of parentsFirst) if (one.removed) steps.push(...writer.putBack(one));
  for (const one of parentsFirst) if (one.changed.length > 0 && one.key) steps.push(writer.setBack(one, one.changed));
  for (const one of childrenFirst) if (rekeyed(one.table)) steps.push(writer.removeAdded(one));
  if (steps.length === 0) return;
  const triggers = disturbing(step, policy, kept, added);
  const lost = triggers.find(({ trigger }) => writer.recreatesTriggers && trigger.body === null);
  if (lost) {
    sheet.reason(
      `the text of trigger ${lost.trigger.name} is not in the catalog, so it cannot be created again after a restore: no restore was written`,
    );
    return;
  }
  if (triggers.length > 0 && writer.recreatesTriggers)
    sheet.reason(
      `${writer.dialect.title} cannot switch triggers off: the restore drops ${triggers.map(({ trigger }) => trigger.name).join(", ")} and creates ${triggers.length === 1 ? "it" : "them"} again, so nobody else should be at work then`,
    );
  const { statements } = writer.restoring({ kept, added, triggers, circles }, steps);
  const names = [...new Set([...kept, ...added].map(({ table }) => shownName(table)))];
  sheet.addAll(
    "restore",
    "restore",
    `Put ${names.join(", ")} back as ${names.length === 1 ? "it was" : "they were"}`,
    statements,
  );
}

function sameTable(a: Table, b: Table): boolean {
  return a === b || (a.schema === b.schema && a.name === b.name);
}

/** The triggers that would write, rewrite or refuse during a restore. */
function disturbing(
  { catalog }: ScriptStep,
  policy: Policy,
  kept: readonly Kept[],
  added: readonly Added[],
): OwnTrigger[] {
  if (!catalog) return [];
  const events = new Map<Table, Set<string>>();
  const fires = (table: Table, event: string): void => {
    events.set(table, (events.get(table) ?? new Set()).add(event));
  };
  for (const { table, removed, changed } of kept) {
    if (removed) fires(table, "insert");
    if (changed.length > 0) fires(table, "update");
  }
  for (const { table } of added) fires(table, "delete");
  const list: OwnTrigger[] = [];
  for (const [table, own] of events) {
    for (const trigger of catalog.triggersOf(tableKey(table.schema, table.name))) {
      if (trigger.timing === "instead" || trigger.enabled === "off" || trigger.enabled === "replica") continue;
      if (!trigger.events.some((event) => own.has(event)) || onlyTells(trigger, catalog, policy)) continue;
      list.push({ table, trigger });
    }
  }
  return list;
}

/** Tables with parents before children, and the keys that make that impossible. */
function inOrder(tables: readonly Table[]): { order: Table[]; circles: Circle[] } {
  const order: Table[] = [];
  const circles: Circle[] = [];
  const byKey = new Map(tables.map((table) => [tableKey(table.schema, table.name), table]));
  const left = new Set(tables);
  for (const table of tables)
    for (const key of table.foreignKeys) if (byKey.get(key.table) === table) circles.push({ table, key });
  while (left.size > 0) {
    const free = [...left].filter((table) =>
      table.foreignKeys.every(({ table: parent }) => {
        const found = byKey.get(parent);
        return !found || found === table || !left.has(found);
      }),
    );
    if (free.length === 0) {
      // A circle: one of them goes first, and the keys that it breaks are put off.
      const [first] = left;
      for (const key of first.foreignKeys) {
        const parent = byKey.get(key.table);
        if (parent && parent !== first && left.has(parent)) circles.push({ table: first, key });
      }
      free.push(first);
    }
    for (const table of free) {
      order.push(table);
      left.delete(table);
    }
  }
  return { order, circles };
}
