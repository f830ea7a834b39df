import type { Expr } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";

// Scripts put a statement into a variable and run the variable. Where its text is constant it is
// followed, so that what runs is read: SET @q = 'DELETE FROM berth'; PREPARE s FROM @q.

/** An expression may give this many texts. */
const MOST = 8;

/**
 * The texts that an expression of string constants may give; null when any part is not constant. It is more than one where
 * a condition chooses: `IF(n = 0, 'ALTER TABLE …', 'SELECT 1')`.
 */
export function constantTexts(p: Parser, expr: Expr): readonly string[] | null {
  switch (expr.kind) {
    case "literal":
      return expr.type === "string" ? [expr.value] : null;
    case "binary":
      return expr.op === "||" || expr.op === "+" ? joined(p, [expr.left, expr.right]) : null;
    case "variable":
    case "column": {
      const name = variableName(expr);
      return name === null ? null : (p.texts.get(name) ?? null);
    }
    case "case": {
      const results = expr.whens.map(({ result }) => result);
      return expr.otherwise ? either(p, [...results, expr.otherwise]) : null;
    }
    case "subquery": {
      // SELECT IF(COUNT(*) = 0, '…', '…') FROM information_schema.columns WHERE …
      const { body } = expr.query;
      return body.kind === "select" && body.items.length === 1 ? constantTexts(p, body.items[0].expr) : null;
    }
    case "call": {
      const { parts } = expr.name;
      if (parts.length !== 1) return null;
      if (/^concat$/i.test(parts[0].text)) return joined(p, expr.args);
      return /^i?if$/i.test(parts[0].text) && expr.args.length === 3 ? either(p, expr.args.slice(1)) : null;
    }
    default:
      return null;
  }
}

function joined(p: Parser, parts: readonly Expr[]): readonly string[] | null {
  let texts: readonly string[] = [""];
  for (const part of parts) {
    const added = constantTexts(p, part);
    if (added === null || texts.length * added.length > MOST) return null;
    texts = texts.flatMap((text) => added.map((more) => text + more));
  }
  return texts;
}

function either(p: Parser, choices: readonly Expr[]): readonly string[] | null {
  const texts = new Set<string>();
  for (const choice of choices) {
    const known = constantTexts(p, choice);
    if (known === null) return null;
    for (const text of known) texts.add(text);
  }
  return texts.size > MOST ? null : [...texts];
}

/** Remembers what a variable may hold from here on; forgets it where that cannot be told. */
export function noteText(p: Parser, target: Expr | string, value: Expr | null, op = "="): void {
  const name = typeof target === "string" ? target.toLowerCase() : variableName(target);
  if (name === null) return;
  const added = value === null ? null : constantTexts(p, value);
  const before = op === "=" ? [""] : p.texts.get(name);
  if (added === null || !before || before.length * added.length > MOST) p.texts.delete(name);
  else
    p.texts.set(
      name,
      before.flatMap((text) => added.map((more) => text + more)),
    );
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
