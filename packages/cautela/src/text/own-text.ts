/**
 * A list without spare room. An array that has been pushed to holds room for seventeen elements;
 * over the many short lists of a tree that is more than the tree itself.
 */
export function compact<E>(list: readonly E[]): readonly E[] {
  return list.length < 17 ? list.slice() : list;
}

/** A short text of its own: a slice keeps the whole text alive that it was cut from. */
export function ownText(text: string): string {
  // Joined and cut again it lies in a text of its own length and one more.
  return ` ${text}`.slice(1);
}
