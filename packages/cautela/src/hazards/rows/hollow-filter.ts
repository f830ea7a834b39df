import { Trait } from "../../analysis/statement/traits.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { refilled } from "../refilled.ts";
import { allRows, oneLine, verb } from "../wording.ts";

/**
 * A filter that is always true, however it is written.
 *
 * @example
 * DELETE FROM pilotage WHERE pilot_id = 4 OR 1 = 1;   -- stop: deletes all rows of `pilotage`
 */
export const hollowFilter: Hazard = {
  id: "hollow-filter",
  family: "rows",
  weight: "stop",
  subsumes: ["no-way-back"],
  depends: ["names", "code"],
  needs: Trait.change,
  title: "A filter that lets everything through",
  explanation:
    "There is a WHERE, but no row fails it: it compares constants or a column with itself, a part joined by OR is " +
    "always true, a pattern matches every text, a required column is asked whether it is NOT NULL, a key is looked " +
    "for in its own table, or an EXISTS has no tie to the row. The statement reaches the whole table and looks as if " +
    "it did not.",
  remedy:
    "Replace the part that is always true by the condition that was meant. If every row is meant, omit the WHERE and say so.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE pilotage (pilotage_id integer PRIMARY KEY, pilot_id integer NOT NULL, note text);",
    dangerous: "DELETE FROM pilotage WHERE pilot_id = 4 OR pilot_id IS NOT NULL;",
    sound: "DELETE FROM pilotage WHERE pilot_id = 4 OR note IS NOT NULL;",
  },
  check({ changes, slice, catalog, dialect, at }) {
    return (
      changes
        .filter(({ result, softener }) => result.filter === "hollow" && softener === null)
        // What slips is told by its own name.
        .filter(({ result }) => !result.reasons.some(({ slipped }) => slipped))
        .map((judged) => {
          const { result, target, copy } = judged;
          const because = result.reasons.map(
            ({ expr, text }) => `\`${oneLine(slice(expr.start, expr.end))}\`: ${text}`,
          );
          if (because.length === 0) because.push("the whole condition is true for every row");
          const partly = result.reach.bound === "some";
          if (partly) because.push("only rows in which that column is NULL are left out");
          if (copy) because.push(copy);
          const rows = partly ? `every row of \`${target}\` that has a value there` : allRows(judged);
          // An EXISTS without a tie is true or false for all rows at once, as the other table happens to be.
          const untied = result.reasons.length > 0 && result.reasons.every(({ expr }) => expr.kind === "exists");
          const draft: Draft = {
            weight: copy ? ("ask" as const) : ("stop" as const),
            message: untied
              ? `The filter does not ask about the row, so this ${verb(judged)} ${rows}, or none.`
              : `The filter is always true, so this ${verb(judged)} ${rows}.`,
            because,
            remedy:
              "Replace the part that is always true by the condition you mean. If every row is meant, omit the WHERE and keep a copy first.",
          };
          if (judged.change.action === "delete" && !untied && !partly)
            draft.settle = (script) =>
              refilled(draft, target, relationKey(judged.change.name, catalog, dialect), at, script);
          return draft;
        })
    );
  },
};
