import type { Span } from "../nodes/tree.ts";

/**
 * A text that is read inside a script and does not stand there sign by sign: dynamic SQL with doubled quotes, or put together
 * of several pieces. What is read of it has places of its own, below zero, so that its text can be cut out like any other.
 */
export interface InnerText {
  /** Where its first character is: below zero, and at no place of another text of the same script. */
  readonly base: number;
  readonly text: string;
  /** The expression of the script, or of another such text, that gives it. */
  readonly whole: Span;
}

/** The inner texts of the statement that is being read; places are given out for the whole script. */
export class InnerTexts {
  #used = 0;
  #list: InnerText[] = [];

  /** Takes in a text, and says where its first character is. */
  add(text: string, { start, end }: Span): number {
    this.#used += text.length + 1;
    this.#list.push({ base: -this.#used, text, whole: { start, end } });
    return -this.#used;
  }

  /** Those that came since this was last asked; null: none. */
  take(): readonly InnerText[] | null {
    if (this.#list.length === 0) return null;
    const list = this.#list;
    this.#list = [];
    return list;
  }
}

/** The inner text that holds a place, or null: it is one of the script itself. */
export function innerTextAt(texts: readonly InnerText[], offset: number): InnerText | null {
  if (offset >= 0) return null;
  // Each begins before the one that came before it.
  let [low, high] = [0, texts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (texts[middle].base <= offset) high = middle;
    else low = middle + 1;
  }
  const found = texts[low];
  return found && offset <= found.base + found.text.length ? found : null;
}

/** Where in the script itself a piece of an inner text comes from. */
export function outerSpan(texts: readonly InnerText[], span: Span): Span {
  let outer = span;
  for (let inner = innerTextAt(texts, outer.start); inner; inner = innerTextAt(texts, outer.start)) outer = inner.whole;
  return outer;
}

/** Cuts out of the script, or out of the inner text in which a place lies. */
export function cutFrom(texts: readonly InnerText[], script: (start: number, end: number) => string) {
  return (start: number, end: number): string => {
    const inner = innerTextAt(texts, start);
    return inner ? inner.text.slice(start - inner.base, end - inner.base) : script(start, end);
  };
}
