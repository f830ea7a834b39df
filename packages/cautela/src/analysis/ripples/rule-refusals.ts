import type { Rule } from "../../catalog/model.ts";
import type { Manner } from "../changes/row-change.ts";

/**
 * Why a statement is refused for the rules of a table or view; null where it is not.
 *
 * PostgreSQL: manual, MERGE ("Notes": no rules), WITH queries ("Data-Modifying Statements in WITH"), CREATE RULE ("a RETURNING
 * clause").
 *
 * @example
 * -- CREATE RULE berth_kept AS ON DELETE TO berth DO ALSO INSERT INTO gone VALUES (OLD.berth_id)
 * WITH d AS (DELETE FROM berth) SELECT 1   -- 0A000: DO ALSO rules are not supported
 */
export function ruleRefusal(rules: readonly Rule[], event: string, manner: Manner): string | null {
  const live = rules.filter((one) => one.enabled && one.event !== "select");
  if (manner.merge && live.length > 0) return "MERGE takes no table or view that has rules";
  const own = live.filter((one) => one.event === event);
  const instead = own.filter((one) => one.instead);
  if (manner.returning && instead.length > 0 && !instead.some(({ body }) => /\breturning\b/i.test(body ?? "")))
    return "RETURNING needs a rule that returns rows itself";
  const acts = own.filter((one) => !doesNothing(one));
  const several = acts.find((one) => !one.instead || one.condition !== null || actions(one) > 1);
  if (manner.inWith && several)
    return `in WITH the engine takes no rule that acts ${several.instead ? (several.condition === null ? "several times" : "under a condition") : "besides"}`;
  if (manner.inWith && own.some((one) => one.instead && one.condition === null && doesNothing(one)))
    return "in WITH the engine takes no rule that does nothing instead";
  if (manner.afterWith && several)
    return "the rule makes several statements of this one, and its WITH can stand in one only";
  return null;
}

export function doesNothing({ body }: Rule): boolean {
  return body === null || /^\s*nothing\s*$/i.test(body);
}

/** How many statements a rule runs: those in its parentheses, told by their semicolons. */
function actions({ body }: Rule): number {
  const text = body?.trim() ?? "";
  return text.startsWith("(") ? text.slice(1, -1).replace(/;\s*$/, "").split(";").length : 1;
}
