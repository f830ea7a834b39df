import { existsSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { type Policy, policyOf, refinedPolicy } from "cautela";
import { isScriptOf } from "cautela/tools";
import { Failure } from "./failure.ts";
import type { PolicyFile } from "./policy-file.ts";

/** The names under which a policy is found. */
export const POLICY_NAMES = ["cautela.policy.yaml", "cautela.policy.yml", "cautela.policy.json"];

/** What a team has agreed on for one script, and the files in which it stands, the farthest first. */
export interface FoundPolicy {
  policy: Policy | undefined;
  files: readonly PolicyFile[];
}

/**
 * The policies of scripts: the one that was given, or those that are found from the folder of a script upwards to that of
 * its repository. Nearer ones refine farther ones.
 *
 * @example
 * const { policy } = await new Policies().ofScript("db/billing/3_rates.sql");
 */
export class Policies {
  readonly #given: string | undefined;
  readonly #byFolder = new Map<string, Promise<FoundPolicy>>();

  constructor(given?: string) {
    this.#given = given;
  }

  /** The policy of a folder, with its rules for scripts. */
  ofFolder(folder: string): Promise<FoundPolicy> {
    const key = this.#given === undefined ? resolve(folder) : "";
    let found = this.#byFolder.get(key);
    if (!found) {
      found = this.#find(key);
      this.#byFolder.set(key, found);
    }
    return found;
  }

  /** The policy in force for one script: what its rules say of it is put in. */
  async ofScript(path: string): Promise<FoundPolicy> {
    const { policy, files } = await this.ofFolder(dirname(path));
    if (policy === undefined) return { policy, files };
    const full = resolve(path);
    const own = policyOf(policy, full);
    // Where a script lies is known here, and not from the name that it was given by.
    const install = own.install === undefined ? {} : { install: isScriptOf(full, own.install) ? ["*"] : [] };
    return { policy: { ...own, ...install }, files };
  }

  async #find(folder: string): Promise<FoundPolicy> {
    if (this.#given !== undefined) {
      const file = await read(this.#given);
      return { policy: file.policy, files: [file] };
    }
    const farther: FoundPolicy = isTop(folder)
      ? { policy: undefined, files: [] }
      : await this.ofFolder(dirname(folder));
    const names = POLICY_NAMES.filter((name) => existsSync(join(folder, name)));
    if (names.length === 0) return farther;
    const shown = relative(".", folder);
    if (names.length > 1) throw new Failure(`${shown || "."} holds ${names.join(" and ")}: one of them is the policy`);
    const own = await read(join(shown, names[0]));
    return {
      policy: farther.policy ? refinedPolicy(farther.policy, own.policy) : own.policy,
      files: [...farther.files, own],
    };
  }
}

/** Where a policy of a folder would be found, whether one is there or not. */
export function policyPlaces(folder: string): string[] {
  const places: string[] = [];
  for (let at = resolve(folder); ; at = dirname(at)) {
    places.push(...POLICY_NAMES.map((name) => join(at, name)));
    if (isTop(at)) return places;
  }
}

/** Above the folder of a repository nothing is looked for. */
function isTop(folder: string): boolean {
  return dirname(folder) === folder || existsSync(join(folder, ".git"));
}

async function read(file: string): Promise<PolicyFile> {
  const { readPolicy } = await import("./policy-file.ts");
  return readPolicy(file);
}
