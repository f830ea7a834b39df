import { shownTrigger, type Trigger } from "../../catalog/model.ts";
import type { Dialect, SessionState } from "../../sql/dialects/dialect.ts";
import type { PropagatedChange } from "./propagated-change.ts";

/**
 * The triggers of a table that fire for a change, in their order, and those that one would expect to fire and that do
 * not, with the reason. Conditions are asked later: they depend on values.
 */
export function firingTriggers(
  wave: PropagatedChange,
  triggers: readonly Trigger[],
  dialect: Dialect,
  session: SessionState,
): { fires: Trigger[]; skipped: { trigger: Trigger; text: string }[] } {
  const fires: Trigger[] = [];
  const skipped: { trigger: Trigger; text: string }[] = [];
  for (const trigger of triggers) {
    const forDelete = wave.action === "truncate" && trigger.events.includes("delete");
    if (!trigger.events.includes(wave.action)) {
      if (forDelete && trigger.enabled !== "off")
        skipped.push({ trigger, text: `TRUNCATE does not fire \`${shownTrigger(trigger)}\`, which fires for DELETE` });
      continue;
    }
    if (trigger.enabled === "off") {
      skipped.push({ trigger, text: `\`${shownTrigger(trigger)}\` is disabled` });
      continue;
    }
    if (trigger.enabled === "replica" ? session.triggers : !session.triggers && trigger.enabled !== "always") {
      if (trigger.enabled !== "replica")
        skipped.push({ trigger, text: `session_replication_role keeps \`${shownTrigger(trigger)}\` from firing` });
      continue;
    }
    if (!wave.fires) {
      skipped.push({ trigger, text: `a cascade does not fire \`${shownTrigger(trigger)}\` in ${dialect.title}` });
      continue;
    }
    if (wave.replaced && !session.recursion && dialect.engine.replaceNeedsRecursion) {
      skipped.push({ trigger, text: `REPLACE fires \`${shownTrigger(trigger)}\` only while recursive_triggers is on` });
      continue;
    }
    if (wave.rowless && trigger.level === "row") continue;
    if (wave.action === "update" && trigger.columns && wave.columns) {
      const listed = trigger.columns;
      if (!wave.columns.some((column) => listed.includes(column))) continue;
    }
    fires.push(trigger);
  }
  return { fires, skipped };
}
