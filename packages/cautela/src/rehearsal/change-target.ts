import type { Change } from "../analysis/changes/change.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { Catalog } from "../catalog/catalog.ts";
import type { Table } from "../catalog/model.ts";
import type { Statement } from "../sql/nodes/tree.ts";
import { type AssignedText, type ChangeText, changeText } from "../writing/change-text.ts";
import { keyOf } from "../writing/kept.ts";
import { harmOf } from "./harmless.ts";
import { where } from "./looks.ts";
import type { ScriptStep } from "./script-steps.ts";
import type { Sheet } from "./sheet.ts";

/** The clauses of one target of the statement. */
export interface Target {
  change: Change;
  table: Table | undefined;
  text: ChangeText;
  /** What its filter may do when a query asks by it; null: it only reads. */
  filter: { why: string; writes: boolean } | null;
  /** What its new values may do when they are computed beforehand; null: nothing. */
  values: string | null;
}

/** The targets whose clauses can be taken apart; for the others the reason is given. */
export function targetsOf(step: ScriptStep, sheet: Sheet): Target[] {
  const { source } = step;
  if (source.tree.kind !== "update" && source.tree.kind !== "delete") return [];
  const targets: Target[] = [];
  for (const { change } of source.changes) {
    const text = changeText(source, change, sheet.writer);
    if (typeof text === "string") {
      sheet.reason(`no query was written: ${text}`);
      return [];
    }
    targets.push({
      change,
      table: viewed(step, change) ? undefined : current(step, change.table),
      text,
      ...harms(step, text),
    });
  }
  return targets;
}

function harms({ catalog }: ScriptStep, text: ChangeText): Pick<Target, "filter" | "values"> {
  if (!catalog) return { filter: null, values: null };
  return {
    filter: harmOf(`${text.head}SELECT 1 FROM ${text.from}${where(text)}`, catalog),
    values: valueHarm(text, catalog),
  };
}

/** What the new values may do when they are looked at; null: nothing. */
function valueHarm(text: ChangeText, catalog: Catalog): string | null {
  const values = text.assignments
    .filter(({ value, assignment }) => value !== "" && !isDefault(assignment))
    .map(({ value }) => `(${value})`);
  if (values.length === 0) return null;
  const found = harmOf(`${text.head}SELECT ${values.join(", ")} FROM ${text.from}`, catalog);
  return found?.writes ? found.why : null;
}

/** The table as the steps have it: the review has an object of its own for it. */
function current(step: ScriptStep, table: Table | undefined): Table | undefined {
  return table && (step.written.find((one) => sameTable(one.table, table))?.table ?? table);
}

/** The view through which a change goes. */
export function viewed(step: ScriptStep, change: Change): FiredRipple | undefined {
  return step.fired.find(
    ({ firing, ripple }) =>
      ripple.nodes[0]?.object === "view" && (firing.change === change || firing.change?.statement === change.statement),
  );
}

/** The columns of a view, where the change goes through one: rows are told apart by what it shows. */
function viewKey(step: ScriptStep, change: Change): readonly string[] | null {
  const view = viewed(step, change)?.ripple.nodes[0].relation;
  const base = step.written.find(({ direct }) => direct)?.table;
  const key = base ? keyOf(base) : null;
  const shown = view?.columns?.map((one) => (typeof one === "string" ? one : one.name));
  return key?.every((one) => shown?.includes(one)) ? key : null;
}

/** The columns by which rows of a target are told apart; null: none. */
export function keyOfTarget(step: ScriptStep, { table, change }: Target): readonly string[] | null {
  return table ? keyOf(table) : viewed(step, change) ? viewKey(step, change) : null;
}

/** An upsert, REPLACE or MERGE may also overwrite rows that are there. */
export function overwrites(tree: Statement): boolean {
  if (tree.kind === "merge") return true;
  return (
    tree.kind === "insert" &&
    (tree.replace || tree.conflicts.some(({ action }) => action === "update" || action === "replace"))
  );
}

/** Whether two objects are one table, in the review's catalog and in that of the steps. */
export function sameTable(
  a: Pick<Table, "schema" | "name" | "object"> | { object: "view"; schema: string; name: string } | null | undefined,
  b: Table,
): boolean {
  return !!a && a.object === b.object && a.schema === b.schema && a.name === b.name;
}

/** Tables inherit from it (postgresql), so that its name alone means their rows as well. */
export function inherited(children: readonly Table[]): boolean {
  return children.some(({ partitionOf }) => partitionOf === null);
}

export function isDefault({ value }: AssignedText["assignment"]): boolean {
  return value.kind === "literal" && value.type === "default";
}
