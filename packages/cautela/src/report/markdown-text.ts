/** A fence that is longer than any run of backticks in the text. */
export function fence(text: string): string {
  let longest = 2;
  for (const [run] of text.matchAll(/`+/g)) longest = Math.max(longest, run.length);
  return "`".repeat(longest + 1);
}

/** A text in which no character means anything to Markdown or to HTML. */
export function escapedMarkdown(text: string): string {
  return text.replace(/[\\`*_{}[\]<>#|~]/g, (one) => `\\${one}`);
}
