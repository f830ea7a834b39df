import { assignedIn, pinsOf, sameValue, shownValue } from "../../analysis/conditions/conditions.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { branchValues } from "./missing-else.ts";

/**
 * WHEN branches and a filter that do not refer to the same values.
 *
 * @example
 * UPDATE vessel SET crew = CASE class WHEN 'sail' THEN 2 WHEN 'barge' THEN 4 END WHERE class IN ('sail', 'motor');
 */
export const caseGap: Hazard = {
  id: "case-gap",
  family: "values",
  statements: ["update"],
  weight: "ask",
  needs: Trait.case,
  title: "WHEN branches and a filter that do not match",
  explanation:
    "The filter lists values, the CASE lists values of the same column, and the two lists differ: a value that passes the filter finds no " +
    "branch, or a branch is for a value that the filter never lets through. One of the lists was changed and the other forgotten.",
  remedy: "Make both lists the same.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, class varchar(20) NOT NULL, crew integer);",
    dangerous:
      "UPDATE vessel SET crew = CASE class WHEN 'sail' THEN 2 WHEN 'barge' THEN 4 ELSE crew END WHERE class IN ('sail', 'motor');",
    sound:
      "UPDATE vessel SET crew = CASE class WHEN 'sail' THEN 2 WHEN 'motor' THEN 3 END WHERE class IN ('sail', 'motor');",
  },
  check({ tree, names, changes }) {
    if (tree.kind !== "update" || changes.length === 0) return [];
    if (!tree.assignments.some(({ value }) => value.kind === "case")) return [];
    const pinned = pinsOf(changes[0].change.conditions, names);
    const drafts: Draft[] = [];
    for (const { value, column } of assignedIn(tree, names)) {
      if (value.kind !== "case") continue;
      const branches = branchValues(value);
      const filter = branches && pinned.find((one) => one.column.name === branches.column);
      if (!branches || !filter) continue;
      const without = filter.values.filter((one) => !branches.values.some((branch) => sameValue(branch, one)));
      const unused = branches.values.filter((one) => !filter.values.some((other) => sameValue(other, one)));
      if (without.length === 0 && unused.length === 0) continue;
      // One branch and an ELSE for the rest is a choice, not a forgotten value.
      if (unused.length === 0 && value.otherwise !== null) continue;
      const rest = value.otherwise === null ? "NULL" : "what ELSE says";
      drafts.push({
        message:
          without.length > 0
            ? `The filter lets \`${branches.column}\` = ${without.map(shownValue).join(", ")} through, for which there is no WHEN branch: \`${column.name}\` gets ${rest}.`
            : `The WHEN branch for ${unused.map(shownValue).join(", ")} is never used: the filter lets no such row through.`,
        because: [
          `the WHEN branches are for ${branches.values.map(shownValue).join(", ")}`,
          `the filter admits ${filter.values.map(shownValue).join(", ")}`,
        ],
        remedy: "Make both lists the same.",
      });
    }
    return drafts;
  },
};
