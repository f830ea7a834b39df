import { anchors, keysAreKnown } from "../../../analysis/views/key-preserved.ts";
import { condensed, NO_RELATIONS, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";

/**
 * Jet: a query over one table, or a join whose "one" side is met on a unique index. Without the index its
 * rows are only shown.
 */
function refusals(_: View, shape: ViewShape): Refusals {
  const why = condensed(shape);
  if (why) return refused(why);
  if (shape.sources.length === 0) return refused("it reads no table");
  if (shape.listSubquery) return refused("a subquery stands in its list");
  if (!shape.joined) return refused(null);
  if (!keysAreKnown(shape)) return { ...refused(null), unsure: true };
  if (!shape.sources.some((source) => anchors(source, shape)))
    return refused("none of its joins meets a unique index, so the engine cannot tell its rows apart");
  return refused(null);
}

export const jetViews: ViewRules = { ...NO_RELATIONS, refusals };
