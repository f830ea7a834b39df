import { filterParts } from "../../analysis/conditions/conditions.ts";
import { type Moving, movingCall, movingName } from "../../analysis/conditions/moving.ts";
import { within } from "../../analysis/statement/node-index.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A filter that meets other rows at every run.
 *
 * @example
 * DELETE FROM tide_reading WHERE taken_at < now() - interval '1 year';   -- note: today's year
 */
export const movingFilter: Hazard = {
  id: "moving-filter",
  family: "rows",
  weight: "note",
  needs: Trait.change,
  title: "A filter that moves",
  explanation:
    "The filter depends on the clock, on chance, or on the very rows that the statement changes. The SELECT that looked " +
    "before, the run on the test database and the real run meet different rows; with chance nobody can say which.",
  remedy: "Write the date out, or keep the keys in a table first and change by those keys.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tide_reading (taken_at timestamp PRIMARY KEY, level_m numeric(5,2) NOT NULL);",
    dangerous: "DELETE FROM tide_reading WHERE taken_at < now() - interval '1 year';",
    sound: "DELETE FROM tide_reading WHERE taken_at < timestamp '2025-01-01';",
  },
  check(context) {
    const drafts: Draft[] = [];
    if (context.changes.length === 0) return drafts;
    const moving = movingParts(context);
    if (moving.length === 0) return drafts;
    for (const judged of context.changes) {
      const { change, softener, target } = judged;
      if (softener || change.action === "truncate") continue;
      for (const part of filterParts(change.conditions)) {
        const draft = moves(part, moving, target, context);
        if (draft) {
          drafts.push(draft);
          break;
        }
      }
    }
    return drafts;
  },
};

/** The calls of a clock or of chance, and the names that are such calls without parentheses. */
function movingParts({ found, names }: HazardContext): Moving[] {
  const list: Moving[] = [];
  for (const node of found.calls) {
    const moving = movingCall(node);
    if (moving) list.push(moving);
  }
  for (const node of found.columns) {
    const moving = movingName(node, () => Boolean(names?.bindings.get(node)?.offered));
    if (moving) list.push(moving);
  }
  return list;
}

function moves(part: Expr, moving: readonly Moving[], target: string, context: HazardContext): Draft | null {
  const here = moving.filter(({ node }) => within(node, part));
  const chance = here.find((one) => one.chance)?.node;
  const clock = here.find((one) => !one.chance)?.node;
  if (chance) {
    return {
      weight: "ask",
      message: `\`${context.show(part)}\` picks rows of \`${target}\` by chance.`,
      because: [`\`${context.show(chance)}\` is another value at every run, and for every row`],
      remedy: "Pick the rows once into a table, look at them, and change by their keys.",
    };
  }
  if (clock) {
    return {
      message: `Which rows \`${context.show(part)}\` meets depends on when it runs.`,
      because: [`\`${context.show(clock)}\` is the moment of the run`],
      remedy: "Write the date out if the rows were counted before.",
    };
  }
  return null;
}
