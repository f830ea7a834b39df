import type { Expr, Statement } from "../nodes/tree.ts";

/** A condition on which a statement runs: IF around it, or before it one that leaves. */
export interface RunsIf {
  readonly condition: Expr;
  /** It runs where the condition does not hold: after IF … RETURN, under ELSE. */
  readonly otherwise: boolean;
}

/** A statement that runs when another one runs. */
export interface Executed {
  readonly tree: Statement;
  /** It stands in a branch, in a loop or in a handler of errors: it need not run. */
  readonly conditional: boolean;
  /** It stands in a loop. */
  readonly looped: boolean;
  /** It stands in a text that is run: between quotes, or put together of pieces. */
  readonly quoted: boolean;
  /** The conditions on which it runs. */
  readonly conditions: readonly RunsIf[];
}

const NONE: readonly RunsIf[] = [];

/**
 * The statements that run when a statement runs: those inside blocks, branches, loops and constant
 * dynamic SQL, in the order of the source. What a definition holds does not run.
 */
export function* executed(statement: Statement): IterableIterator<Executed> {
  const stack: Executed[] = [];
  push({ tree: statement, conditional: false, looped: false, quoted: false, conditions: NONE }, stack);
  for (let inner = stack.pop(); inner; inner = stack.pop()) {
    yield inner;
    push(inner, stack);
  }
}

function push({ tree, conditional, looped, quoted, conditions }: Executed, stack: Executed[]): void {
  const below: Executed[] = [];
  const runs = (
    body: readonly Statement[],
    perhaps: boolean,
    {
      again = looped,
      text = quoted,
      on = conditions,
    }: { again?: boolean; text?: boolean; on?: typeof conditions } = {},
  ): void => {
    let under = on;
    for (const one of body) {
      below.push({ tree: one, conditional: perhaps, looped: again, quoted: text, conditions: under });
      const left = leavesUnless(one);
      if (left) under = more(under, left);
    }
  };
  switch (tree.kind) {
    case "block":
      runs(tree.body, conditional);
      for (const { body } of tree.handlers) runs(body, true);
      break;
    case "if": {
      let before = conditions;
      for (const { condition, body } of tree.branches) {
        runs(body, true, { on: condition ? more(before, { condition, otherwise: false }) : before });
        if (condition) before = more(before, { condition, otherwise: true });
      }
      break;
    }
    case "loop":
      runs(tree.body, true, { again: true });
      break;
    case "create-schema":
      runs(tree.elements, conditional);
      break;
    case "dynamic":
      // PREPARE … AS has its statement as it stands.
      runs(tree.body ?? [], conditional, { text: quoted || tree.text !== null });
      break;
    default:
  }
  stack.push(...below.reverse());
}

/** A statement depends on at most so many conditions; what lies deeper is not told apart. */
const MOST = 16;

function more(on: readonly RunsIf[], one: RunsIf): readonly RunsIf[] {
  return on.length >= MOST ? on : [...on, one];
}

/** The condition on which the statements after an IF run where that one leaves: `IF EXISTS (…) RETURN`; null for others. */
export function leavesUnless(tree: Statement): RunsIf | null {
  if (tree.kind !== "if" || tree.branches.length !== 1) return null;
  const [{ condition, body }] = tree.branches;
  return condition && leaves(body) ? { condition, otherwise: true } : null;
}

/** Whether what runs these statements ends with them: RETURN, THROW, GOTO. */
export function leaves(body: readonly Statement[]): boolean {
  const last = body[body.length - 1];
  switch (last?.kind) {
    case "block":
      return leaves(last.body);
    case "opaque":
      return /^(?:return|throw|leave|exit|goto)$/.test(last.verb);
    case "call-statement":
      return last.name !== null && /^raise_application_error$/i.test(last.name.parts[last.name.parts.length - 1].text);
    case "setting":
      return last.name === "noexec" && /^on$/i.test(last.value);
    default:
      return false;
  }
}
