import { annotation } from "../analysis/script/annotations.ts";
import type { ReadStatement } from "../sql/reading/script.ts";
import type { Slice } from "../text/slice.ts";

/** The hazards that comments of a statement accept, with their reasons. */
export function acceptsOf({ comments }: ReadStatement, slice: Slice): ReadonlyMap<string, string> {
  if (comments.length === 0) return NONE;
  const accepts = new Map<string, string>();
  for (const comment of comments) {
    const said = annotation(slice(comment.start, comment.end), comment);
    // The reason is required: without one nothing is accepted.
    if (said?.what === "accept" && said.reason !== "") accepts.set(said.hazard, said.reason);
  }
  return accepts;
}

const NONE: ReadonlyMap<string, string> = new Map();
