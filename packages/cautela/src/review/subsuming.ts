import type { Hazard } from "../hazards/hazard.ts";
import { type Finding, isAtLeast } from "./result.ts";

/**
 * Takes findings together that say one thing of one statement, as the hazards declare it (`subsumes`): what the second says
 * becomes a reason of the first, what it advises is added, and the heavier weight stays. A finding that its author has
 * accepted takes in no other: what was accepted is the one, and not what comes with it.
 *
 * @example
 * // every-row, and no-way-back of the same DELETE: one finding, which says that no copy is kept
 */
export function withoutSubsumed(findings: readonly Finding[], hazards: readonly Hazard[]): Finding[] {
  const subsumes = new Map(hazards.flatMap(({ id, subsumes }) => (subsumes ? [[id, subsumes]] : [])));
  const takers = new Map<string, Finding>();
  for (const finding of findings)
    if (finding.accepted === null)
      for (const id of subsumes.get(finding.hazard) ?? []) {
        const place = `${finding.statement} ${id}`;
        if (!takers.has(place)) takers.set(place, finding);
      }
  if (takers.size === 0) return [...findings];
  const left: Finding[] = [];
  for (const finding of findings) {
    const taker = takers.get(`${finding.statement} ${finding.hazard}`);
    if (!taker) {
      left.push(finding);
      continue;
    }
    if (finding.accepted !== null) continue;
    taker.because.push(finding.message);
    if (finding.remedy !== "")
      taker.remedy = taker.remedy === "" ? finding.remedy : `${taker.remedy} ${finding.remedy}`;
    if (isAtLeast(finding.weight, taker.weight)) taker.weight = finding.weight;
  }
  return left;
}
