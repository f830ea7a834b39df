/**
 * Strings of names, so that a name that is written a thousand times is one string. Direct-mapped:
 * it does not grow with the script, and a name that takes another one's place costs that one a string again.
 */
const SLOTS = 2048;
/** A short text is read with fewer. */
const FEW_SLOTS = 64;
const LONGEST = 40;

export class NameCache {
  #slots: string[] = new Array<string>(FEW_SLOTS).fill("");
  #made = 0;

  /** The text between two offsets. */
  get(text: string, start: number, end: number): string {
    const length = end - start;
    if (length > LONGEST) return text.slice(start, end);
    const first = text.charCodeAt(start);
    const middle = text.charCodeAt(start + (length >> 1));
    const last = text.charCodeAt(end - 1);
    const slot = (length + first * 31 + middle * 1021 + last * 131) & (this.#slots.length - 1);
    const known = this.#slots[slot];
    if (known.length === length && text.startsWith(known, start)) return known;
    const made = text.slice(start, end);
    this.#slots[slot] = made;
    if (++this.#made === FEW_SLOTS) this.#slots = new Array<string>(SLOTS).fill("");
    return made;
  }
}
