/** A text in one line, its blanks and line breaks each made one blank. */
export function singleBlanks(text: string): string {
  let blank = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const now = code <= 32 || code >= 160;
    // Anything but single plain blanks is put right; most texts have nothing else.
    if (now && (blank || code !== 32)) return text.replace(/\s+/g, " ");
    blank = now;
  }
  return text;
}
