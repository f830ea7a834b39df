import { conjuncts } from "../../analysis/changes/reach.ts";
import { usedColumn } from "../../analysis/conditions/conditions.ts";
import { standsIn } from "../../analysis/conditions/constants.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { relationsIn } from "../../analysis/conditions/links.ts";
import type { BoundRelation, Resolution } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Expr, Join, Span } from "../../sql/nodes/tree.ts";
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
    "true for NULL, so the rows are gone again: the statement works as with an INNER JOIN. IS NULL finds the rows without a match only " +
    "where the column is never NULL in a row that is there.",
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
      if (!part) {
        const draft = looseAbsence(join, relation, conjuncts(level.where), names, show);
        if (draft) drafts.push(draft);
        continue;
      }
      drafts.push({
        message: `\`${show(part)}\` is not true for rows without a match, so this LEFT JOIN works as an INNER JOIN.`,
        because: [`\`${relation[0]?.name ?? "…"}\` is NULL where nothing matches`],
        remedy: "Move the condition to ON, or write INNER JOIN.",
      });
    }
    return drafts;
  },
};

/**
 * `v.class IS NULL` after a LEFT JOIN: rows without a match, and those whose match has no class. Only a column that is never
 * NULL where there is a match, or that the join compares, tells the two apart.
 */
function looseAbsence(
  { on, using, natural }: Join,
  relation: readonly BoundRelation[],
  parts: readonly Expr[],
  names: Resolution,
  show: (node: Span) => string,
): Draft | null {
  const [only] = relation;
  if (relation.length !== 1 || !only.table || !on || using || natural) return null;
  const asked = parts.flatMap((part) => {
    const column = part.kind === "is" && part.test === "null" ? usedColumn(part.operand, names) : null;
    return column?.relation === only && column.offered ? [{ part, column: column.offered.column }] : [];
  });
  const compared = new Set<string>();
  walk(on, (node) => {
    const column = node.kind === "column" ? usedColumn(node, names) : null;
    if (column?.relation === only) compared.add(column.name);
    return undefined;
  });
  const [first, ...more] = asked;
  if (!first?.column || more.length > 0 || first.column.required || first.column.nulls === 0) return null;
  if (compared.has(first.column.name.toLowerCase())) return null;
  const key = only.table.primaryKey?.columns[0] ?? only.table.columns.find(({ required }) => required)?.name;
  return {
    weight: "ask",
    message: `\`${show(first.part)}\` is true for rows without a match in \`${only.name}\`, and as well for those whose match has no \`${first.column.name}\`.`,
    because: [`\`${first.column.name}\` may be NULL in a row that is there`],
    remedy: key
      ? `Ask for \`${key}\` IS NULL if rows without a match are meant; if both are, say so: (… OR …).`
      : "Write NOT EXISTS if rows without a match are meant.",
  };
}

/** Whether a condition is never true when the column in it is NULL. */
function rejectsNull(part: Expr): boolean {
  if (part.kind === "is") return part.test === "null" && part.negated;
  if (part.kind === "logic" && part.op === "or") return part.items.every(rejectsNull);
  if (part.kind !== "binary" && part.kind !== "in" && part.kind !== "between" && part.kind !== "like") return false;
  if (part.kind === "binary" && part.op === "<=>") return false;
  let caught = false;
  walk(part, (node) => {
    if (node.kind === "case" || (node.kind === "call" && standsIn(node))) caught = true;
    return undefined;
  });
  return !caught;
}
