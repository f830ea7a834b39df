import type { StatementTrace } from "../../review/trace.ts";
import { inOneLine } from "../../text/visible.ts";
import { counted } from "../layout.ts";
import { arrowPath, LINE, NOTE_WORDS, type RippleArrow, type RippleBox, rippleDrawing } from "../ripple-layout.ts";
import { Message } from "./marks.tsx";

/** Larger graphs are not drawn: nobody could read them on paper. */
const MOST = 60;

/** Whether a statement writes more than what it names. */
export function hasRipples({ edges, notes }: StatementTrace): boolean {
  return notes.length > 0 || edges.some(({ how }) => how !== "statement");
}

/** What a statement writes besides what it names, as a drawing, with the sentences for those who cannot see it. */
export function RipplePicture({ trace }: { trace: StatementTrace }) {
  if (trace.nodes.length > MOST)
    return (
      <p class="faint">
        It also reaches {counted(trace.nodes.length - 1, "place")} by triggers, keys, views and routines, too many to be
        drawn here; <code>cautela trace</code> lists them.
      </p>
    );
  const { boxes, arrows, width, height } = rippleDrawing(trace);
  const reasons = trace.edges.filter(({ how }) => how !== "statement").map(({ reason }) => reason);
  return (
    <div class="drawing">
      <svg
        width={Math.ceil(width)}
        height={Math.ceil(height)}
        viewBox={`0 0 ${Math.ceil(width)} ${Math.ceil(height)}`}
        role="img"
        aria-label={inOneLine(`What line ${trace.line} also writes: ${reasons.join("; ")}`)}
      >
        {arrows.map((arrow) => (
          <ArrowLine arrow={arrow} />
        ))}
        {boxes.map((box) => (
          <BoxShape box={box} kind={trace.nodes[box.id].object} />
        ))}
      </svg>
      <ul class="because">
        {[...reasons, ...trace.notes.map(({ name, text }) => `${name}: ${text}`)].slice(0, MOST).map((reason) => (
          <li>
            <Message text={reason} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function ArrowLine({ arrow }: { arrow: RippleArrow }) {
  const { edge, label, labelX, labelY } = arrow;
  return (
    <g class={edge.certain ? "arrow" : "arrow perhaps"}>
      <path d={arrowPath(arrow)} marker-end="url(#head)" />
      {label !== "" && (
        <>
          <rect x={labelX - label.length * 3.35 - 3} y={labelY - 8} width={label.length * 6.7 + 6} height={LINE} />
          <text x={labelX} y={labelY + 4} text-anchor="middle">
            {inOneLine(label)}
          </text>
        </>
      )}
    </g>
  );
}

function BoxShape({ box, kind }: { box: RippleBox; kind: string }) {
  const { x, y, width, height, lines, notes } = box;
  const notesAt = y + height - LINE - 3;
  return (
    <g class={`box ${kind}`}>
      <rect x={x} y={y} width={width} height={height} rx={kind === "table" ? 2 : 12} />
      {lines.map((line, i) => (
        <text x={x + 9} y={y + 19 + i * LINE} class={i === 0 ? "first" : undefined}>
          {inOneLine(line)}
        </text>
      ))}
      {notes.length > 0 && (
        <>
          <line x1={x} x2={x + width} y1={notesAt - 2} y2={notesAt - 2} />
          <text x={x + 9} y={notesAt + 12} class="remark">
            {notes.length === 1 ? NOTE_WORDS[notes[0].kind] : counted(notes.length, "note")}
          </text>
        </>
      )}
    </g>
  );
}
