import { reachWords } from "../hazards/wording.ts";
import type { StatementTrace, Trace, TraceNode } from "../review/trace.ts";

/**
 * The ripples of a script as Mermaid flowcharts, one block for each statement. Dashed arrows depend on a
 * condition; rounded boxes are views, double-edged ones routines.
 *
 * @example
 * flowchart LR
 *   n0(["statement 1: update"]) --> n1["mooring<br/>update fee<br/>one row at most"]
 */
export function traceMermaid(trace: Trace): string {
  return trace.statements.map(flowchart).join("\n");
}

function flowchart(trace: StatementTrace): string {
  const lines = ["flowchart LR"];
  for (const node of trace.nodes) lines.push(`  n${node.id}${shape(node, trace)}`);
  for (const { from, to, how, name, certain } of trace.edges) {
    const label = how === "statement" ? "" : `|"${escaped(`${how === "cascade" ? "key" : how} ${name}`)}"|`;
    lines.push(`  n${from} ${certain ? "-->" : "-.->"}${label} n${to}`);
  }
  trace.notes.forEach(({ node, name, text, kind }, i) => {
    lines.push(`  x${i}>"${escaped(`${kind}: ${text === "" ? name : text}`)}"]`);
    lines.push(`  n${node} ~~~ x${i}`);
  });
  return `${lines.join("\n")}\n`;
}

function shape(node: TraceNode, trace: StatementTrace): string {
  if (node.object === "statement") return `(["${escaped(`statement ${trace.statement + 1}: ${trace.kind}`)}"])`;
  const columns = node.columns && node.action !== "delete" ? ` ${node.columns.slice(0, 6).join(", ")}` : "";
  const parts = [node.name, `${node.action}${columns}`];
  if (node.object !== "routine") parts.push(reachWords(node.reach));
  const label = parts.map(escaped).join("<br/>");
  if (node.object === "view") return `("${label}")`;
  return node.object === "routine" ? `[["${label}"]]` : `["${label}"]`;
}

/** Text inside a Mermaid label: its own marks as entities. */
function escaped(text: string): string {
  return text.replace(/[&"<>#;`]/g, (one) => `#${one.charCodeAt(0)};`).replace(/\s+/g, " ");
}
