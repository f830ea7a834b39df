import type { Building, DeclareStatement, DerivedSource, Name, Query, Statement, TableSource } from "../nodes/tree.ts";

// Nodes with nothing said beyond what they must have: the grammar fills in what stands there.

/** A table under its own name. */
export function plainTable(name: Name, start = name.start, end = name.end): Building<TableSource> {
  return { kind: "table", name, alias: null, columns: null, only: false, hints: false, start, end };
}

/** A query in parentheses that stands where a table may. */
export function plainDerived(
  query: Query | Statement,
  lateral: boolean,
  start: number,
  end: number,
): Building<DerivedSource> {
  return { kind: "derived", query, alias: null, columns: null, lateral, start, end };
}

/** A declaration of nothing yet. */
export function plainDeclaration(start: number, end = start): Building<DeclareStatement> {
  return { kind: "declare", name: null, before: [], type: null, value: null, query: null, handler: null, start, end };
}
