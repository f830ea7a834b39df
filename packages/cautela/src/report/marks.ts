import type { Reach } from "../analysis/changes/reach.ts";
import type { Verdict } from "../review/result.ts";

/** The mark of a weight: told apart by shape before colour. */
export const MARKS: Readonly<Record<Verdict, string>> = { stop: "■", ask: "◧", note: "□", clear: "·" };

const CELLS = 12;

/**
 * Reach as a bar: the share of the table that a statement touches. A share that only the data could
 * tell is hatched.
 *
 * @example
 * reachBar({ bound: "every" }, 41200) // "████████████"
 * reachBar({ bound: "one", rows: 1 }, 41200) // "▏···········"
 */
export function reachBar(reach: Reach, tableRows: number | null): string {
  switch (reach.bound) {
    case "every":
      return "█".repeat(CELLS);
    case "none":
      return "·".repeat(CELLS);
    case "one":
    case "few": {
      const share = tableRows && reach.rows ? Math.min(1, reach.rows / tableRows) : 0;
      const full = Math.floor(share * CELLS);
      return full === 0 ? `▏${"·".repeat(CELLS - 1)}` : "█".repeat(full) + "·".repeat(CELLS - full);
    }
    default: {
      // An estimate has its share.
      const part =
        reach.rows !== undefined && reach.of ? Math.max(1, Math.round((reach.rows / reach.of) * CELLS)) : CELLS;
      return "░".repeat(part) + "·".repeat(CELLS - part);
    }
  }
}

/**
 * The share of a bar that a drawn reach fills, from 0 to 1, and whether only the data can tell it: then it is hatched. A few
 * rows are a sliver that can be seen.
 */
export function drawnReach({ bound, rows, of }: Reach): { share: number; hatched: boolean } {
  if (bound === "some" || bound === "multiplied" || bound === "unknown")
    return { share: rows !== undefined && of ? Math.min(1, Math.max(SLIVER, rows / of)) : 1, hatched: true };
  return { share: bound === "every" ? 1 : bound === "none" ? 0 : SLIVER, hatched: false };
}

const SLIVER = 0.025;
