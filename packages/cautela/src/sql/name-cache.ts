/**
 * Strings of names, so that a name that is written a thousand times is one string. Direct-mapped:
 * it never grows, and a name that takes another one's place costs that one a string again.
 */
const SLOTS = 2048;
const LONGEST = 40;

export class NameCache {
  readonly #slots: string[] = new Array<string>(SLOTS).fill("");

  /** The text between two offsets. */
  get(text: string, start: number, end: number): string {
    const length = end - start;
    if (length > LONGEST) return text.slice(start, end);
    const first = text.charCodeAt(start);
    const middle = text.charCodeAt(start + (length >> 1));
    const last = text.charCodeAt(end - 1);
    const slot = (length + first * 31 + middle * 1021 + last * 131) & (SLOTS - 1);
    const known = this.#slots[slot];
    if (known.length === length && text.startsWith(known, start)) return known;
    const made = text.slice(start, end);
    this.#slots[slot] = made;
    return made;
  }
}
