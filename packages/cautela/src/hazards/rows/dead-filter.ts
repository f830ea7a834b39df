import { filterParts } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Edit, Fix, Hazard, HazardContext } from "../hazard.ts";

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
  check({ changes, slice, region, show, history }) {
    // With ANSI_NULLS off, `= NULL` meets the rows that are NULL (tsql).
    const meets = history.setting("ansi_nulls") === "off";
    const dead = changes
      .filter(({ result }) => result.filter === "dead")
      .filter(({ result }) => !(meets && result.reasons.every(({ text }) => text.includes("NULL"))))
      .map(({ result, target, change }) => {
        const because = result.reasons.map(({ expr, text }) => `\`${show(expr)}\`: ${text}`);
        if (because.length === 0) because.push("the whole condition is false or NULL for every row");
        const fix = nullFix(
          result.reasons.map(({ expr }) => expr),
          slice,
          region,
        );
        return {
          ...(fix ? { fix } : {}),
          message: `No row of \`${target}\` can meet this filter, so it ${change.action === "delete" ? "deletes" : "changes"} nothing.`,
          because,
          remedy: remedyFor(result.reasons.map((reason) => reason.text).join(" ")),
        };
      });
    // One side of an OR that no row can meet, whatever the other one says.
    const idle = changes
      .filter(({ result }) => result.filter !== "dead")
      .flatMap(({ change }) => filterParts(change.conditions).flatMap(nullArms))
      .map((arm) => {
        const fix = nullFix([arm], slice, region);
        return {
          ...(fix ? { fix } : {}),
          weight: "ask" as const,
          message: `\`${show(arm)}\` is never true, so this part of the filter meets no row.`,
          because: ["a comparison with NULL is never true; IS NULL asks for it"],
          remedy: remedyFor("IS NULL"),
        };
      });
    return [...dead, ...idle];
  },
};

/** The sides of an OR that compare with NULL. */
function nullArms(part: Expr): Expr[] {
  if (part.kind !== "logic" || part.op !== "or") return [];
  return part.items.filter(
    (item) =>
      item.kind === "binary" &&
      /^(?:=|<>|!=|<|>|<=|>=)$/.test(item.op) &&
      [item.left, item.right].some((side) => constant(side)?.type === "null"),
  );
}

function remedyFor(reasons: string): string {
  if (reasons.includes("IS NULL")) return "Write IS NULL or IS NOT NULL where NULL is meant.";
  if (reasons.includes("NOT IN")) return "Remove the NULL from the list, or use NOT EXISTS.";
  if (reasons.includes("characters")) return "Look the value up as the column holds it.";
  if (reasons.includes("range")) return "Put the smaller end of the range first.";
  if (reasons.includes("both conditions") || reasons.includes("the other condition"))
    return "Join the conditions by OR if either is enough; if nothing is to change, omit the statement.";
  if (reasons.includes("ROWNUM")) return "Number the rows in a subquery, and compare that number.";
  if (reasons.includes("True is -1")) return "Compare with True or False.";
  return "Correct the condition; if nothing is to change, omit the statement.";
}

/** `x = NULL` written as IS NULL, `x <> NULL` as IS NOT NULL; null where one of the conditions is something else. */
function nullFix(
  conditions: readonly Expr[],
  slice: HazardContext["slice"],
  region: HazardContext["region"],
): Fix | null {
  const edits: Edit[] = [];
  for (const expr of conditions) {
    if (expr.kind !== "binary" || !/^(?:=|<>|!=)$/.test(expr.op)) return null;
    const isNull = (side: Expr): boolean => side.kind === "literal" && side.type === "null";
    if (isNull(expr.left) === isNull(expr.right)) return null;
    const value = isNull(expr.right) ? expr.left : expr.right;
    const test = expr.op === "=" ? "IS NULL" : "IS NOT NULL";
    edits.push({ ...region(expr), text: `${slice(value.start, value.end)} ${test}` });
  }
  return edits.length === 0 ? null : { title: "Ask with IS NULL", edits };
}
