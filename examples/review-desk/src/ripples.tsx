import type { StatementTrace } from "cautela";
import {
  type RippleArrow as Arrow,
  arrowPath,
  type RippleBox as Box,
  rippleDrawing as drawing,
  NOTE_WORDS as KINDS,
  LINE,
} from "cautela/tools";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import type { Answer } from "./messages.ts";

interface RipplesProps {
  answer: Answer;
  /** The statement in which the cursor stands. */
  statement: number | null;
  onStatement(index: number): void;
}

/** What is shown below the graph: an arrow's or a note's definition. */
interface Shown {
  title: string;
  text: string;
  definition: string;
}

/** The ripple of one statement as a graph: what it writes, through which trigger, key or view. */
export function Ripples({ answer, statement, onStatement }: RipplesProps) {
  const traces = answer.traces;
  const trace = traces.find((one) => one.statement === statement) ?? traces[0] ?? null;
  if (!trace) return <p className="nothing">No statement of this script writes rows.</p>;
  const at = traces.indexOf(trace);
  return (
    <div className="ripples">
      <div className="tools">
        <label>
          Statement{" "}
          <select value={trace.statement} onChange={(event) => onStatement(Number(event.target.value))}>
            {traces.map((one) => (
              <option key={one.statement} value={one.statement}>
                line {one.line}: {one.kind} {answer.statements[one.statement]?.target ?? ""}
              </option>
            ))}
          </select>
        </label>
        <button type="button" disabled={at === 0} onClick={() => onStatement(traces[at - 1].statement)}>
          Previous
        </button>
        <button type="button" disabled={at === traces.length - 1} onClick={() => onStatement(traces[at + 1].statement)}>
          Next
        </button>
      </div>
      <RippleGraph key={trace.statement} trace={trace} />
    </div>
  );
}

function RippleGraph({ trace }: { trace: StatementTrace }) {
  const { boxes, arrows, width, height, across } = useMemo(() => drawing(trace), [trace]);
  const [zoom, setZoom] = useState<number | null>(null);
  const [room, setRoom] = useState(0);
  const [focus, setFocus] = useState(0);
  const [shown, setShown] = useState<Shown | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const picture = useRef<SVGSVGElement>(null);

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const measure = new ResizeObserver(() => setRoom(element.clientWidth));
    measure.observe(element);
    return () => measure.disconnect();
  }, []);

  // A large graph is first seen where the statement stands.
  useEffect(() => {
    if (room > 0)
      picture.current?.querySelector('[data-node="0"]')?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [room]);

  // It is as large as fits at first, and never larger than it was drawn.
  const fitting = room === 0 ? 1 : Math.min(1, Math.max(0.6, (room - 4) / Math.max(width, 1)));
  const scale = zoom ?? fitting;
  const zoomBy = (factor: number) => setZoom(Math.min(3, Math.max(0.2, scale * factor)));

  function onKey(event: KeyboardEvent): void {
    const next = (
      across
        ? { ArrowRight: "to", ArrowLeft: "from", ArrowDown: "down", ArrowUp: "up" }
        : { ArrowDown: "to", ArrowUp: "from", ArrowRight: "right", ArrowLeft: "left" }
    )[event.key];
    if (event.key === "+" || event.key === "=") zoomBy(1.25);
    else if (event.key === "-") zoomBy(0.8);
    else if (event.key === "0") setZoom(null);
    else if (event.key === "Enter" || event.key === " ") setShown(definitionOf(focus, trace));
    else if (next) {
      const target = neighbour(focus, next, boxes, arrows);
      if (target === null) return;
      setFocus(target);
      setShown(definitionOf(target, trace));
      picture.current
        ?.querySelector(`[data-node="${target}"]`)
        ?.scrollIntoView({ block: "nearest", inline: "nearest" });
    } else return;
    event.preventDefault();
  }

  return (
    <>
      <div className="tools">
        <button type="button" aria-label="Smaller" onClick={() => zoomBy(0.8)}>
          −
        </button>
        <span className="faint">{Math.round(scale * 100)} %</span>
        <button type="button" aria-label="Larger" onClick={() => zoomBy(1.25)}>
          +
        </button>
        <button type="button" onClick={() => setZoom(Math.min(1, (room - 4) / Math.max(width, 1)))}>
          Whole
        </button>
        <button type="button" onClick={() => picture.current && save(picture.current, trace)}>
          Save as SVG
        </button>
      </div>
      <div
        className="graph"
        ref={frame}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the graph is walked with the arrow keys.
        tabIndex={0}
        role="application"
        aria-label="Ripple graph; arrow keys move, + and - zoom"
        onKeyDown={onKey}
      >
        <svg
          ref={picture}
          width={width * scale}
          height={height * scale}
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={`What statement ${trace.statement + 1} writes`}
        >
          <defs>
            <marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
              <path d="M0,0 L8,4 L0,8 z" className="arrow-head" />
            </marker>
          </defs>
          {arrows.map((arrow) => (
            <ArrowLine
              key={`${arrow.edge.from} ${arrow.edge.to} ${arrow.edge.how} ${arrow.edge.name}`}
              arrow={arrow}
              onShow={setShown}
            />
          ))}
          {boxes.map((box) => (
            <BoxShape
              key={box.id}
              box={box}
              node={trace.nodes[box.id]}
              focused={box.id === focus}
              onShow={() => {
                setFocus(box.id);
                setShown(definitionOf(box.id, trace));
              }}
              onNote={setShown}
            />
          ))}
        </svg>
      </div>
      {shown ? (
        <section className="definition">
          <h2>{shown.title}</h2>
          {shown.text !== "" && <p>{shown.text}</p>}
          {shown.definition !== "" && <pre>{shown.definition}</pre>}
        </section>
      ) : (
        <p className="hint faint">
          A solid arrow always happens; a dashed one depends on a condition. Click an arrow or a box for its definition.
        </p>
      )}
    </>
  );
}

