import type { Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";

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

  /** Declared without a value, and given none since. */
  readonly #unset = new Set<string>();

  /** Takes a statement into account for those that follow. */
  note(tree: Statement): void {
    if (tree.kind === "declare") {
      for (const name of declaredVariables(tree)) if (this.#declared.size < KEPT) this.#declared.add(name);
      const name = tree.name?.text.toLowerCase() ?? "";
      if (name.startsWith("@") && tree.type && !tree.value && this.#unset.size < KEPT) this.#unset.add(name);
    } else if (this.#unset.size > 0) this.#noteSet(tree);
  }

  /** Whether a variable is NULL for certain: it was declared without a value, and nothing has named it since that may set it. */
  isUnset(name: string): boolean {
    return this.#unset.has(name.toLowerCase());
  }

  #noteSet(tree: Statement): void {
    switch (tree.kind) {
      case "opaque":
      case "unread":
      case "loop":
      case "call-statement":
      case "dynamic":
        // FETCH, EXEC @x = …, OUTPUT, and whatever else is not taken apart.
        this.#unset.clear();
        return;
      case "delete":
      case "merge":
      case "if":
      case "block":
        return;
      case "insert":
        if (!tree.exec) return;
        break;
      case "update":
        for (const { targets } of tree.assignments)
          for (const target of targets) if (target.kind === "variable") this.#unset.delete(target.name.toLowerCase());
        return;
      default:
    }
    walk(tree, (node) => {
      if (node.kind === "variable") this.#unset.delete(node.name.toLowerCase());
      return undefined;
    });
  }

  /** A separator follows, after all that runs inside the last statement. */
  end(line: number): void {
    for (const name of this.#declared) if (this.#ended.size < KEPT) this.#ended.set(name, line);
    this.#declared.clear();
    this.#unset.clear();
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
