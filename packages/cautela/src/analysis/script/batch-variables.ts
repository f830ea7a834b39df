import type { Statement } from "../../sql/nodes/tree.ts";

/** A batch may declare this many variables that are remembered. */
const KEPT = 1000;

/** The names that a DECLARE gives to variables of T-SQL, in small letters. */
export function declaredVariables({ name, before }: Extract<Statement, { kind: "declare" }>): string[] {
  const names = name ? [...before, name] : before;
  return names.filter(({ text }) => text.startsWith("@")).map(({ text }) => text.toLowerCase());
}

/** The variables that a batch declares: they end with it (learn.microsoft.com, "Variables (Transact-SQL)"). */
export class BatchVariables {
  readonly #declared = new Set<string>();
  readonly #ended = new Map<string, number>();

  /** Takes a statement into account for those that follow. */
  note(tree: Statement): void {
    if (tree.kind === "declare")
      for (const name of declaredVariables(tree)) if (this.#declared.size < KEPT) this.#declared.add(name);
  }

  /** A separator follows, after all that runs inside the last statement. */
  end(line: number): void {
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
