import type { Reach } from "cautela";
import { reachWords } from "cautela/tools";

const WIDTH = 120;

/** Reach as a bar: the share of the table that the statement touches; hatched where only the data can tell. */
export function ReachBar({ reach, target }: { reach: Reach; target: string | null }) {
  const every = reach.bound === "every";
  const unknown = reach.bound === "some" || reach.bound === "multiplied" || reach.bound === "unknown";
  const estimate = reach.rows !== undefined && reach.of ? Math.max(0.03, reach.rows / reach.of) : 1;
  const share = every ? WIDTH : reach.bound === "none" ? 0 : unknown ? WIDTH * estimate : 3;
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
          width={share}
          height="9"
          className={unknown ? "reach-part" : "reach-share"}
          fill={unknown ? "url(#hatch)" : undefined}
        />
      </svg>
      <span>
        {reachWords(reach)}
        {target ? ` of ${target}` : ""}
      </span>
    </span>
  );
}
