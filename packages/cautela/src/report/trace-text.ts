import type { RippleEdge, RippleNote } from "../analysis/ripples/ripple.ts";
import { reachWords } from "../hazards/wording.ts";
import type { StatementTrace, Trace, TraceNode } from "../review/trace.ts";
import { inOneLine } from "../text/visible.ts";
import { counted, cut, plainStyle, rule, TextLayout } from "./layout.ts";
import type { TextOptions } from "./text.ts";

/** The ripples of a script as trees for a terminal: what is written, through what, how many rows at most. */
export function traceText(trace: Trace, options: TextOptions = {}): string {
  const layout = new TextLayout(Math.max(60, options.width ?? 80), options.style ?? plainStyle);
  const { style } = layout;
  layout.line(
    `${style("strong", inOneLine(trace.path || "script"))}  ${style("dim", counted(trace.statements.length, "statement that writes", "statements that write"))}`,
  );
  for (const statement of trace.statements) statementTree(statement, layout);
  if (trace.statements.length === 0) layout.paragraph("", "No statement of this script writes rows.", "dim");
  layout.line();
  layout.line(style("dim", "─ always   ┄ only under a condition that is not known here"));
  return layout.text();
}

/** One line of a tree, with what hangs below it. */
interface Branch {
  certain: boolean;
  edge: RippleEdge | null;
  node: TraceNode | null;
  note: RippleNote | null;
}

function statementTree(trace: StatementTrace, layout: TextLayout): void {
  layout.line();
  layout.line(rule(` statement ${trace.statement + 1}, line ${trace.line}: ${trace.kind} `, layout));
  below(trace, 0, "", new Set([0]), layout);
}

function below(trace: StatementTrace, id: number, indent: string, seen: Set<number>, layout: TextLayout): void {
  const branches: Branch[] = [];
  for (const note of trace.notes)
    if (note.node === id) branches.push({ certain: note.certain, edge: null, node: null, note });
  for (const edge of trace.edges)
    if (edge.from === id) branches.push({ certain: edge.certain, edge, node: trace.nodes[edge.to], note: null });
  branches.forEach((branch, i) => {
    const last = i === branches.length - 1;
    const line = branch.certain ? "─" : "┄";
    const head = `${indent}${last ? "└" : "├"}${line} `;
    const next = `${indent}${last ? "   " : "│  "}`;
    if (branch.note) noteLine(branch.note, head, next, layout);
    if (branch.edge && branch.node) {
      const known = seen.has(branch.node.id);
      nodeLines(branch.edge, branch.node, head, next, known, layout);
      if (!known) {
        seen.add(branch.node.id);
        below(trace, branch.node.id, next, seen, layout);
      }
    }
  });
}

const ACTIONS: Record<TraceNode["action"], string> = {
  insert: "adds rows",
  update: "changes",
  delete: "deletes rows",
  truncate: "empties it",
  call: "runs",
  "": "",
};

function nodeLines(
  edge: RippleEdge,
  node: TraceNode,
  head: string,
  next: string,
  known: boolean,
  layout: TextLayout,
): void {
  const { style } = layout;
  const via =
    edge.how === "statement"
      ? ""
      : `  ${style("dim", "by")} ${edge.how === "cascade" ? "key" : edge.how} ${inOneLine(edge.name)}`;
  const columns =
    node.columns && node.columns.length > 0 && node.action !== "delete" ? ` ${node.columns.join(", ")}` : "";
  const what = node.object === "view" ? "view" : ACTIONS[node.action];
  const room = Math.max(12, layout.width - head.length - node.name.length - 4);
  layout.line(
    `${style("dim", head)}${style("strong", inOneLine(node.name))}  ${cut(`${what}${node.object === "view" ? "" : columns}`, room)}`,
  );
  const rows = node.object === "routine" ? "" : reachWords(node.reach);
  const facts = [via.trim(), rows, known ? "shown above" : ""].filter((one) => one !== "").join(style("dim", ", "));
  if (facts !== "") layout.line(`${style("dim", next)}${facts}`);
}

const NOTES: Record<RippleNote["kind"], { sign: string; role: "ask" | "note" | "stop" | "dim" }> = {
  refuses: { sign: "may refuse", role: "note" },
  swallows: { sign: "may drop it silently", role: "ask" },
  rewrites: { sign: "rewrites", role: "ask" },
  tidies: { sign: "tidies", role: "dim" },
  stamps: { sign: "stamps", role: "dim" },
  computes: { sign: "computes", role: "dim" },
  skipped: { sign: "does not fire", role: "ask" },
  held: { sign: "refers to it", role: "note" },
  sealed: { sign: "refused", role: "stop" },
  loop: { sign: "sets itself off", role: "stop" },
  opaque: { sign: "not read", role: "ask" },
};

function noteLine(note: RippleNote, head: string, next: string, layout: TextLayout): void {
  const { sign, role } = NOTES[note.kind];
  const said = note.certain ? sign.replace("may refuse", "refuses").replace("may drop it", "drops it") : sign;
  layout.line(`${layout.style("dim", head)}${layout.style(role, said)}  ${inOneLine(note.name)}`);
  if (note.text !== "" && note.text !== note.name) layout.paragraph(next, note.text, "dim");
}
