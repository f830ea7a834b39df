import type { Expr } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";

// Scripts put a statement into a variable and run the variable. Where its text is constant it is
// followed, so that what runs is read: SET @q = 'DELETE FROM berth'; PREPARE s FROM @q.

/** The text of an expression of string constants; null when any part is not constant. */
export function constantText(p: Parser, expr: Expr): string | null {
  switch (expr.kind) {
    case "literal":
      return expr.type === "string" ? expr.value : null;
    case "binary": {
      if (expr.op !== "||" && expr.op !== "+") return null;
      const left = constantText(p, expr.left);
      const right = left === null ? null : constantText(p, expr.right);
      return left !== null && right !== null ? left + right : null;
    }
    case "variable":
    case "column": {
      const name = variableName(expr);
      return name === null ? null : (p.texts.get(name) ?? null);
    }
    case "call": {
      // CONCAT of constants; every other function is not followed.
      const { parts } = expr.name;
      if (parts.length !== 1 || !/^concat$/i.test(parts[0].text)) return null;
      let text = "";
      for (const arg of expr.args) {
        const part = constantText(p, arg);
        if (part === null) return null;
        text += part;
      }
      return text;
    }
    default:
      return null;
  }
}

/** Remembers what a variable holds from here on; forgets it where that cannot be told. */
export function noteText(p: Parser, target: Expr | string, value: Expr | null, op = "="): void {
  const name = typeof target === "string" ? target.toLowerCase() : variableName(target);
  if (name === null) return;
  const added = value === null ? null : constantText(p, value);
  const before = op === "=" ? "" : p.texts.get(name);
  if (added === null || before === null || before === undefined) p.texts.delete(name);
  else p.texts.set(name, before + added);
}

/** Reads what may run or not: variables that it assigns have no certain text after it. */
export function conditionally<R>(p: Parser, read: () => R): R {
  const before = new Map(p.texts);
  const result = read();
  for (const [name, text] of p.texts) if (before.get(name) !== text) p.texts.delete(name);
  return result;
}

function variableName(expr: Expr): string | null {
  if (expr.kind === "variable") return expr.name.toLowerCase();
  if (expr.kind === "column" && expr.path.length === 1) return expr.path[0].text.toLowerCase();
  return null;
}

/** Reads a body that runs at another time: it knows nothing of the variables here, nor they of it. */
export function apart<R>(p: Parser, read: () => R): R {
  const before = [...p.texts];
  p.texts.clear();
  try {
    return read();
  } finally {
    p.texts.clear();
    for (const [name, text] of before) p.texts.set(name, text);
  }
}
