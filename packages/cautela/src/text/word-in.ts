/** Whether a text of SQL holds a word as a whole word, without regard to case. */
export function wordIn(text: string, word: string): boolean {
  const lower = text.toLowerCase();
  const wanted = word.toLowerCase();
  if (wanted === "") return false;
  for (let at = lower.indexOf(wanted); at >= 0; at = lower.indexOf(wanted, at + 1)) {
    if (!/\w/.test(lower[at - 1] ?? " ") && !/\w/.test(lower[at + wanted.length] ?? " ")) return true;
  }
  return false;
}
