import type { Reach } from "cautela";
import { drawnReach, reachWords } from "cautela/tools";

const WIDTH = 120;

/** Reach as a bar: the share of the table that the statement touches; hatched where only the data can tell. */
export function ReachBar({ reach, target }: { reach: Reach; target: string | null }) {
  const { share, hatched } = drawnReach(reach);
  return (
    <span className="reach">
      <svg width={WIDTH + 2} height="10" aria-hidden="true">
        <defs>
          <pattern id="hatch" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="1.4" height="4" className="hatch" />
          </pattern>
        </defs>
        <rect x="0.5" y="0.5" width={WIDTH} height="9" className="reach-frame" />
        <rect
          x="0.5"
          y="0.5"
          width={WIDTH * share}
          height="9"
          className={hatched ? "reach-part" : "reach-share"}
          fill={hatched ? "url(#hatch)" : undefined}
        />
      </svg>
      <span>
        {reachWords(reach)}
        {target ? ` of ${target}` : ""}
      </span>
    </span>
  );
}
