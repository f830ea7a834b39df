import type { Reach } from "../../analysis/changes/reach.ts";
import { reachWords } from "../../hazards/wording.ts";
import type { Verdict } from "../../review/result.ts";
import { inOneLine } from "../../text/visible.ts";
import { drawnReach } from "../marks.ts";
import { messageParts } from "../message-parts.ts";

/** The mark of a weight: a filled, a half filled or an open square, told apart without colour. */
export function WeightMark({ weight, size = 14 }: { weight: Verdict; size?: number }) {
  return (
    <svg class={`mark ${weight}`} width={size} height={size} viewBox="0 0 14 14" role="img" aria-label={weight}>
      {weight === "clear" ? (
        <path d="M2.5 7.5 L6 11 L12 3.5" fill="none" stroke="currentColor" stroke-width="2" />
      ) : (
        <rect x="1.5" y="1.5" width="11" height="11" fill="none" stroke="currentColor" stroke-width="2" />
      )}
      {weight === "stop" && <rect x="1.5" y="1.5" width="11" height="11" fill="currentColor" />}
      {weight === "ask" && <rect x="1.5" y="1.5" width="5.5" height="11" fill="currentColor" />}
    </svg>
  );
}

const WIDTH = 120;

/** Reach as a bar: the share of the table that a statement touches; hatched where only the data can tell. */
export function ReachBar({ reach, target, inserts }: { reach: Reach; target: string | null; inserts: boolean }) {
  const { share, hatched } = drawnReach(reach);
  const into = target === null ? "" : ` ${inserts ? "into" : "of"} ${inOneLine(target)}`;
  return (
    <span class="reach">
      <svg width={WIDTH + 2} height="10" aria-hidden="true">
        {share > 0 && (
          <rect
            x="0.5"
            y="0.5"
            width={WIDTH * share}
            height="9"
            class={hatched ? "part" : "share"}
            fill={hatched ? "url(#hatch)" : undefined}
          />
        )}
        <rect x="0.5" y="0.5" width={WIDTH} height="9" class="frame" />
      </svg>
      <span>
        {inserts ? "inserts " : ""}
        {reachWords(reach)}
        {into}
      </span>
    </span>
  );
}

/** What all pictures of the page use. */
export function Patterns() {
  return (
    <svg width="0" height="0" aria-hidden="true">
      <defs>
        <pattern id="hatch" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.4" height="4" class="hatch" />
        </pattern>
        <marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
          <path d="M0,0 L8,4 L0,8 z" class="arrow-head" />
        </marker>
      </defs>
    </svg>
  );
}

/** A message: what stands between backquotes is shown as code. */
export function Message({ text }: { text: string }) {
  return <>{messageParts(text).map((part, i) => (i % 2 === 1 ? <code>{part}</code> : part))}</>;
}
