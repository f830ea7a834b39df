import { multipliedBy } from "../../analysis/changes/multiplied.ts";
import { conjuncts } from "../../analysis/changes/reach.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import { isAggregate, uniqueOn } from "../../analysis/conditions/links.ts";
import type { Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A source that has several rows for one row of the target.
 *
 * @example
 * UPDATE vessel SET class = m.status FROM mooring m WHERE m.vessel_id = vessel.vessel_id;   -- many moorings a vessel
 */
export const fanOut: Hazard = {
  id: "fan-out",
  family: "joins",
  statements: ["update", "insert", "merge"],
  weight: "ask",
  depends: ["names"],
  needs: Trait.several,
  title: "Several rows of the source for one row of the target",
  explanation:
    "The columns of the join are no key of the source, so one row of the target can meet several rows of it. An UPDATE then writes " +
    "the value of any one of them, and nobody can say which; MERGE fails or writes twice; INSERT … SELECT brings the row in twice.",
  remedy:
    "Reduce the source to one row for each key first: GROUP BY, DISTINCT, a window with row_number() = 1, or a filter that picks one.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE vessel (vessel_id integer PRIMARY KEY, last_seen date);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, vessel_id integer NOT NULL REFERENCES vessel, from_day date NOT NULL);",
    dangerous: "UPDATE vessel SET last_seen = m.from_day FROM mooring m WHERE m.vessel_id = vessel.vessel_id;",
    sound:
      "UPDATE vessel SET last_seen = m.day FROM (SELECT vessel_id, max(from_day) AS day FROM mooring GROUP BY vessel_id) m WHERE m.vessel_id = vessel.vessel_id;",
  },
  check(context) {
    const { names } = context;
    if (!names) return [];
    return [...scalars(context), ...joined(context, names)];
  },
};

function joined({ tree, changes, slice }: HazardContext, names: Resolution): Draft[] {
  return multipliedBy(tree, names, changes[0]?.change ?? null).map(({ relation, columns, target }) =>
    target
      ? {
          // What a temporary table holds, the script itself has put in.
          weight: relation.table?.temporary ? ("note" as const) : ("ask" as const),
          message: `One row of \`${target.name}\` can meet several rows of \`${relation.name}\`, and the value of any one of them is written.`,
          because: [
            `${columns.length > 0 ? `\`${columns.join(", ")}\` is` : "nothing that the statement settles is"} no key of \`${relation.name}\``,
          ],
          remedy: `Reduce \`${relation.name}\` to one row for each ${columns[0] === undefined ? "key" : `\`${columns[0]}\``}, or pick the row by its key.`,
        }
      : {
          message: `\`${relation.name}\` gives no column to the new rows, but a row is inserted once for each of its rows that matches.`,
          because: [`\`${columns.join(", ")}\` is no key of \`${relation.name}\``],
          remedy: `Ask for it with EXISTS (SELECT 1 FROM ${relation.source?.kind === "table" ? slice(relation.source.name.start, relation.source.name.end) : relation.name} …) instead of joining it.`,
        },
  );
}

/** A scalar subquery of SET that may find several rows: its table is not unique on what ties it to the row. */
function scalars({ tree, names, changes, show }: HazardContext): Draft[] {
  if (tree.kind !== "update" || !names) return [];
  const drafts: Draft[] = [];
  for (const { value, targets } of tree.assignments) {
    if (value.kind !== "subquery" || targets.length !== 1) continue;
    const { body, limit } = value.query;
    const source = body.kind === "select" && body.from.length === 1 ? body.from[0] : null;
    if (body.kind !== "select" || source?.kind !== "table" || limit || body.top || body.distinct) continue;
    if (body.groupBy.length > 0 || body.items.some(({ expr }) => isAggregate(expr))) continue;
    const scope = names.scopes.get(body);
    const relation = scope?.relations[0];
    if (!scope || !relation?.table || !body.where || !changes[0]?.change.names.correlated(value.query)) continue;
    const settled = new Set<string>();
    for (const part of conjuncts(body.where)) {
      if (part.kind !== "binary" || (part.op !== "=" && part.op !== "<=>")) continue;
      for (const side of [part.left, part.right]) {
        const ref = plainColumn(side);
        const binding = ref ? names.bindings.get(ref) : undefined;
        if (binding?.relation === relation && binding.offered) settled.add(binding.offered.name);
      }
    }
    if (settled.size === 0 || uniqueOn(relation, settled) !== false) continue;
    drafts.push({
      weight: "ask",
      message: `\`${show(value.query)}\` may find several rows of \`${relation.name}\` for one row, and then the statement fails.`,
      because: [`\`${[...settled].join(", ")}\` is no key of \`${relation.name}\``],
      remedy: "Ask for one row: by its whole key, by an aggregate, or by ORDER BY with a limit.",
    });
  }
  return drafts;
}
