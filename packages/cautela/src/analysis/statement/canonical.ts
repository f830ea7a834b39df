import type { Statement } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { expressionKey, filterFacts } from "../conditions/filter-facts.ts";

/**
 * A change of one table in a form that does not depend on how it is written: aliases, the order of the assignments, of the
 * conditions and of their sides do not matter. Null for what changes rows in other ways.
 *
 * @example
 * // UPDATE berth b SET depth_m = 1 + b.depth_m WHERE 3 = b.berth_id   is   UPDATE berth SET depth_m = depth_m + 1 WHERE berth_id = 3
 */
export function canonicalChange(tree: Statement, slice: Slice): string | null {
  if (tree.kind !== "update" && tree.kind !== "delete") return null;
  if (tree.limit || tree.orderBy.length > 0 || tree.currentOf) return null;
  const sources = tree.kind === "update" ? tree.target : tree.from;
  const [only] = sources;
  const beside = tree.kind === "update" ? tree.from.length : tree.using.length + tree.named.length;
  if (sources.length !== 1 || beside > 0 || only.kind !== "table") return null;
  // What WITH holds is compared word for word.
  const clause = tree.with ? `${slice(tree.with.start, tree.with.end).toLowerCase()} ` : "";
  const name = only.name.parts.map(({ text }) => text.toLowerCase()).join(".");
  const where = tree.where
    ? [...new Set(filterFacts(tree.where, slice).map(({ key }) => key))].sort().join(" and ")
    : "";
  if (tree.kind === "delete") return `${clause}delete ${name} where ${where}`;
  const assigned = tree.assignments.map(
    ({ targets, op, value }) =>
      `${targets.map((one) => expressionKey(one, slice)).join()} ${op} ${expressionKey(value, slice)}`,
  );
  return `${clause}update ${name} set ${assigned.sort().join(", ")} where ${where}`;
}
