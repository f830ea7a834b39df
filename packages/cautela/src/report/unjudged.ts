import { grouped } from "../hazards/wording.ts";
import type { Unjudged } from "../review/result.ts";

const WORDS: Readonly<Record<Unjudged["what"], readonly [string, string]>> = {
  rights: ["statement about rights", "statements about rights"],
  "branches of MERGE": ["MERGE (in part)", "MERGEs (in part)"],
  settings: ["setting", "settings"],
  commands: ["command", "commands"],
};

/** What was not judged, in words: "2 statements about rights, 1 setting"; empty where there is nothing of the kind. */
export function unjudgedWords(reviews: readonly { unjudged: readonly Unjudged[] }[]): string {
  const counts = new Map<Unjudged["what"], number>();
  for (const { unjudged } of reviews)
    for (const { what, statements } of unjudged) counts.set(what, (counts.get(what) ?? 0) + statements.length);
  return [...counts].map(([what, count]) => `${grouped(count)} ${WORDS[what][count === 1 ? 0 : 1]}`).join(", ");
}
