import type { ScriptReader } from "../sql/reading/script.ts";
import { LineMap } from "../text/lines.ts";

/** The part of a script's text that is held while a statement is reviewed. */
export interface SourceView {
  /** The offset in the script at which it begins. */
  readonly base: number;
  slice(start: number, end: number): string;
  readonly lines: Pick<LineMap, "at">;
}

/** The text that a reader holds, and its places. */
export function sourceView(reader: ScriptReader): SourceView {
  const { text, base, line } = reader.buffer;
  const lines = new LineMap(text, base, line);
  return { base, slice: (start, end) => text.slice(Math.max(0, start - base), Math.max(0, end - base)), lines };
}

/**
 * Two views as one: a statement and what comes after it may have come with different pieces of the script. What stands
 * between the two and is held by neither is blank or a further terminator.
 */
export function joinedView(earlier: SourceView, later: SourceView): SourceView {
  if (earlier === later) return earlier;
  const { base } = later;
  return {
    base: earlier.base,
    slice: (start, end) =>
      (start < base ? earlier.slice(start, Math.min(end, base)) : "") +
      (end > base ? later.slice(Math.max(start, base), end) : ""),
    lines: { at: (offset) => (offset < base ? earlier : later).lines.at(offset) },
  };
}
