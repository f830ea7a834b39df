/**
 * Characters that a terminal or a reader would act on instead of showing them: controls, the separators that end a line,
 * and the marks that turn the direction of writing (Unicode Standard Annex 9).
 */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/gu;

/** A text with visible stand-ins for what would not be seen; `lines`: line breaks and tabs stay. */
export function visible(text: string, lines = false): string {
  return text.replace(UNSEEN, (one) => {
    const code = one.codePointAt(0) ?? 0;
    if (lines && (code === 9 || code === 10)) return one;
    if (lines && code === 13) return "";
    if (code < 32) return String.fromCharCode(0x2400 + code);
    return code === 127 ? "\u2421" : `\u27e8U+${code.toString(16).toUpperCase().padStart(4, "0")}\u27e9`;
  });
}

/** A text that stays within one line of a comment. */
export function inOneLine(text: string): string {
  return visible(text.replace(/[\r\n\t\u2028\u2029]+/g, " "));
}
