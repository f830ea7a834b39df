import { classed } from "../analysis/script/table-class.ts";
import { bareName } from "../catalog/names.ts";
import type { Policy } from "../policy/policy.ts";
import type { Weight } from "./hazard.ts";

/** What the name of a table makes of a weight, and the reason; null: nothing. */
export function lighterByName(shown: string, weight: Weight, policy: Policy): { weight: Weight; why: string } | null {
  const { is, said } = classed(shown, policy);
  if (said || is === "business" || is === "single-row") return null;
  const lighter = is === "log" ? (weight === "stop" ? "ask" : "note") : "note";
  return {
    weight: lighter,
    why: `the name of \`${shown}\` says that it holds ${WORDS[is]}; a policy can say so for good (tables: ${bareName(shown)}: ${is})`,
  };
}

const WORDS = { log: "a log", scratch: "scratch data", regenerable: "what can be made again" } as const;
