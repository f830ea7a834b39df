import { inOneLine } from "../text/visible.ts";

/**
 * The parts of a message in one line, plain text and code in turn: what stands between backquotes is code. One without a
 * partner is a character like any other.
 *
 * @example
 * messageParts("rows of `berth` go") // ["rows of ", "berth", " go"]
 */
export function messageParts(text: string): string[] {
  const parts = inOneLine(text).split("`");
  if (parts.length % 2 === 0) {
    const last = parts.pop() ?? "";
    parts[parts.length - 1] += `\`${last}`;
  }
  return parts;
}
