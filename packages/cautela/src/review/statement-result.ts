import { multipliedBy } from "../analysis/changes/multiplied.ts";
import type { Reach } from "../analysis/changes/reach.ts";
import { allWrites, directWrites } from "../analysis/changes/writes.ts";
import { namedTarget } from "../analysis/statement/named-target.ts";
import type { Catalog } from "../catalog/catalog.ts";
import { shownName } from "../catalog/model.ts";
import { writtenName } from "../catalog/names.ts";
import type { HazardContext } from "../hazards/hazard.ts";
import type { Statement } from "../sql/nodes/tree.ts";
import type { StatementReview } from "./result.ts";
import type { StatementContext } from "./statement-context.ts";

/** What the result says of a statement; its verdict comes when the script is at its end. */
export function statementReview(context: StatementContext): StatementReview {
  const { tree, at, changes, catalog } = context;
  const widestChange = changes.length > 0 ? widest(changes.map(({ result }) => result.reach)) : null;
  // What an INSERT changes in its WITH is no part of its own reach.
  const wanted = (tree.kind === "insert" ? context.insertReach : null) ?? widestChange ?? context.insertReach;
  return {
    index: at.statement,
    ...at.region,
    kind: kindOf(tree),
    target: targetOf(context, catalog),
    verdict: "clear",
    reach: wanted && context.refused ? { bound: "none" } : multiplied(wanted, context),
    writes: context.refused ? [] : allWrites(directWrites(tree, changes, catalog), context.ripples),
  };
}

function targetOf({ tree, changes }: HazardContext, catalog: Catalog | null): string | null {
  if (changes.length > 0 && tree.kind !== "insert") return changes[0].target;
  const name = namedTarget(tree);
  if (!name) return null;
  const table = catalog?.resolve(name);
  return table ? shownName(table) : writtenName(name);
}

/** The kind of a statement as the result names it: `update`, `create table`, `alter trigger`. */
function kindOf(tree: Statement): string {
  switch (tree.kind) {
    case "create-routine":
      return `create ${tree.object}`;
    case "call-statement":
      return "call";
    case "opaque":
      return [tree.verb, tree.object].filter((word) => word !== "").join(" ");
    case "drop":
      return `drop ${tree.object}`.trim();
    case "transaction":
      return tree.action;
    default:
      return tree.kind.replace("-", " ");
  }
}

/** The reach, or `multiplied` where rows are met several times and that changes the outcome. */
function multiplied(reach: Reach | null, { tree, names, changes }: HazardContext): Reach | null {
  if (!reach || !names || reach.bound === "none") return reach;
  return multipliedBy(tree, names, changes[0]?.change ?? null).length > 0 ? { bound: "multiplied" } : reach;
}

const WIDTH = ["none", "one", "few", "some", "unknown", "every", "multiplied"];

function widest(reaches: readonly Reach[]): Reach {
  return reaches.reduce((a, b) => (WIDTH.indexOf(b.bound) > WIDTH.indexOf(a.bound) ? b : a));
}
