/** The words by which CREATE, ALTER and DROP know what they create, alter or drop; in lower case. */
export interface ObjectWords {
  /** The first word of a kind of object: TABLE, or TEXT of TEXT SEARCH. */
  readonly kinds: ReadonlySet<string>;
  /** What may stand before it and says more about it: RECURSIVE, PUBLIC. */
  readonly before: ReadonlySet<string>;
}

/** A list of words with blanks between. */
export function words(list: string): ReadonlySet<string> {
  return new Set(list.split(" "));
}

/** Two such lists. */
export function objectWords(kinds: string, before = ""): ObjectWords {
  return { kinds: words(kinds), before: words(before) };
}
