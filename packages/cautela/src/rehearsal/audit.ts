import { codeEffects } from "../analysis/ripples/code-effects.ts";
import { tableClass } from "../analysis/script/table-class.ts";
import type { Catalog } from "../catalog/catalog.ts";
import { shownName, type Trigger } from "../catalog/model.ts";
import { bodyStatements } from "../catalog/parsed-code.ts";
import type { Policy } from "../policy/policy.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Name } from "../sql/nodes/tree.ts";
import type { Written } from "./script-steps.ts";

/** Rows that only tell what happened stay, those that tell of the restore included. */
export function staysAsItIs({ table, actions, direct }: Written, policy: Policy): boolean {
  const adds = [...actions].every((action) => action === "insert");
  return adds && !direct && tableClass(shownName(table), policy) === "log";
}

/** Whether a function of the database may write. */
function writes(name: Name, catalog: Catalog): boolean {
  const routine = catalog.routine(name);
  return routine !== undefined && routine.volatility !== "immutable" && routine.volatility !== "stable";
}

/** Whether a trigger does nothing but write down what happens: it may fire during a restore as well. */
export function onlyTells(trigger: Trigger, catalog: Catalog, policy: Policy): boolean {
  const called = trigger.calls === null ? null : catalog.object("routine", trigger.calls);
  const owner = trigger.calls === null ? trigger : called?.object === "routine" ? called : null;
  const parsed = owner && bodyStatements(owner, catalog.dialect);
  if (!parsed) return false;
  const { statements, rewrites, stops, calls, opaque } = codeEffects(parsed, dialects[catalog.dialect]);
  if (
    rewrites.length > 0 ||
    opaque.length > 0 ||
    calls.some(({ name, procedure }) => procedure || writes(name, catalog))
  )
    return false;
  if (stops.some(({ what }) => what === "refuses")) return false;
  // A row trigger before the change that returns nothing drops the row.
  if (trigger.timing !== "after" && stops.length > 0) return false;
  return statements.every(({ statement }) => {
    if (statement.kind === "select" || statement.kind === "setting") return true;
    if (statement.kind !== "insert" || statement.target.kind !== "table") return false;
    const table = catalog.resolve(statement.target.name);
    if (!table || tableClass(shownName(table), policy) !== "log") return false;
    return statement.conflicts.length === 0 && !statement.replace;
  });
}
