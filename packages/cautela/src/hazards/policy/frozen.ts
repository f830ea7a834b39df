import { changedTables } from "../../analysis/statement/named-target.ts";
import { isFrozen } from "../../policy/freeze.ts";
import { isTableOf, listOf } from "../../policy/patterns.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A change at a time at which the team's policy allows none.
 *
 * @example
 * // freeze: [{ days: [fri], hours: "16:00-24:00", because: "Nobody is here at the weekend." }]
 * UPDATE tariff SET rate = 4 WHERE tariff_id = 3;   -- stop on a Friday evening
 */
export const frozen: Hazard = {
  id: "frozen",
  family: "policy",
  weight: "stop",
  title: "A change at a time at which the policy allows none",
  explanation:
    "The policy names times at which nothing is changed (freeze): a span of days, hours of a weekday, for all tables or for some. The script is to run at such a " +
    "time: the one that the review is given as its date. Without a date this is not judged, and listed as unchecked. Statements that only read are quiet.",
  remedy: "Run it when the freeze is over, or have the policy changed.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff (tariff_id integer PRIMARY KEY, rate numeric(10,2) NOT NULL);",
    dangerous: "UPDATE tariff SET rate = 4 WHERE tariff_id = 3;",
    sound: "SELECT rate FROM tariff WHERE tariff_id = 3;",
    policy: { freeze: [{ from: "2026-12-20", to: "2027-01-03", because: "The year is being closed." }] },
    date: "2026-12-24",
  },
  check({ tree, statement, changes, catalog, policy, origin: { date } }) {
    if (!policy.freeze || date === null) return [];
    const writes = changes.length > 0 || statement.class === "rows" || statement.class === "structure";
    if (!writes && statement.class !== "rights" && tree.kind !== "call-statement" && tree.kind !== "dynamic") return [];
    const drafts: Draft[] = [];
    for (const freeze of policy.freeze) {
      if (!isFrozen(freeze, date)) continue;
      const tables = listOf(freeze.tables);
      if (tables.length > 0 && !changedTables(tree, changes, catalog).some((table) => isTableOf(table, tables)))
        continue;
      drafts.push({
        message: freeze.because,
        because: [`it is to run on ${date.replace("T", " at ")}, and the policy allows no change then`],
        remedy: "Run it when the freeze is over.",
      });
    }
    return drafts;
  },
};
