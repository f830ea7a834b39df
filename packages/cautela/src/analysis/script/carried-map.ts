/** From this many maps on, one behind the other, all entries are taken over at once. */
const MANY = 16;

/**
 * Entries by key that go on from script to script of a change set: those of the earlier ones are taken over when they are
 * asked for, so that a script costs what it touches and not all that was done before it.
 */
export class CarriedMap<Value> {
  /** Null: it was removed here. */
  readonly #own = new Map<string, Value | null>();
  #earlier: CarriedMap<Value> | null = null;
  #carry: (value: Value) => Value = (value) => value;
  #depth = 0;

  /** Goes on from an earlier map, which changes no more; `carry` gives an entry of it as it is to be here, newly made. */
  continueFrom(earlier: CarriedMap<Value>, carry: (value: Value) => Value): void {
    if (earlier.#depth < MANY) {
      this.#earlier = earlier;
      this.#carry = carry;
      this.#depth = earlier.#depth + 1;
      return;
    }
    for (const key of earlier.#keys()) {
      const value = earlier.get(key);
      if (value !== undefined) this.#own.set(key, carry(value));
    }
  }

  get(key: string): Value | undefined {
    const own = this.#own.get(key);
    if (own !== undefined) return own ?? undefined;
    const before = this.#earlier?.get(key);
    if (before === undefined) return undefined;
    const value = this.#carry(before);
    this.#own.set(key, value);
    return value;
  }

  set(key: string, value: Value): void {
    this.#own.set(key, value);
  }

  delete(key: string): void {
    if (this.#earlier) this.#own.set(key, null);
    else this.#own.delete(key);
  }

  /** The entries that were made or asked for here. */
  *own(): IterableIterator<[string, Value]> {
    for (const [key, value] of this.#own) if (value !== null) yield [key, value];
  }

  #keys(): Set<string> {
    const keys = this.#earlier === null ? new Set<string>() : this.#earlier.#keys();
    for (const key of this.#own.keys()) keys.add(key);
    return keys;
  }
}
