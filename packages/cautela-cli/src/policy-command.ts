import { existsSync, statSync } from "node:fs";
import { join } from "node:path";
import { visible } from "cautela/tools";
import { Failure } from "./failure.ts";
import { isFolder } from "./files.ts";
import { FIRST_POLICY } from "./first-policy.ts";
import { print, writeText } from "./output.ts";
import { POLICY_NAMES, Policies } from "./policies.ts";
import { type PolicyEntry, policyEntries } from "./policy-origins.ts";
import { terminalStyle } from "./style.ts";

export interface PolicyFlags {
  policy?: string;
  init?: boolean;
  format: "text" | "json";
}

/** `cautela policy SCRIPT`: the policy in force, and where each entry stands. `--init` writes a first file. */
export async function policyCommand(path: string | undefined, flags: PolicyFlags): Promise<number> {
  if (flags.init) return init(path ?? ".");
  if (path === undefined) throw new Failure("name a script, or --init for a first policy");
  if (path !== "-" && statSync(path, { throwIfNoEntry: false }) === undefined)
    throw new Failure(`cannot read ${path}: there is no such file`);
  // Of a folder it is asked as of a script in it.
  const script = path !== "-" && isFolder(path) ? join(path, "*.sql") : path;
  const found = await new Policies(flags.policy).ofScript(script === "-" ? "./-" : script);
  const entries = policyEntries(script, found);
  if (flags.format === "json")
    await print(`${JSON.stringify({ path, policy: found.policy ?? {}, entries }, null, 2)}\n`);
  else
    await print(
      visible(
        text(
          path,
          entries,
          found.files.map(({ file }) => file),
        ),
        true,
      ),
    );
  return 0;
}

async function init(folder: string): Promise<number> {
  if (!isFolder(folder)) throw new Failure(`${folder} is no folder`);
  const there = POLICY_NAMES.map((name) => join(folder, name)).find((file) => existsSync(file));
  if (there !== undefined) throw new Failure(`${there} is there already, and is not written over`);
  const file = join(folder, POLICY_NAMES[0]);
  writeText(file, FIRST_POLICY);
  await print(`${visible(file)}\n`);
  return 0;
}

function text(path: string, entries: readonly PolicyEntry[], files: readonly string[]): string {
  const style = terminalStyle(process.stdout);
  if (files.length === 0) return `No policy is in force for ${path}: no ${POLICY_NAMES[0]} from there upwards.\n`;
  if (entries.length === 0)
    return `Nothing is in force for ${path}: what ${files.join(", ")} says is commented out, or for others.\n`;
  const rows: [string, string][] = [];
  let group = "";
  for (const entry of entries) {
    const { name, value } = entry;
    const place = `${entry.file}:${entry.line}`;
    const alone = name === "" && entries.filter((one) => one.group === entry.group).length === 1;
    if (alone) rows.push([`${entry.group}: ${value}`, place]);
    else {
      if (entry.group !== group) rows.push([entry.group, ""]);
      rows.push([name === "" ? `  - ${value}` : `  ${name}: ${value}`, place]);
    }
    group = entry.group;
  }
  const width = Math.min(44, Math.max(0, ...rows.filter(([, place]) => place !== "").map(([said]) => said.length)));
  const lines = rows.map(([said, place]) => (place === "" ? said : `${said.padEnd(width)}  ${style("dim", place)}`));
  return `Policy of ${path}, from ${files.join(", ")}\n\n${lines.join("\n")}\n`;
}
