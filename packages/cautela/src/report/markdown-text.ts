import { messageParts } from "./message-parts.ts";

/** A fence that is longer than any run of backticks in the text. */
export function fence(text: string): string {
  let longest = 2;
  for (const [run] of text.matchAll(/`+/g)) longest = Math.max(longest, run.length);
  return "`".repeat(longest + 1);
}

/** A text in which no character means anything to Markdown or to HTML, nor calls anybody by name. */
export function escapedMarkdown(text: string): string {
  return text.replace(/[\\`*_{}[\]<>#|~]/g, (one) => `\\${one}`).replaceAll("@", "&#64;");
}

/**
 * A message in one line: what stands in backticks stays code, all else is plain text. Names of a script may hold anything;
 * whatever it is, none of it becomes markup.
 *
 * @example
 * messageMarkdown("This deletes all rows of `a_b`.") // "This deletes all rows of `a_b`."
 */
export function messageMarkdown(text: string): string {
  return messageParts(text)
    .map((part, i) => (i % 2 === 0 ? escapedMarkdown(part) : part.trim() === "" ? "" : `\`${part}\``))
    .join("");
}

/** A piece of code as a block. */
export function codeBlock(text: string, language: string): string {
  const ticks = fence(text);
  return `${ticks}${language}\n${text}\n${ticks}`;
}
