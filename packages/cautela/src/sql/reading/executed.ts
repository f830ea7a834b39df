import type { Statement } from "../nodes/tree.ts";

/**
 * The statements that run when a statement runs: those inside blocks, branches, loops and constant
 * dynamic SQL, in the order of the source. What a definition holds does not run.
 */
export function* executed(statement: Statement): IterableIterator<Statement> {
  const stack: Statement[] = [];
  push(statement, stack);
  for (let inner = stack.pop(); inner; inner = stack.pop()) {
    yield inner;
    push(inner, stack);
  }
}

function push(statement: Statement, stack: Statement[]): void {
  const below: Statement[] = [];
  switch (statement.kind) {
    case "block":
      below.push(...statement.body, ...statement.handlers.flatMap((handler) => handler.body));
      break;
    case "if":
      below.push(...statement.branches.flatMap((branch) => branch.body));
      break;
    case "loop":
      below.push(...statement.body);
      break;
    case "dynamic":
      below.push(...(statement.body ?? []));
      break;
    default:
  }
  stack.push(...below.reverse());
}
