import { walk } from "../sql/children.ts";
import type { Binary, Call, ColumnRef, Hole, In, Literal, Quantified, Query, Span, Statement } from "../sql/tree.ts";

/** The nodes of a statement by what they are: gathered in one walk, for all the hazards that look for them. */
export interface Found {
  readonly calls: readonly Call[];
  readonly columns: readonly ColumnRef[];
  readonly holes: readonly Hole[];
  /** Strings and dates. */
  readonly texts: readonly Literal[];
  readonly comparisons: readonly Binary[];
  readonly divisions: readonly Binary[];
  readonly memberships: readonly In[];
  readonly quantified: readonly Quantified[];
  readonly queries: readonly Query[];
}

const NONE: readonly never[] = [];

/** A list with one more entry; most statements have no entry in most lists, and then there is no list either. */
function more<E>(list: readonly E[], one: E): readonly E[] {
  if (list === NONE) return [one];
  (list as E[]).push(one);
  return list;
}

/** Gathers the nodes of a statement. */
export function foundIn(statement: Statement): Found {
  const found: { -readonly [List in keyof Found]: Found[List] } = {
    calls: NONE,
    columns: NONE,
    holes: NONE,
    texts: NONE,
    comparisons: NONE,
    divisions: NONE,
    memberships: NONE,
    quantified: NONE,
    queries: NONE,
  };
  walk(statement, (node) => {
    switch (node.kind) {
      case "call":
        found.calls = more(found.calls, node);
        break;
      case "column":
        found.columns = more(found.columns, node);
        break;
      case "hole":
        found.holes = more(found.holes, node);
        break;
      case "literal":
        if (node.type === "string" || node.type === "date") found.texts = more(found.texts, node);
        break;
      case "binary":
        if (node.op === "/") found.divisions = more(found.divisions, node);
        else found.comparisons = more(found.comparisons, node);
        break;
      case "in":
        found.memberships = more(found.memberships, node);
        break;
      case "quantified":
        found.quantified = more(found.quantified, node);
        break;
      case "query":
        found.queries = more(found.queries, node);
        break;
      case "create-routine":
        // What a definition holds does not run here.
        return false;
      default:
    }
    return undefined;
  });
  return found;
}

/** Whether a node lies within a piece of the statement. */
export function within(node: Span, piece: Span): boolean {
  return node.start >= piece.start && node.end <= piece.end;
}
