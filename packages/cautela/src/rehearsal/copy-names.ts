import type { Catalog } from "../catalog/catalog.ts";
import type { Table } from "../catalog/model.ts";
import type { Policy } from "../policy/policy.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";

/** Gives out names for copies: by the policy's pattern, each only once, and none that is there already. */
export class CopyNames {
  readonly #pattern: string;
  readonly #date: string;
  readonly #longest: number;
  readonly #given = new Set<string>();
  /** The last number that a name has got. */
  readonly #numbers = new Map<string, number>();

  constructor(policy: Policy, date: string, dialect: Dialect, catalog: Catalog | null) {
    this.#pattern = policy.backup?.name ?? "{table}_before_{date}";
    this.#date = date;
    this.#longest = dialect.engine.longestName;
    for (const table of catalog?.tables() ?? []) this.taken(table.name);
    for (const view of catalog?.objects("view") ?? []) this.taken(view.name);
  }

  /** A name that the script uses itself. */
  taken(name: string): void {
    this.#given.add(name.toLowerCase());
  }

  /** A name for the copy of a table; `suffix` tells what it holds besides: `_new` for the keys of rows that came. */
  next(table: Pick<Table, "name"> & Partial<Pick<Table, "written">>, suffix = ""): string {
    const own = table.written?.[table.written.length - 1] ?? table.name;
    const fill = (name: string): string =>
      this.#pattern.replaceAll("{table}", () => name).replaceAll("{date}", () => this.#date);
    const upper = own === own.toUpperCase() && /[A-Z]/.test(own);
    const cased = (text: string): string => (upper ? text.toUpperCase() : text);
    const rest = cased(fill("")).length + suffix.length + 3;
    const base = cased(fill(own.slice(0, Math.max(1, this.#longest - rest))).replace(/_+$/, "") + suffix);
    let n = this.#numbers.get(base) ?? 1;
    let name = n === 1 ? base : `${base}_${n}`;
    while (this.#given.has(name.toLowerCase())) name = `${base}_${++n}`;
    this.#numbers.set(base, n);
    this.#given.add(name.toLowerCase());
    return name;
  }
}
