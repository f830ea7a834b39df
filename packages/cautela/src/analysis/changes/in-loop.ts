import { walk } from "../../sql/nodes/visitor.ts";
import type { Change } from "./change.ts";
import type { ReachResult } from "./reach.ts";

/**
 * The reach of a change that runs in a loop: what one round meets by a variable, an element, a cursor or a limit, the next one
 * meets elsewhere.
 *
 * @example
 * // FORALL i IN 1 .. ids.COUNT DELETE FROM berth WHERE berth_id = ids(i): some rows, not one
 */
export function inLoop(result: ReachResult, change: Change): ReachResult {
  const { bound } = result.reach;
  if ((bound !== "one" && bound !== "few") || !goesOn(change)) return result;
  const { pinned: _, ...rest } = result;
  return { ...rest, reach: { bound: "some" }, because: [...result.because, "it runs again in each round of a loop"] };
}

/** Whether the next round of a loop may meet other rows. */
function goesOn({ conditions, names, scope, current, limit }: Change): boolean {
  if (current || limit) return true;
  let moves = false;
  for (const { expr } of conditions)
    walk(expr, (node) => {
      if (node.kind === "variable" || (node.kind === "call" && node.args.length > 0)) moves = true;
      if (node.kind === "column" && names.resolve(node, scope) === null) moves = true;
      return !moves;
    });
  return moves;
}
