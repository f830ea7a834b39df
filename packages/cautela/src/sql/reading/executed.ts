import type { Statement } from "../nodes/tree.ts";

/** A statement that runs when another one runs. */
export interface Executed {
  readonly tree: Statement;
  /** It stands in a branch, in a loop or in a handler of errors: it need not run. */
  readonly conditional: boolean;
  /** It stands in a loop. */
  readonly looped: boolean;
  /** It stands in a text that is run: between quotes, or put together of pieces. */
  readonly quoted: boolean;
}

/**
 * The statements that run when a statement runs: those inside blocks, branches, loops and constant
 * dynamic SQL, in the order of the source. What a definition holds does not run.
 */
export function* executed(statement: Statement): IterableIterator<Executed> {
  const stack: Executed[] = [];
  push({ tree: statement, conditional: false, looped: false, quoted: false }, stack);
  for (let inner = stack.pop(); inner; inner = stack.pop()) {
    yield inner;
    push(inner, stack);
  }
}

function push({ tree, conditional, looped, quoted }: Executed, stack: Executed[]): void {
  const below: Executed[] = [];
  const runs = (body: readonly Statement[], perhaps: boolean, again = looped, text = quoted): void => {
    for (const one of body) below.push({ tree: one, conditional: perhaps, looped: again, quoted: text });
  };
  switch (tree.kind) {
    case "block":
      runs(tree.body, conditional);
      for (const { body } of tree.handlers) runs(body, true);
      break;
    case "if":
      for (const { body } of tree.branches) runs(body, true);
      break;
    case "loop":
      runs(tree.body, true, true);
      break;
    case "create-schema":
      runs(tree.elements, conditional);
      break;
    case "dynamic":
      // PREPARE … AS has its statement as it stands.
      runs(tree.body ?? [], conditional, looped, quoted || tree.text !== null);
      break;
    default:
  }
  stack.push(...below.reverse());
}
