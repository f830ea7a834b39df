import { assignedIn } from "../../analysis/conditions.ts";
import { changeLevel, type Level } from "../../analysis/levels.ts";
import { linksOf, relationsIn, uniqueOn } from "../../analysis/links.ts";
import { conjuncts } from "../../analysis/reach.ts";
import type { BoundRelation, Resolution } from "../../analysis/resolve.ts";
import type { Expr } from "../../sql/tree.ts";
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
    const { tree, names, changes } = context;
    if (!names) return [];
    if (tree.kind === "insert") return inserted(context, names);
    if (tree.kind !== "update" && tree.kind !== "merge") return [];
    const level = changeLevel(tree, names, changes[0]?.change.relation?.source ?? null);
    if (!level?.target || level.joins.some(({ join }) => join.using || join.natural)) return [];
    const here = new Set(level.scope.relations);
    const used = new Set<BoundRelation>();
    for (const { value } of assignedIn(tree, names))
      for (const one of relationsIn(value, names, here).relations) used.add(one);
    const drafts: Draft[] = [];
    for (const relation of used) {
      if (relation === level.target) continue;
      const columns = many(relation, level, names);
      if (!columns) continue;
      drafts.push({
        // What a temporary table holds, the script itself has put in.
        weight: relation.table?.temporary ? "note" : "ask",
        message: `One row of \`${level.target.name}\` can meet several rows of \`${relation.name}\`, and the value of any one of them is written.`,
        because: [
          `${columns.length > 0 ? `\`${columns.join(", ")}\` is` : "nothing that the statement settles is"} no key of \`${relation.name}\``,
        ],
        remedy: `Reduce \`${relation.name}\` to one row for each ${columns[0] ?? "key"}, or pick the row by its key.`,
      });
    }
    return drafts;
  },
};

/** The columns on which a relation is met, when they do not make it unique; null when they do or it is not known. */
function many(relation: BoundRelation, level: Level, names: Resolution): string[] | null {
  const links = linksOf(level.conditions, names, level.scope);
  const settled = new Set(links.pinned.filter((one) => one.relation === relation).map((one) => one.column));
  const met: string[] = [];
  for (const one of links.equal) {
    const column = one.left === relation ? one.leftColumn : one.right === relation ? one.rightColumn : null;
    if (column === null) continue;
    settled.add(column);
    met.push(column);
  }
  return uniqueOn(relation, settled) === false ? met : null;
}

/** INSERT … SELECT with a join that only filters, and multiplies. */
function inserted(context: HazardContext, names: Resolution): Draft[] {
  const level = changeLevel(context.tree, names, null);
  if (!level || level.joins.length === 0 || level.node.kind !== "select" || !("items" in level.node)) return [];
  const select = level.node;
  if (select.distinct || select.groupBy.length > 0) return [];
  const here = new Set(level.scope.relations);
  const used = new Set<BoundRelation>();
  const take = (expr: Expr): void => {
    if (expr.kind === "star")
      for (const one of level.scope.relations)
        if (expr.path.length === 0 || one.name === expr.path[0].text.toLowerCase()) used.add(one);
    for (const one of relationsIn(expr, names, here).relations) used.add(one);
  };
  for (const { expr } of select.items) take(expr);
  const drafts: Draft[] = [];
  for (const relation of level.scope.relations) {
    // A joined table whose columns go into the row is what the rows are made of; one that only filters multiplies them.
    if (used.has(relation) || relation.source === null) continue;
    // LEFT JOIN … WHERE column IS NULL asks for rows without a match, and multiplies nothing.
    const absent =
      level.where &&
      conjuncts(level.where).some(
        (part) =>
          part.kind === "is" &&
          part.test === "null" &&
          !part.negated &&
          relationsIn(part, names, here).relations.has(relation),
      );
    if (absent) continue;
    const columns = many(relation, level, names);
    if (!columns || columns.length === 0) continue;
    drafts.push({
      message: `\`${relation.name}\` gives no column to the new rows, but a row is inserted once for each of its rows that matches.`,
      because: [`\`${columns.join(", ")}\` is no key of \`${relation.name}\``],
      remedy: `Ask for it with EXISTS (SELECT 1 FROM ${relation.name} …) instead of joining it.`,
    });
  }
  return drafts;
}
