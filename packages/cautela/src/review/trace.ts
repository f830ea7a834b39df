import type { Reach } from "../analysis/changes/reach.ts";
import { nodeReach, type RippleEdge, type RippleNode, type RippleNote } from "../analysis/ripples/ripple.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Review, StatementReview } from "./result.ts";

/** A place that a statement reaches, with the bound on the rows there. */
export interface TraceNode extends Omit<RippleNode, "object" | "spread" | "rows" | "relation" | "action"> {
  /** `statement`: the statement itself, always node 0. */
  object: RippleNode["object"] | "statement";
  action: RippleNode["action"] | "";
  reach: Reach;
}

/** The ripple of one statement as a graph: node 0 is the statement, each edge says why. */
export interface StatementTrace {
  statement: number;
  line: number;
  kind: string;
  nodes: TraceNode[];
  edges: RippleEdge[];
  notes: RippleNote[];
}

/** The ripples of a script, version 1 of the format `cautela.trace`. */
export interface Trace {
  format: "cautela.trace";
  version: 1;
  path: string;
  dialect: DialectId;
  statements: StatementTrace[];
}

/**
 * The ripple graph of each statement of a review that writes rows, or of one statement.
 *
 * @example
 * trace(review(text, { catalog }), { statement: 2 }).statements[0].edges
 */
export function trace(review: Review, options: { statement?: number } = {}): Trace {
  const wanted = review.statements.filter(
    ({ index }) => options.statement === undefined || index === options.statement,
  );
  return {
    format: "cautela.trace",
    version: 1,
    path: review.path,
    dialect: review.dialect,
    statements: wanted
      .map((statement) => statementTrace(statement, review))
      .filter(({ nodes, notes }) => options.statement !== undefined || nodes.length > 1 || notes.length > 0),
  };
}

function statementTrace(statement: StatementReview, review: Review): StatementTrace {
  const reach = statement.reach ?? { bound: "unknown" };
  const graph: StatementTrace = {
    statement: statement.index,
    line: statement.line,
    kind: statement.kind,
    nodes: [{ id: 0, object: "statement", name: statement.kind, action: "", columns: null, written: false, reach }],
    edges: [],
    notes: [],
  };
  const fired = review.ripples.get(statement.index) ?? [];
  for (const { firing, ripple } of fired) {
    const shift = graph.nodes.length;
    for (const node of ripple.nodes) {
      const { object, name, action, columns, written } = node;
      const own = nodeReach(node, firing.reach);
      graph.nodes.push({ id: shift + node.id, object, name, action, columns, written, reach: own });
    }
    graph.edges.push({ ...direct(shift), certain: firing.certain });
    for (const edge of ripple.edges) graph.edges.push({ ...edge, from: edge.from + shift, to: edge.to + shift });
    for (const note of ripple.notes) graph.notes.push({ ...note, node: note.node + shift });
  }
  for (const write of statement.writes) {
    const known = graph.nodes.some((node) => node.name === write.table && node.action === write.action);
    if (known || write.via !== "statement" || write.action === "create") continue;
    const id = graph.nodes.length;
    const { table: name, action, columns = null } = write;
    graph.nodes.push({ id, object: "table", name, action, columns, written: true, reach });
    graph.edges.push(direct(id));
  }
  return graph;
}

function direct(to: number): RippleEdge {
  return { from: 0, to, how: "statement", name: "", reason: "the statement names it", certain: true, definition: "" };
}
