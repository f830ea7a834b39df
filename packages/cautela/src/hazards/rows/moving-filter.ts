import { assignedColumns } from "../../analysis/changes/assigned-columns.ts";
import { filterParts } from "../../analysis/conditions/conditions.ts";
import { isAggregate } from "../../analysis/conditions/links.ts";
import { type Moving, movingCall, movingName } from "../../analysis/conditions/moving.ts";
import { within } from "../../analysis/statement/node-index.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Expr, Query } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext, JudgedChange } from "../hazard.ts";
import { listedShort } from "../wording.ts";

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
    if (moving.length === 0 && context.found.queries.length === 0) return drafts;
    for (const judged of context.changes) {
      const { change, softener, target } = judged;
      if (softener || change.action === "truncate") continue;
      for (const part of filterParts(change.conditions)) {
        const draft = moves(part, moving, target, context) ?? movesItself(part, judged, context);
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
      cause: "clock",
      about: context.show(part),
      together: (filters) => `Which rows ${listedShort(filters)} meet depends on when the script runs.`,
      message: `Which rows \`${context.show(part)}\` meets depends on when it runs.`,
      because: [`\`${context.show(clock)}\` is the moment of the run`],
      remedy: "Write the date out if the rows were counted before.",
    };
  }
  return null;
}

/** A comparison with an average, a sum, an end of the very table whose rows change: what it gives changes with them. */
function movesItself(part: Expr, { change, target }: JudgedChange, context: HazardContext): Draft | null {
  const { catalog, dialect, show } = context;
  if (part.kind !== "binary") return null;
  const [query, beside] =
    part.right.kind === "subquery" ? [part.right.query, part.left] : [subquery(part.left), part.right];
  const body = query?.body;
  const source = body?.kind === "select" && body.from.length === 1 ? body.from[0] : null;
  if (
    !query ||
    body?.kind !== "select" ||
    source?.kind !== "table" ||
    body.items.length !== 1 ||
    body.groupBy.length > 0
  )
    return null;
  if (relationKey(source.name, catalog, dialect) !== relationKey(change.name, catalog, dialect)) return null;
  const calls = context.found.calls.filter((call) => within(call, body.items[0].expr) && isAggregate(call));
  if (calls.length === 0 || isCorrelated(query, context)) return null;
  const ends = calls.every(({ name }) => /^(?:min|max)$/i.test(name.parts[name.parts.length - 1].text));
  const aggregated = calls.flatMap(({ args }) => columnNames(args));
  const read = [...aggregated, ...(body.where ? columnNames([body.where]) : [])];
  const { statement } = change;
  const written =
    statement.kind === "update" ? assignedColumns(statement.assignments).map((one) => one.toLowerCase()) : null;
  if (written && !written.some((column) => read.includes(column))) return null;
  // What lies below the highest or above the lowest value leaves that value where it is.
  const meetsEnd = part.op === "=" && columnNames([beside]).some((column) => aggregated.includes(column));
  if (ends && !meetsEnd) return null;
  return {
    weight: "ask",
    message: `\`${show(query)}\` is worked out from \`${target}\`, whose rows this ${change.action === "delete" ? "deletes" : "changes"}: a second run meets other rows.`,
    because: ["when the statement has run, the subquery gives another value"],
    remedy: "Look the value up first, and write it out or keep it in a variable.",
  };
}

function subquery(expr: Expr): Query | null {
  return expr.kind === "subquery" ? expr.query : null;
}

/** The columns in some expressions, by their last names, in lower case. */
function columnNames(list: readonly Expr[]): string[] {
  const found: string[] = [];
  for (const expr of list)
    walk(expr, (node) => {
      if (node.kind === "column") found.push(node.path[node.path.length - 1].text.toLowerCase());
      return undefined;
    });
  return found;
}

/** Whether a subquery speaks of the row around it. */
function isCorrelated(query: Query, { found, names }: HazardContext): boolean {
  return found.columns.some((node) => within(node, query) && (names?.bindings.get(node)?.level ?? 0) > 0);
}