function ArrowLine({ arrow, onShow }: { arrow: Arrow; onShow(shown: Shown): void }) {
  const { edge, label, labelX, labelY } = arrow;
  const path = arrowPath(arrow);
  const show = () => onShow({ title: label, text: edge.reason.replaceAll("`", ""), definition: edge.definition });
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the graph has keys of its own.
    <g className={edge.certain ? "arrow" : "arrow perhaps"} onClick={show}>
      <path d={path} className="wide" />
      <path d={path} markerEnd="url(#head)" />
      {label !== "" && (
        <>
          <rect
            x={labelX - label.length * 3.35 - 3}
            y={labelY - 8}
            width={label.length * 6.7 + 6}
            height={LINE}
            className="label-back"
          />
          <text x={labelX} y={labelY + 4} textAnchor="middle">
            {label}
          </text>
        </>
      )}
    </g>
  );
}

interface BoxProps {
  box: Box;
  node: StatementTrace["nodes"][number];
  focused: boolean;
  onShow(): void;
  onNote(shown: Shown): void;
}

function BoxShape({ box, node, focused, onShow, onNote }: BoxProps) {
  const { x, y, width, height, lines, notes } = box;
  const notesAt = y + height - LINE - 3;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the graph has keys of its own.
    <g className={`box ${node.object}${focused ? " focused" : ""}`} data-node={box.id} onClick={onShow}>
      <rect x={x} y={y} width={width} height={height} rx={node.object === "table" ? 2 : 12} />
      {lines.map((line, i) => (
        <text key={line} x={x + 9} y={y + 19 + i * LINE} className={i === 0 ? "first" : ""}>
          {line}
        </text>
      ))}
      {notes.length > 0 && (
        // biome-ignore lint/a11y/noStaticElementInteractions: reached with Enter on the box as well.
        <g
          className="note-mark"
          onClick={(event) => {
            event.stopPropagation();
            onNote(noteOf(notes));
          }}
        >
          <line x1={x} x2={x + width} y1={notesAt - 2} y2={notesAt - 2} />
          <text x={x + 9} y={notesAt + 12}>
            {notes.length === 1 ? KINDS[notes[0].kind] : `${notes.length} notes`}
          </text>
        </g>
      )}
    </g>
  );
}

function noteOf(notes: Box["notes"]): Shown {
  return {
    title: notes.map(({ name, kind }) => `${name}: ${KINDS[kind]}`).join("; "),
    text: notes.map(({ text }) => text.replaceAll("`", "")).join(". "),
    definition: "",
  };
}

/** What leads to a box, and what happens there. */
function definitionOf(id: number, trace: StatementTrace): Shown {
  const node = trace.nodes[id];
  const edge = trace.edges.find((one) => one.to === id);
  const notes = trace.notes
    .filter((note) => note.node === id)
    .map(({ name, text, kind }) => `${name} ${KINDS[kind]}: ${text}`);
  return {
    title: node.object === "statement" ? `statement ${trace.statement + 1}` : node.name,
    text: [edge && edge.how !== "statement" ? edge.reason : "", ...notes]
      .filter((part) => part !== "")
      .join(". ")
      .replaceAll("`", ""),
    definition: edge?.definition ?? "",
  };
}

/** The box that a key leads to: along an arrow, or to the nearest box beside it. */
function neighbour(id: number, way: string, boxes: readonly Box[], arrows: readonly Arrow[]): number | null {
  if (way === "to") return arrows.find(({ edge }) => edge.from === id)?.edge.to ?? null;
  if (way === "from") return arrows.find(({ edge }) => edge.to === id)?.edge.from ?? null;
  const own = boxes[id];
  const side = way === "right" || way === "down" ? 1 : -1;
  const upright = way === "down" || way === "up";
  const middle = (box: Box) => (upright ? box.y + box.height / 2 : box.x + box.width / 2);
  // Boxes beside it are those of the same rank.
  const apartFrom = (box: Box) =>
    upright
      ? box.x > own.x + own.width || box.x + box.width < own.x
      : box.y > own.y + own.height || box.y + box.height < own.y;
  let best: Box | null = null;
  for (const box of boxes) {
    const apart = (middle(box) - middle(own)) * side;
    if (apart <= 0 || apartFrom(box)) continue;
    if (!best || apart < (middle(best) - middle(own)) * side) best = box;
  }
  return best?.id ?? null;
}

/** Saves the picture as a file of its own, with its colours in it. */
function save(svg: SVGSVGElement, trace: StatementTrace): void {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const sheet = document.createElementNS("http://www.w3.org/2000/svg", "style");
  // A file has no theme: it is drawn dark on white.
  sheet.textContent = `text{font:12px sans-serif;fill:#22262b}.first{font-weight:600}.box rect{fill:#fff;stroke:#22262b}.box.statement rect{fill:#f1ece0}.box.view rect{stroke-dasharray:5 3}.arrow path{fill:none;stroke:#6b6f76}.arrow .wide{stroke:none}.arrow.perhaps path{stroke-dasharray:5 4}.arrow-head{fill:#6b6f76}.label-back{fill:#fff}.note-mark line{stroke:#dcd8cf}.note-mark text{fill:#8a5a00}`;
  copy.prepend(sheet);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  const url = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(copy)], { type: "image/svg+xml" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = `ripples-line-${trace.line}.svg`;
  link.click();
  URL.revokeObjectURL(url);
}
