import type { ChangeSource } from "../review/result.ts";
import { walk } from "../sql/nodes/visitor.ts";

// Small questions about the text of a change.

/** Whether a placeholder or a variable of the client stands in a statement. */
export function holes({ tree }: ChangeSource): boolean {
  let found = false;
  walk(tree, (node) => {
    if (node.kind === "placeholder") found = true;
    return !found;
  });
  return found;
}

/** The change without its RETURNING clause: inside a block nobody takes the rows. */
export function withoutReturning({ tree, text, start }: ChangeSource, change: string): string {
  if (change !== text || !("returning" in tree) || !tree.returning || tree.returning.into) return change;
  const from = tree.returning.start - start;
  const to = tree.returning.end - start;
  return `${text.slice(0, from).trimEnd()}${text.slice(to)}`;
}
