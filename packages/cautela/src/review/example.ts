import { catalogFromDdl } from "../catalog/ddl/from-ddl.ts";
import type { Hazard } from "../hazards/hazard.ts";
import { hazards } from "../hazards/register.ts";
import type { Policy } from "../policy/policy.ts";
import { reviewChangeSet } from "./change-set.ts";
import type { Review } from "./result.ts";

/**
 * The review of a hazard's example, the dangerous or the sound script, under what goes with it: its tables, a policy, a date,
 * the script that it takes back.
 *
 * @example
 * reviewExample(hazard, "dangerous").findings.some((one) => one.hazard === hazard.id) // true for every hazard
 */
export function reviewExample(hazard: Hazard, which: "dangerous" | "sound"): Review {
  const { dialect, ddl, date, beside, policy } = hazard.example;
  const asked: Policy = hazard.onRequest ? { weights: { [hazard.id]: hazard.weight } } : {};
  const text = hazard.example[which];
  const looked = hazards.includes(hazard) ? hazards : [...hazards, hazard];
  const options = { catalog: catalogFromDdl(ddl, { dialect }), policy: policy ?? asked, date, hazards: looked };
  const path = "change.sql";
  const reviews = beside?.undoes
    ? reviewChangeSet([{ text: beside.undoes, path, dialect, undo: { text, path: "change.undo.sql" } }], options)
    : reviewChangeSet([{ text, dialect, ...(which === "dangerous" ? { rewritten: beside?.rewritten } : {}) }], options);
  return reviews[reviews.length - 1];
}
