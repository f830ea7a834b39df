import { namesVersion, policyClass } from "../analysis/script/table-class.ts";
import type { At, Draft, FinishContext } from "./hazard.ts";
import { grouped, listedShort } from "./wording.ts";

/** What is left of a finding about a table that is emptied, when the script is seen to fill it again. */
export function refilled(
  draft: Draft,
  target: string,
  key: string,
  at: At,
  { returns, policy }: FinishContext,
): Draft | null {
  const refill = returns.refillAfter(key, at.statement);
  if (!refill) return draft;
  if (refill.from === "query")
    return {
      ...draft,
      weight: "note",
      message: `\`${target}\` is emptied and filled again by a query.`,
      because: ["the rows are derived from tables that are still there"],
      remedy: "Compare the number of rows before and after.",
      cause: "filled again by a query",
      about: target,
      together: (tables) => `${listedShort(tables)} are emptied and filled again by queries.`,
    };
  const oneRow = refill.rows === 1 && (policyClass(target, policy) === "single-row" || namesVersion(target));
  if (oneRow) return null;
  const rows = refill.rows === null ? "rows" : refill.rows === 1 ? "one row" : `${grouped(refill.rows)} rows`;
  return {
    ...draft,
    weight: draft.weight === "note" ? "note" : "ask",
    message: `\`${target}\` is emptied and filled again with ${rows} of this script.`,
    because: ["whatever else it holds is gone: rows that were added or changed since the last script"],
    remedy: "Compare the table with the rows of the script first, and keep a copy if it holds more.",
    cause: "filled again from literals",
    about: target,
    together: (tables) => `${listedShort(tables)} are emptied and filled again with rows of this script.`,
  };
}
