import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { assignedIn } from "../conditions/conditions.ts";
import { type JoinTree, joinTreeOf } from "../conditions/join-tree.ts";
import { linksOf, relationsIn, uniqueOn } from "../conditions/links.ts";
import type { BoundRelation, Resolution } from "../names/resolution.ts";
import type { Change } from "./change.ts";
import { conjuncts } from "./reach.ts";

/** A relation of which one row of the target (or of the rows that are inserted) can meet several. */
export interface Multiplier {
  relation: BoundRelation;
  /** Its columns on which it is met, none of which makes it unique. */
  columns: string[];
  /** The relation whose rows are changed; null for INSERT … SELECT. */
  target: BoundRelation | null;
}

/**
 * The relations of a joined change that multiply its rows so that the outcome differs: UPDATE and MERGE
 * whose values come from a source that is not unique on the join (any one of the matches wins), and
 * INSERT … SELECT with a join that only filters (the row comes in once for each match).
 */
export function multipliedBy(tree: Statement, names: Resolution, change: Change | null): readonly Multiplier[] {
  return names.memo.once(readMultipliers, tree, () => readMultipliers(tree, names, change));
}

const NONE: readonly Multiplier[] = [];

function readMultipliers(tree: Statement, names: Resolution, change: Change | null): readonly Multiplier[] {
  if (tree.kind === "insert") return inserted(tree, names);
  if (tree.kind !== "update" && tree.kind !== "merge") return NONE;
  const level = joinTreeOf(tree, names, change?.relation?.source ?? null);
  if (!level?.target || level.joins.some(({ join }) => join.using || join.natural)) return NONE;
  const { target } = level;
  const here = new Set(level.scope.relations);
  const used = new Set<BoundRelation>();
  for (const { value } of assignedIn(tree, names))
    for (const one of relationsIn(value, names, here).relations) used.add(one);
  used.delete(target);
  if (used.size === 0) return NONE;
  const list: Multiplier[] = [];
  const settled = settledBy(target, level, names);
  for (const relation of used) {
    if (settled.one.has(relation)) continue;
    const columns = many(relation, level, names);
    if (columns) list.push({ relation, columns, target });
    // It is one for each row of another table, of which there may be several.
    else if (settled.several && !list.some((one) => one.relation === settled.several?.relation))
      list.push({ ...settled.several, target });
  }
  return list;
}

/**
 * The relations of which a row of the target meets one at most, by way of others if need be, and the first of which it may meet
 * several. One whose keys are not known is taken to be met once.
 *
 * @example
 * // berth, vessel ON vessel.id = berth.vessel_id, owner ON owner.id = vessel.owner_id: one of each
 */
function settledBy(
  target: BoundRelation,
  level: JoinTree,
  names: Resolution,
): { one: ReadonlySet<BoundRelation>; several: { relation: BoundRelation; columns: string[] } | null } {
  const links = linksOf(level.conditions, names, level.scope);
  const one = new Set([target]);
  let several: { relation: BoundRelation; columns: string[] } | null = null;
  for (let before = 0; before < one.size; ) {
    before = one.size;
    several = null;
    for (const relation of level.scope.relations) {
      if (one.has(relation)) continue;
      const met = links.equal.flatMap(({ left, leftColumn, right, rightColumn }) =>
        left === relation && one.has(right) ? leftColumn : right === relation && one.has(left) ? rightColumn : [],
      );
      if (met.length === 0) continue;
      const pinned = [...links.pinned, ...links.among].flatMap((pin) => (pin.relation === relation ? pin.column : []));
      if (uniqueOn(relation, new Set([...met, ...pinned])) === false) several ??= { relation, columns: met };
      else one.add(relation);
    }
  }
  return { one, several };
}

/** The columns on which a relation is met, when they do not make it unique; null when they do or it is not known. */
function many(relation: BoundRelation, level: JoinTree, names: Resolution): string[] | null {
  const links = linksOf(level.conditions, names, level.scope);
  const settled = new Set(
    [...links.pinned, ...links.among].filter((one) => one.relation === relation).map((one) => one.column),
  );
  const met: string[] = [];
  for (const one of links.equal) {
    const column = one.left === relation ? one.leftColumn : one.right === relation ? one.rightColumn : null;
    if (column === null) continue;
    settled.add(column);
    met.push(column);
  }
  return uniqueOn(relation, settled) === false ? met : null;
}

/** The columns by which a relation is joined where its ON compares them other than for equality: `t.valid_from <= m.from_day`. */
function ranged(relation: BoundRelation, level: JoinTree, names: Resolution): string[] {
  const columns = new Set<string>();
  for (const { join, before, relation: joined } of level.joins) {
    if (!join.on || !joined.includes(relation)) continue;
    const here = new Set([...before, ...joined]);
    for (const part of conjuncts(join.on)) {
      if (relationsIn(part, names, here).relations.size < 2) continue;
      walk(part, (node) => {
        const binding = node.kind === "column" ? names.bindings.get(node) : undefined;
        if (binding?.relation === relation && binding.offered) columns.add(binding.offered.name);
        return undefined;
      });
    }
  }
  return [...columns];
}

/** INSERT … SELECT with a join that only filters, and multiplies. */
function inserted(tree: Statement, names: Resolution): readonly Multiplier[] {
  const level = joinTreeOf(tree, names, null);
  if (!level || level.joins.length === 0 || level.node.kind !== "select" || !("items" in level.node)) return NONE;
  const select = level.node;
  if (select.distinct || select.groupBy.length > 0) return NONE;
  const here = new Set(level.scope.relations);
  const used = new Set<BoundRelation>();
  const take = (expr: Expr): void => {
    if (expr.kind === "star")
      for (const one of level.scope.relations)
        if (expr.path.length === 0 || one.name === expr.path[0].text.toLowerCase()) used.add(one);
    for (const one of relationsIn(expr, names, here).relations) used.add(one);
  };
  for (const { expr } of select.items) take(expr);
  const list: Multiplier[] = [];
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
    const compared = columns?.length === 0 ? ranged(relation, level, names) : columns;
    if (compared && compared.length > 0) list.push({ relation, columns: compared, target: null });
  }
  return list;
}
