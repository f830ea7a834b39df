import { anchors, keysAreKnown } from "../../../analysis/views/key-preserved.ts";
import { condensed, NO_RELATIONS, type Refusals, refused, type ViewRules } from "../../../analysis/views/refusals.ts";
import type { ShapeSource, ViewShape } from "../../../analysis/views/shape.ts";
import type { View } from "../../../catalog/model.ts";

function refusals(view: View, shape: ViewShape): Refusals {
  if (view.readOnly) return refused("it was made WITH READ ONLY");
  const why = condensed(shape);
  if (why) return refused(why);
  if (shape.connected) return refused("CONNECT BY makes its rows a tree");
  if (shape.limited) return refused("FETCH FIRST cuts its rows off");
  if (shape.sources.length === 0) return refused("it reads no table");
  if (shape.listSubquery) return refused("a subquery stands in its list");
  if (!shape.joined) return shape.sources[0].kind === "table" ? refused(null) : refused("it reads a subquery");
  const result = refused(null);
  if (!keysAreKnown(shape)) return { ...result, unsure: true };
  const preserved = shape.sources.filter((source) => keyPreserved(source, shape));
  for (const source of shape.sources) {
    if (preserved.includes(source)) continue;
    result.sealedSources.set(source, `\`${source.name}\` is not key-preserved: the join can repeat one of its rows`);
  }
  if (preserved.length === 0) return refused("no table of its join keeps its key unique in the result");
  if (view.checkOption) result.insert = "a join view WITH CHECK OPTION takes no new rows";
  if (preserved.length > 1) result.delete = "more than one table of its join is key-preserved";
  return result;
}

/**
 * Whether each row of a table stands at most once in a join's result: every other source is met on a whole
 * unique key of its own.
 */
function keyPreserved(source: ShapeSource, shape: ViewShape): boolean {
  return source.kind === "table" && source.relation?.object === "table" && !source.nullable && anchors(source, shape);
}

export const plsqlViews: ViewRules = { ...NO_RELATIONS, refusals };
