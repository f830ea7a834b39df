/** What has been worked out of one statement, so that whoever asks next finds it. It ends with the statement. */
export class Memo {
  readonly #known = new Map<unknown, { key: unknown; value: unknown }>();

  /** The value that `read` gives for a key, worked out once as long as the same key is asked for. */
  once<Value>(read: (...given: never[]) => Value, key: unknown, make: () => Value): Value {
    const known = this.#known.get(read);
    if (known && known.key === key) return known.value as Value;
    const value = make();
    this.#known.set(read, { key, value });
    return value;
  }
}
