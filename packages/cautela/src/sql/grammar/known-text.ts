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
      if (/^(?:quote_ident|quotename|quote_literal)$/i.test(parts[0].text))
        return expr.args.length === 1 ? each(p, expr.args[0], QUOTES[parts[0].text.toLowerCase()]) : null;
      if (/^format$/i.test(parts[0].text)) return formatted(p, expr.args);
      return /^i?if$/i.test(parts[0].text) && expr.args.length === 3 ? either(p, expr.args.slice(1)) : null;
    }
    default:
      return null;
  }
}

const QUOTES: Record<string, (text: string) => string> = {
  quote_ident: (text) => (/^[a-z_][a-z0-9_]*$/.test(text) ? text : `"${text.replaceAll('"', '""')}"`),
  quotename: (text) => `[${text.replaceAll("]", "]]")}]`,
  quote_literal: (text) => `'${text.replaceAll("'", "''")}'`,
};

function each(p: Parser, expr: Expr, change: (text: string) => string): readonly string[] | null {
  return constantTexts(p, expr)?.map(change) ?? null;
}

/** format('… %I … %L', …) of constants (PostgreSQL 15 manual, 9.4.1). */
function formatted(p: Parser, args: readonly Expr[]): readonly string[] | null {
  const [pattern, ...values] = args;
  const patterns = pattern ? constantTexts(p, pattern) : null;
  if (patterns?.length !== 1) return null;
  const pieces = patterns[0].split(/%(.)/s);
  let texts: readonly string[] = [pieces[0]];
  for (let i = 1; i < pieces.length; i += 2) {
    let added: readonly string[] | null = ["%"];
    if (pieces[i] !== "%") {
      const change = { s: (text: string) => text, I: QUOTES.quote_ident, L: QUOTES.quote_literal }[pieces[i]];
      const value = values.shift();
      added = change && value ? each(p, value, change) : null;
    }
    if (added === null || texts.length * added.length > MOST) return null;
    const found = added;
    texts = texts.flatMap((text) => found.map((more) => text + more + pieces[i + 1]));
  }
  return texts;
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
  const known =
    added === null || !before || before.length * added.length > MOST
      ? null
      : before.flatMap((text) => added.map((more) => text + more));
  if (known === null) p.texts.delete(name);
  else p.texts.set(name, known);
  if (!p.given) return;
  const earlier = p.given.get(name);
  p.given.set(name, known === null || earlier === null ? null : [...(earlier ?? []), ...known]);
}

/** A variable that is declared without a value: as a text it runs nothing. */
export function noteDeclared(p: Parser, name: string, value: Expr | null): void {
  if (value) noteText(p, name, value);
  else p.texts.set(name.toLowerCase(), [""]);
}

/** Reads branches of which one runs, or none: after them a variable holds what any of them gives it, or what it held before. */
export function inBranches<R>(p: Parser, read: () => R): R {
  const outer = p.given;
  const before = new Map(p.texts);
  const given = new Map<string, readonly string[] | null>();
  p.given = given;
  let result: R;
  try {
    result = read();
  } finally {
    p.given = outer;
  }
  for (const [name, texts] of given) {
    const held = before.get(name);
    const all = texts && held ? [...new Set([...held, ...texts])] : null;
    if (all && all.length <= MOST) p.texts.set(name, all);
    else p.texts.delete(name);
    const earlier = outer?.get(name);
    outer?.set(name, all === null || earlier === null ? null : [...(earlier ?? []), ...all]);
  }
  return result;
}

/** Reads what may run any number of times: variables that it assigns have no certain text after it. */
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
  const { given } = p;
  p.texts.clear();
  p.given = null;
  try {
    return read();
  } finally {
    p.given = given;
    p.texts.clear();
    for (const [name, text] of before) p.texts.set(name, text);
  }
}
