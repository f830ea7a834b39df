import { walk } from "../sql/children.ts";
import type { Binary, Call, ColumnRef, Hole, In, Literal, Quantified, Query, Span, Statement } from "../sql/tree.ts";

/** The nodes of a statement by what they are: gathered in one walk, for all the hazards that look for them. */
export interface Found {
  calls: Call[];
  columns: ColumnRef[];
  holes: Hole[];
  /** Strings and dates. */
  texts: Literal[];
  comparisons: Binary[];
  divisions: Binary[];
  memberships: In[];
  quantified: Quantified[];
  queries: Query[];
}

/** Gathers the nodes of a statement. */
export function foundIn(statement: Statement): Found {
  const found: Found = {
    calls: [],
    columns: [],
    holes: [],
    texts: [],
    comparisons: [],
    divisions: [],
    memberships: [],
    quantified: [],
    queries: [],
  };
  walk(statement, (node) => {
    switch (node.kind) {
      case "call":
        found.calls.push(node);
        break;
      case "column":
        found.columns.push(node);
        break;
      case "hole":
        found.holes.push(node);
        break;
      case "literal":
        if (node.type === "string" || node.type === "date") found.texts.push(node);
        break;
      case "binary":
        if (node.op === "/") found.divisions.push(node);
        else found.comparisons.push(node);
        break;
      case "in":
        found.memberships.push(node);
        break;
      case "quantified":
        found.quantified.push(node);
        break;
      case "query":
        found.queries.push(node);
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
