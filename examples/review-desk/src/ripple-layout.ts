import { Graph, layout } from "@dagrejs/dagre";
import type { StatementTrace } from "cautela";
import { reachWords } from "cautela/tools";

/** A box of the drawn graph. */
export interface Box {
  id: number;
  x: number;
  y: number;
  width: number;
  height: number;
  lines: string[];
  notes: StatementTrace["notes"];
}

/** An arrow of the drawn graph: the corners of its line. */
export interface Arrow {
  edge: StatementTrace["edges"][number];
  points: { x: number; y: number }[];
  label: string;
  labelX: number;
  labelY: number;
}

/** A graph with places for everything. */
export interface Drawing {
  boxes: Box[];
  arrows: Arrow[];
  width: number;
  height: number;
  /** From left to right. */
  across: boolean;
}

/** The width of a character of the drawn text, in pixels. */
const CHARACTER = 7.4;
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

/** Places the boxes and arrows of a trace: from top to bottom, or from left to right where that is narrower. */
export function drawing(trace: StatementTrace): Drawing {
  const down = placed(trace, "TB");
  if (down.width < 640) return down;
  const across = placed(trace, "LR");
  return across.width < down.width ? across : down;
}

function placed(trace: StatementTrace, rankdir: "TB" | "LR"): Drawing {
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
  const boxes = trace.nodes.map((node): Box => {
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
  const arrows = trace.edges.map((edge, i): Arrow => {
    const spot = graph.edge(String(edge.from), String(edge.to), String(i));
    const { points = [], x = 0, y = 0 } = spot as { points?: Arrow["points"]; x?: number; y?: number };
    return { edge, points, label: labelOf(edge), labelX: x, labelY: y };
  });
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  return { boxes, arrows, width, height, across: rankdir === "LR" };
}

function labelOf({ how, name }: StatementTrace["edges"][number]): string {
  if (how === "statement") return "";
  const bare = name.slice(name.lastIndexOf(".") + 1);
  return cut(`${how === "cascade" ? "key" : how} ${bare}`, 34);
}
