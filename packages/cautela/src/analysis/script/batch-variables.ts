import type { Statement } from "../../sql/nodes/tree.ts";

/** A batch may declare this many variables that are remembered. */
const KEPT = 1000;

/** The variables that a batch declares: they end with it (learn.microsoft.com, "Variables (Transact-SQL)"). */
export class BatchVariables {
  readonly #declared = new Set<string>();
  readonly #ended = new Map<string, number>();

  /** Takes a statement into account for those that follow. */
  note(tree: Statement, line: number, endsBatch: boolean): void {
    if (tree.kind === "declare")
      for (const name of tree.name ? [...tree.before, tree.name] : tree.before)
        if (name.text.startsWith("@") && this.#declared.size < KEPT) this.#declared.add(name.text.toLowerCase());
    if (!endsBatch) return;
    for (const name of this.#declared) if (this.#ended.size < KEPT) this.#ended.set(name, line);
    this.#declared.clear();
  }

  /** Whether any variable has come to its end. */
  get some(): boolean {
    return this.#ended.size > 0;
  }

  /** The line on which the batch ended that declared a variable, where no later one has declared it again; null otherwise. */
  endedOn(name: string): number | null {
    const own = name.toLowerCase();
    return this.#declared.has(own) ? null : (this.#ended.get(own) ?? null);
  }
}
