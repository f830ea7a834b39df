// Ranges and names.

/**
 * The syntax tree. Every node carries its exact range in the script, so `text.slice(node.start,
 * node.end)` is the node as it was written, comments included.
 */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** A node while it is being read: only the grammar writes into one. */
export type Building<Made> = { -readonly [Field in keyof Made]: Made[Field] };

/** One name or one part of a dotted name. */
export interface Ident extends Span {
  /** The name without its quotes, as written. */
  readonly text: string;
  readonly quoted: boolean;
  /** A placeholder or a template hole stands for the name, or is part of it. */
  readonly hole: boolean;
}

/** A dotted name: `schema.table`. */
export interface Name extends Span {
  readonly kind: "name";
  readonly parts: readonly Ident[];
  /** The database link of `vessel@archive` (plsql). */
  readonly link: Ident | null;
}
