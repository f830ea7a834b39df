import type { Table } from "../catalog/model.ts";
import type { Policy } from "../policy.ts";

/** Gives out names for copies: by the policy's pattern, each only once. */
export class CopyNames {
  readonly #pattern: string;
  readonly #date: string;
  readonly #given = new Set<string>();

  constructor(policy: Policy, date: string) {
    this.#pattern = policy.backup?.name ?? "{table}_before_{date}";
    this.#date = date;
  }

  /** A name for the copy of a table. */
  next(table: Pick<Table, "name">): string {
    const filled = this.#pattern.replaceAll("{table}", table.name).replaceAll("{date}", this.#date);
    const upper = table.name === table.name.toUpperCase() && /[A-Z]/.test(table.name);
    const base = (upper ? filled.toUpperCase() : filled).replace(/_+$/, "");
    let name = base;
    for (let n = 2; this.#given.has(name.toLowerCase()); n++) name = `${base}_${n}`;
    this.#given.add(name.toLowerCase());
    return name;
  }
}
