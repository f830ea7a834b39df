import type { Span } from "../sql/nodes/tree.ts";
import { cutFrom, type InnerText, outerSpan } from "../sql/reading/inner-text.ts";
import type { ReadStatement, ScriptReader } from "../sql/reading/script.ts";
import { LineMap } from "../text/lines.ts";
import type { Region } from "../text/region.ts";

/** The part of a script's text that is held while a statement is reviewed. */
export interface SourceView {
  /** The offset in the script at which it begins. */
  readonly base: number;
  slice(start: number, end: number): string;
  readonly lines: Pick<LineMap, "at">;
  /** The inner texts that its statements read. */
  readonly inner: readonly InnerText[];
}

const NO_TEXTS: readonly InnerText[] = [];

/** The text that a reader holds, and its places. */
export function sourceView(reader: ScriptReader): SourceView {
  const { text, base, line } = reader.buffer;
  const lines = new LineMap(text, base, line);
  return {
    base,
    slice: (start, end) => text.slice(Math.max(0, start - base), Math.max(0, end - base)),
    lines,
    inner: NO_TEXTS,
  };
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
    inner: NO_TEXTS,
  };
}

/** A view that also shows what stands in the inner texts of these statements. */
export function withInnerTexts(view: SourceView, ...statements: readonly (ReadStatement | undefined)[]): SourceView {
  const inner = statements.flatMap((one) => one?.inner ?? []);
  if (inner.length === 0) return view;
  const { lines } = view;
  return {
    base: view.base,
    slice: cutFrom(inner, view.slice),
    lines: { at: (offset) => lines.at(offset < 0 ? outerSpan(inner, { start: offset, end: offset }).start : offset) },
    inner,
  };
}

/** The piece of the script that a piece of source stands for: of an inner text, the expression that gives it. */
export function shownSpan(span: Span, { inner }: SourceView): Span {
  return span.start < 0 ? outerSpan(inner, span) : span;
}

/** The place of a piece of source in the script. */
export function regionOf(span: Span, view: SourceView): Region {
  const { start, end } = shownSpan(span, view);
  const from = view.lines.at(start);
  const to = view.lines.at(end);
  return { line: from.line, column: from.column, endLine: to.line, endColumn: to.column };
}
