import { resolve } from "node:path";
import type { Policy } from "cautela";
import { isScriptOf } from "cautela/tools";
import type { FoundPolicy } from "./policies.ts";
import type { PolicyFile } from "./policy-file.ts";

/** One entry of the policy in force, and where it stands. */
export interface PolicyEntry {
  /** What it belongs to: `weights`, `freeze`. */
  group: string;
  /** The name in the group; empty for what has none. */
  name: string;
  value: string;
  file: string;
  line: number;
}

type At = (string | number)[];

/** Groups whose entries have names of their own. */
const NAMED = ["scripts", "tables", "weights", "backup", "settings", "unfiltered-by", "row-bounds"];

/** The entries of the policy in force for a script, each with the file and the line that it comes from. */
export function policyEntries(path: string, { policy, files }: FoundPolicy): PolicyEntry[] {
  if (!policy) return [];
  const full = resolve(path);
  // The nearest and the last that says it is the one that holds.
  const said = files.flatMap((file) => saidBy(file, full)).reverse();
  return (
    entriesOf(policy)
      .map(({ group, name, value }) => {
        const origin = said.find((one) => one.group === group && one.name === name && one.value === value);
        return { group, name, value, file: origin?.file ?? "", line: origin?.line ?? 0 };
      })
      // A weight that goes over the rules of a farther policy is a rule for all tables besides; it is shown as a weight.
      .filter(({ line }) => line > 0)
      .sort((a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group))
  );
}

/** The order in which a policy is read. */
const GROUPS = [
  "dialect",
  "catalog",
  ...["scripts", "tables", "weights", "unfiltered-by", "one-by-one", "row-bounds", "backup", "settings", "install"],
  ...["forbidden", "freeze", "rules"],
];

interface Entry {
  group: string;
  name: string;
  value: string;
  at: At;
}

function entriesOf(policy: Policy, prefix: At = []): Entry[] {
  const entries: Entry[] = [];
  for (const [group, said] of Object.entries(policy)) {
    if (said === undefined) continue;
    const at = [...prefix, group];
    if (NAMED.includes(group))
      for (const [name, value] of Object.entries(said as object))
        entries.push({ group, name, value: shown(value), at: [...at, name] });
    else if (Array.isArray(said))
      for (const [i, value] of said.entries()) entries.push({ group, name: "", value: shown(value), at: [...at, i] });
    else entries.push({ group, name: "", value: shown(said), at });
  }
  return entries;
}

/** What a file says of a script: its own entries, and those of the rules that mean it. */
function saidBy({ policy, file, line }: PolicyFile, path: string): (Entry & { file: string; line: number })[] {
  const { rules = [], ...own } = policy;
  const entries = entriesOf(own);
  for (const [i, rule] of rules.entries()) {
    const { scripts, tables, ...said } = rule;
    if (scripts !== undefined && !isScriptOf(path, [scripts].flat())) continue;
    const at: At = ["rules", i];
    if (tables === undefined) entries.push(...entriesOf(said, at));
    else entries.push({ group: "rules", name: "", value: shown({ tables, weights: said.weights }), at });
  }
  return entries.map((entry) => ({ ...entry, file, line: line(entry.at) }));
}

function shown(value: unknown): string {
  if (typeof value === "string") return value;
  if (Array.isArray(value)) return value.map(shown).join(", ");
  if (typeof value !== "object" || value === null) return String(value);
  return Object.entries(value)
    .filter(([, one]) => one !== undefined)
    .map(
      ([name, one]) => `${name}: ${typeof one === "object" && !Array.isArray(one) ? `{ ${shown(one)} }` : shown(one)}`,
    )
    .join(", ");
}
