import { K, WORDS } from "./keywords.ts";

// An open-addressing table over the lower-cased words. Looking a word up compares characters in
// place, so that no string is made for each word of a script.
const SIZE = 4096;
const table = new Uint16Array(SIZE);
const lower = WORDS.map((word) => word.toLowerCase());

/** One step of the hash that the lexer runs while it scans a word; `code` must be lower case. */
export function hashStep(hash: number, code: number): number {
  return (Math.imul(hash, 31) + code) | 0;
}

for (let id = 1; id < lower.length; id++) {
  let hash = 0;
  for (let i = 0; i < lower[id].length; i++) hash = hashStep(hash, lower[id].charCodeAt(i));
  let slot = hash & (SIZE - 1);
  while (table[slot] !== 0) slot = (slot + 1) & (SIZE - 1);
  table[slot] = id;
}

/** Whether a word by itself is a keyword, and which; `K.NONE` if it is none. */
export function keywordOf(word: string): K {
  let hash = 0;
  for (let i = 0; i < word.length; i++) {
    const code = word.charCodeAt(i);
    hash = hashStep(hash, code >= 65 && code <= 90 ? code | 32 : code);
  }
  return keywordAt(word, 0, word.length, hash);
}

/** The keyword that stands at `start`..`end` of `text`, whatever its case, or `K.NONE`. */
export function keywordAt(text: string, start: number, end: number, hash: number): K {
  let slot = hash & (SIZE - 1);
  for (;;) {
    const id = table[slot];
    if (id === 0) return K.NONE;
    const word = lower[id];
    if (word.length === end - start) {
      let i = 0;
      while (i < word.length) {
        let code = text.charCodeAt(start + i);
        if (code >= 65 && code <= 90) code |= 32;
        if (code !== word.charCodeAt(i)) break;
        i++;
      }
      if (i === word.length) return id;
    }
    slot = (slot + 1) & (SIZE - 1);
  }
}
