/** A place in a script: line and column from 1, columns in UTF-16 units. */
export interface Place {
  readonly line: number;
  readonly column: number;
}

/**
 * Turns offsets into lines and columns. Offsets are asked for in rising order nearly always, so
 * the last answer is where the next search begins.
 */
export class LineMap {
  readonly #text: string;
  readonly #base: number;
  readonly #firstLine: number;
  #starts: number[] = [0];
  #scanned = 0;
  #last = 0;

  /**
   * @param text the script, or a window of it
   * @param base the offset of the window's first character in the script
   * @param firstLine the line that begins with the window's first character
   */
  constructor(text: string, base = 0, firstLine = 1) {
    this.#text = text;
    this.#base = base;
    this.#firstLine = firstLine;
  }

  /** The place of an offset into the script. */
  at(offset: number): Place {
    const target = offset - this.#base;
    this.#scanTo(target);
    const starts = this.#starts;
    let low = 0;
    let high = starts.length - 1;
    if (starts[this.#last] <= target) {
      low = this.#last;
      if (low + 1 >= starts.length || starts[low + 1] > target) high = low;
      else if (low + 2 >= starts.length || starts[low + 2] > target) low = high = low + 1;
    }
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle] <= target) low = middle;
      else high = middle - 1;
    }
    this.#last = low;
    return { line: this.#firstLine + low, column: target - starts[low] + 1 };
  }

  #scanTo(target: number): void {
    while (this.#scanned <= target) {
      const next = this.#text.indexOf("\n", this.#scanned);
      if (next < 0) {
        this.#scanned = Number.POSITIVE_INFINITY;
        return;
      }
      this.#starts.push(next + 1);
      this.#scanned = next + 1;
    }
  }
}
