import type { Policy } from "../../policy/policy.ts";

/** What kind of data a table holds. */
export type TableClass = "business" | "log" | "scratch";

const LOG =
  /(?:^|_)(?:log|logs|audit|journal|trail|history|hist|event|events|trace|changes)(?:_|$|\d)|(?:log|audit|journal|history)$/i;
const SCRATCH = /^(?:tmp|temp|scratch|stage|staging|work)_|_(?:tmp|temp|scratch|stage|staging)$|^[#@]/i;

/** The class that the policy gives a table; undefined where it says nothing. */
export function policyClass(shown: string, policy: Policy): TableClass | undefined {
  const bare = bareName(shown);
  const { tables } = policy;
  // A table may have the name of something that every object has.
  for (const name of [shown, bare, bare.toLowerCase()]) if (tables && Object.hasOwn(tables, name)) return tables[name];
  return undefined;
}

/** The class of a table: as the policy says, else as its name says, else business. */
export function tableClass(shown: string, policy: Policy): TableClass {
  const said = policyClass(shown, policy);
  if (said) return said;
  const bare = bareName(shown);
  if (SCRATCH.test(bare)) return "scratch";
  return LOG.test(bare) ? "log" : "business";
}

function bareName(shown: string): string {
  return shown.slice(shown.lastIndexOf(".") + 1);
}
