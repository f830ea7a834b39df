// Ranges and names.

/**
 * The syntax tree. Every node carries its exact range in the script, so `text.slice(node.start,
 * node.end)` is the node as it was written, comments included.
 */
export interface Span {
  start: number;
  end: number;
}

/** One name or one part of a dotted name. */
export interface Ident extends Span {
  /** The name without its quotes, as written. */
  text: string;
  quoted: boolean;
  /** A placeholder or a template hole stands for the name, or is part of it. */
  hole: boolean;
}

/** A dotted name: `schema.table`. */
export interface Name extends Span {
  kind: "name";
  parts: Ident[];
  /** The database link of `vessel@archive` (plsql). */
  link: Ident | null;
}
