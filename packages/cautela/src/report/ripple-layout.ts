import { Graph, layout } from "@dagrejs/dagre";
import { bareName } from "../catalog/names.ts";
import { reachWords } from "../hazards/wording.ts";
import type { StatementTrace } from "../review/trace.ts";

/** A box of the drawn graph. */
export interface RippleBox {
  id: number;
  x: number;
  y: number;
  width: number;
  height: number;
  lines: string[];
  notes: StatementTrace["notes"];
}

/** An arrow of the drawn graph: the corners of its line. */
export interface RippleArrow {
  edge: StatementTrace["edges"][number];
  points: { x: number; y: number }[];
  label: string;
  labelX: number;
  labelY: number;
}

/** A graph with places for everything. */
export interface RippleDrawing {
  boxes: RippleBox[];
  arrows: RippleArrow[];
  width: number;
  height: number;
  /** From left to right. */
  across: boolean;
}

/** The width of a character of the drawn text, in pixels. */
const CHARACTER = 7.4;
/** The height of a line of the drawn text, in pixels. */
export const LINE = 16;
const PADDING = 9;

function linesOf(node: StatementTrace["nodes"][number], trace: StatementTrace): string[] {
  if (node.object === "statement") return [`statement ${trace.statement + 1}`, trace.kind];
  const columns = node.columns && node.action !== "delete" ? node.columns.join(", ") : "";
  const what = node.object === "view" ? "view" : node.object === "routine" ? "routine" : `${node.action} ${columns}`;
  const lines = [node.name, cut(what.trim(), 30)];
  const rows = node.object === "routine" ? "" : reachWords(node.reach);
  return rows === "" ? lines : [...lines, rows];
}

function cut(text: string, length: number): string {
  return text.length > length ? `${text.slice(0, length - 1)}…` : text;
}

/**
 * Places the boxes and arrows of a trace: from top to bottom, or from left to right where that is narrower. In pixels.
 *
 * @example
 * const { boxes, arrows, width, height } = rippleDrawing(trace(review).statements[0]);
 */
export function rippleDrawing(trace: StatementTrace): RippleDrawing {
  const down = placed(trace, "TB");
  if (down.width < 640) return down;
  const across = placed(trace, "LR");
  return across.width < down.width ? across : down;
}

function placed(trace: StatementTrace, rankdir: "TB" | "LR"): RippleDrawing {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir, nodesep: 22, ranksep: 38, edgesep: 14, marginx: 14, marginy: 14 });
  graph.setDefaultEdgeLabel(() => ({}));
  const lines = new Map<number, string[]>();
  for (const node of trace.nodes) {
    const own = linesOf(node, trace);
    lines.set(node.id, own);
    const notes = trace.notes.filter((note) => note.node === node.id).length;
    graph.setNode(String(node.id), {
      width: Math.max(...own.map((line) => line.length)) * CHARACTER + 2 * PADDING,
      height: own.length * LINE + 2 * PADDING - 4 + (notes > 0 ? LINE + 4 : 0),
    });
  }
  trace.edges.forEach((edge, i) => {
    const label = labelOf(edge);
    graph.setEdge(
      String(edge.from),
      String(edge.to),
      { width: label.length * CHARACTER + 6, height: LINE, labelpos: "c" },
      String(i),
    );
  });
  layout(graph);
  const boxes = trace.nodes.map((node): RippleBox => {
    const { x, y, width, height } = graph.node(String(node.id));
    return {
      id: node.id,
      x: x - width / 2,
      y: y - height / 2,
      width,
      height,
      lines: lines.get(node.id) ?? [],
      notes: trace.notes.filter((note) => note.node === node.id),
    };
  });
  const arrows = trace.edges.map((edge, i): RippleArrow => {
    const spot = graph.edge(String(edge.from), String(edge.to), String(i));
    const { points = [], x = 0, y = 0 } = spot as { points?: RippleArrow["points"]; x?: number; y?: number };
    return { edge, points, label: labelOf(edge), labelX: x, labelY: y };
  });
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  return { boxes, arrows, width, height, across: rankdir === "LR" };
}

function labelOf({ how, name }: StatementTrace["edges"][number]): string {
  if (how === "statement") return "";
  const bare = bareName(name);
  return cut(`${how === "cascade" ? "key" : how} ${bare}`, 34);
}

/** What a note of a drawing says in two or three words. */
export const NOTE_WORDS: Readonly<Record<StatementTrace["notes"][number]["kind"], string>> = {
  rewrites: "rewrites the row",
  tidies: "tidies the row",
  stamps: "stamps the row",
  refuses: "may refuse it",
  swallows: "may drop it silently",
  skipped: "does not fire",
  held: "refers to it",
  sealed: "refused",
  loop: "sets itself off",
  opaque: "not read",
  computes: "is computed",
};

/** The line of an arrow as the path of an SVG. */
export function arrowPath({ points }: RippleArrow): string {
  return points.map(({ x, y }, i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)},${y.toFixed(1)}`).join(" ");
}
