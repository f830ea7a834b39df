// What single characters are to the lexer, and blanks around them.

// Classes of the characters below 128; everything above is part of a word.
export const enum C {
  OTHER = 0,
  SPACE,
  WORD,
  DIGIT,
  OPERATOR,
}

export const classes = new Uint8Array(128);
for (const code of [9, 10, 11, 12, 13, 32, 0]) classes[code] = C.SPACE;
for (let code = 65; code <= 90; code++) classes[code] = classes[code + 32] = C.WORD;
classes[95] = C.WORD;
for (let code = 48; code <= 57; code++) classes[code] = C.DIGIT;
for (const character of "+-*/<>=~!@#%^&|`?") classes[character.charCodeAt(0)] = C.OPERATOR;

export function isSpecial(code: number): boolean {
  return (
    code === 126 ||
    code === 33 ||
    code === 64 ||
    code === 35 ||
    code === 37 ||
    code === 94 ||
    code === 38 ||
    code === 124 ||
    code === 96 ||
    code === 63
  );
}

export function isDigit(code: number): boolean {
  return code >= 48 && code <= 57;
}

export function isWordStart(code: number): boolean {
  return code < 128 ? classes[code] === C.WORD : code === code && !isWideSpace(code);
}

export function isWordPart(code: number): boolean {
  return code < 128 ? classes[code] === C.WORD || classes[code] === C.DIGIT : code === code && !isWideSpace(code);
}

/** Blanks beyond ASCII: the no-break space, the byte-order mark, the ideographic space. */
export function isWideSpace(code: number): boolean {
  return code === 0xa0 || code === 0xfeff || code === 0x3000 || (code >= 0x2000 && code <= 0x200b);
}

export function onlyBlanksBefore(text: string, at: number): boolean {
  let i = at - 1;
  // A window never begins far after a line break that matters; 64 characters are looked at.
  const stop = Math.max(0, at - 64);
  while (i >= stop) {
    const code = text.charCodeAt(i);
    if (code === 10) return true;
    if (code !== 32 && code !== 9 && code !== 13) return false;
    i--;
  }
  return i < 0;
}

export function isHexDigit(code: number): boolean {
  return isDigit(code) || ((code | 32) >= 97 && (code | 32) <= 102);
}

export function restIsBlank(text: string, from: number): boolean {
  for (let i = from; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 10) return true;
    if (code !== 32 && code !== 9 && code !== 13) return false;
  }
  return true;
}
