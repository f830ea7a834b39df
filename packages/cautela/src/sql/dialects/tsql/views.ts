import { condensed, NO_RELATIONS, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";

function refusals(view: View, shape: ViewShape): Refusals {
  // ROW_NUMBER() beside the columns leaves the rows what they are: the usual way to remove duplicates.
  const why = condensed({ ...shape, window: false });
  if (why) return refused(why);
  if (shape.limited && view.checkOption) return refused("TOP together with WITH CHECK OPTION cannot be written");
  if (shape.sources.length === 0) return refused("it reads no table");
  const result = refused(null);
  for (const source of shape.sources)
    if (source.kind !== "table") result.sealedSources.set(source, "it comes from a subquery in FROM");
  if (shape.joined) result.delete = "it joins several tables, so which one loses the row is not settled";
  else if (result.sealedSources.size > 0 && shape.sources[0].kind === "function") return refused("it reads a function");
  return result;
}

export const tsqlViews: ViewRules = { ...NO_RELATIONS, refusals };
