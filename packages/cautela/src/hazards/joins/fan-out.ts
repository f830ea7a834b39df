import { multipliedBy } from "../../analysis/changes/multiplied.ts";
import { conjuncts, rownumLimit } from "../../analysis/changes/reach.ts";
import { assignedIn, filterParts, isTie, usedColumn } from "../../analysis/conditions/conditions.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import { isAggregate, relationsIn, uniqueOn } from "../../analysis/conditions/links.ts";
import type { BoundRelation, Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { namesKey, namesKeyOf } from "../../catalog/columns.ts";
import { parted } from "../../catalog/names.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
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
    return [...scalars(context), ...joined(context, names), ...versions(context, names), ...summed(context, names)];
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
            columns.length > 0
              ? `\`${columns.join(", ")}\` is no key of \`${relation.name}\``
              : `no key of \`${relation.name}\` is compared for equality`,
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

/**
 * A source of rows with a date from which they hold, all of which have begun: nothing is known of its keys, and there is
 * one row for each time the value has changed.
 */
function versions({ tree, changes, show }: HazardContext, names: Resolution): Draft[] {
  const change = changes[0]?.change;
  if (tree.kind !== "update" || !change) return [];
  const parts = filterParts(change.conditions);
  const begun = parts.flatMap((part) => {
    if (part.kind !== "binary" || !/^[<>]=?$/.test(part.op)) return [];
    const side = part.op.startsWith("<") ? part.left : part.right;
    const used = usedColumn(side, names);
    const written = plainColumn(side)?.path ?? [];
    return used?.relation && BEGINS.test(parted(written[written.length - 1].text)) ? [{ part, used }] : [];
  });
  for (const { part, used } of begun) {
    const { relation } = used;
    if (relation?.source?.kind !== "table" || relation.name === change.relation?.name) continue;
    if (relation.table && !relation.table.partial) continue;
    const written = assignedIn(tree, names).some(({ value }) => usedColumn(value, names)?.relation === relation);
    // An end of the time, or whatever else is asked of the row, may leave one.
    const own = parts.filter((one) => one !== part && mentions(one, relation, names));
    if (!written || own.length === 0 || own.some((one) => !isTie(one))) continue;
    return [
      {
        weight: "ask",
        message: `One row of \`${change.relation?.name ?? ""}\` can meet several rows of \`${relation.name}\`, and the value of any one of them is written.`,
        because: [
          `\`${show(part)}\` holds for every row of \`${relation.name}\` that has begun to be valid, past ones among them`,
        ],
        remedy: `Pick the last one: the row with the greatest \`${used.name}\` up to that day, or ask for its end as well.`,
      },
    ];
  }
  return [];
}

/**
 * Something of a source that is not known is added to a column, and the source is met by a reference to the target: of several rows
 * with that reference one is added, and the others are left out.
 */
function summed({ tree, changes, show }: HazardContext, names: Resolution): Draft[] {
  const change = changes[0]?.change;
  if (tree.kind !== "update" || !change) return [];
  const parts = filterParts(change.conditions);
  for (const { column, value } of assignedIn(tree, names)) {
    if (value.kind !== "binary" || !/^[-+]$/.test(value.op)) continue;
    const sides = [value.left, value.right].map((side) => usedColumn(side, names));
    const from = sides.find((one) => one?.relation && one.relation.name !== change.relation?.name)?.relation;
    if (!sides.some((one) => one?.name === column.name && one.relation !== from)) continue;
    if (from?.source?.kind !== "table" || (from.table && !from.table.partial)) continue;
    const table = from.source.name.parts[from.source.name.parts.length - 1].text;
    const ties = parts.filter(isTie).flatMap((part) => (part.kind === "binary" ? [part.left, part.right] : []));
    const own = ties.flatMap((side) => {
      const used = usedColumn(side, names);
      return used?.relation === from ? [used.name] : [];
    });
    const [reference, ...more] = own;
    // By its own key, or by several columns, it may be one row.
    if (reference === undefined || more.length > 0 || !namesKey(reference) || namesKeyOf(reference, table)) continue;
    return [
      {
        weight: "ask",
        message: `Where several rows of \`${from.name}\` have the same \`${reference}\`, only one of them goes into \`${show(value)}\`.`,
        because: [
          `\`${reference}\` of \`${table}\` has the name of a reference, and a row is changed once, whatever it meets`,
        ],
        remedy: `Add them up first: a subquery with SUM and GROUP BY ${reference}.`,
      },
    ];
  }
  return [];
}

const BEGINS = /(?:^|_)(?:valid|effective|starts?|begins?|since|from)(?:_|$)/i;

function mentions(part: Expr, relation: BoundRelation, names: Resolution): boolean {
  return relationsIn(part, names, new Set([relation])).relations.size > 0;
}

/** A scalar subquery of SET that may find several rows: its table is not unique on what ties it to the row. */
function scalars({ tree, names, changes, show, dialect }: HazardContext): Draft[] {
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
    if (rownumLimit([body.where], dialect) === 1) continue;
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
