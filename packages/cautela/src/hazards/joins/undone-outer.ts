import { conjuncts } from "../../analysis/changes/reach.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { relationsIn } from "../../analysis/conditions/links.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * A filter that removes what a LEFT JOIN was to keep.
 *
 * @example
 * INSERT INTO notice SELECT o.owner_id FROM owner o LEFT JOIN vessel v ON … WHERE v.class = 'sail';
 */
export const undoneOuter: Hazard = {
  id: "undone-outer",
  family: "joins",
  statements: ["update", "delete", "insert", "merge", "create-table"],
  weight: "note",
  depends: ["catalog"],
  needs: Trait.joined,
  title: "A filter that undoes a LEFT JOIN",
  explanation:
    "A LEFT JOIN keeps rows without a match and fills the joined columns with NULL. A condition on one of those columns in WHERE is not " +
    "true for NULL, so the rows are gone again: the statement works as with an INNER JOIN.",
  remedy: "Move the condition to ON if the rows without a match are meant, or write INNER JOIN.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY);\nCREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer REFERENCES owner, class varchar(20));\nCREATE TABLE notice (owner_id integer);",
    dangerous:
      "INSERT INTO notice (owner_id) SELECT o.owner_id FROM owner o LEFT JOIN vessel v ON v.owner_id = o.owner_id WHERE v.class = 'sail';",
    sound:
      "INSERT INTO notice (owner_id) SELECT o.owner_id FROM owner o LEFT JOIN vessel v ON v.owner_id = o.owner_id WHERE v.vessel_id IS NULL;",
  },
  check({ tree, names, changes, show }) {
    if (!names) return [];
    const level = joinTreeOf(tree, names, changes[0]?.change.relation?.source ?? null);
    if (!level?.where) return [];
    const here = new Set(level.scope.relations);
    const drafts: Draft[] = [];
    for (const { join, relation } of level.joins) {
      if (join.type !== "left") continue;
      const part = conjuncts(level.where).find((one) => {
        if (!rejectsNull(one)) return false;
        const found = relationsIn(one, names, here);
        return found.relations.size === 1 && relation.some((other) => found.relations.has(other));
      });
      if (!part) continue;
      drafts.push({
        message: `\`${show(part)}\` is not true for rows without a match, so this LEFT JOIN works as an INNER JOIN.`,
        because: [`\`${relation[0]?.name ?? "…"}\` is NULL where nothing matches`],
        remedy: "Move the condition to ON, or write INNER JOIN.",
      });
    }
    return drafts;
  },
};

/** Whether a condition is never true when the column in it is NULL. */
function rejectsNull(part: Expr): boolean {
  if (part.kind === "is") return part.test === "null" && part.negated;
  if (part.kind !== "binary" && part.kind !== "in" && part.kind !== "between" && part.kind !== "like") return false;
  if (part.kind === "binary" && part.op === "<=>") return false;
  let caught = false;
  walk(part, (node) => {
    if (
      node.kind === "case" ||
      (node.kind === "call" &&
        /^(?:coalesce|ifnull|isnull|nvl|nz)$/i.test(node.name.parts[node.name.parts.length - 1].text))
    )
      caught = true;
    return undefined;
  });
  return !caught;
}
