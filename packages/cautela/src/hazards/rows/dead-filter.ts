import { Trait } from "../../analysis/statement/traits.ts";
import { singleBlanks } from "../../text/blanks.ts";
import type { Hazard } from "../hazard.ts";

/**
 * A filter that no row can meet.
 *
 * @example
 * UPDATE owner SET phone = '' WHERE mail = NULL;   -- ask: changes nothing
 */
export const deadFilter: Hazard = {
  id: "dead-filter",
  family: "rows",
  weight: "ask",
  depends: ["names", "code"],
  needs: Trait.change,
  title: "A filter that no row can meet",
  explanation:
    "The condition is never true: a comparison with NULL, two conditions that rule each other out, NOT IN a list that " +
    "holds NULL, a range that ends before it begins. The statement runs, reports no error and changes nothing, and " +
    "whoever ran it believes the change was made.",
  remedy: "Ask for NULL with IS NULL; join alternatives by OR; put the smaller end of a range first.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail text, phone text);",
    dangerous: "UPDATE owner SET phone = '' WHERE mail = NULL;",
    sound: "UPDATE owner SET phone = '' WHERE mail IS NULL;",
  },
  check({ changes, slice }) {
    return changes
      .filter(({ result }) => result.filter === "dead")
      .map(({ result, target, change }) => {
        const because = result.reasons.map(
          ({ expr, text }) => `\`${singleBlanks(slice(expr.start, expr.end)).slice(0, 60)}\`: ${text}`,
        );
        if (because.length === 0) because.push("the whole condition is false or NULL for every row");
        return {
          message: `No row of \`${target}\` can meet this filter, so it ${change.action === "delete" ? "deletes" : "changes"} nothing.`,
          because,
          remedy: remedyFor(result.reasons.map((reason) => reason.text).join(" ")),
        };
      });
  },
};

function remedyFor(reasons: string): string {
  if (reasons.includes("IS NULL")) return "Write IS NULL or IS NOT NULL where NULL is meant.";
  if (reasons.includes("NOT IN")) return "Take the NULL out of the list, or use NOT EXISTS.";
  if (reasons.includes("range")) return "Put the smaller end of the range first.";
  return "Join the conditions by OR if either is enough; if nothing is to change, omit the statement.";
}
