import type { Binary, Expr, Node, Statement } from "../nodes/tree.ts";
import { walk } from "../nodes/visitor.ts";
import type { Parser } from "../reading/parser.ts";

// Scripts put a statement into a variable and run the variable. Where its text is constant it is
// followed, so that what runs is read: SET @q = 'DELETE FROM berth'; PREPARE s FROM @q. Where only a
// part of it is constant, that part is followed: 'DELETE FROM ' || r.name deletes all rows of some table.

/**
 * Stands in a text for what is not known before it runs. It is a letter to every dialect (U+E000, for private use), so that a
 * text with gaps is read like any other.
 */
export const GAP = "\uE000";

/** A text as messages show it, with … for what is not known. */
export function gapsShown(text: string): string {
  return text.replaceAll(GAP, "…");
}

/** An expression may give this many texts, of this many characters. */
const MOST = 8;
const LONGEST = 100_000;

const UNKNOWN: readonly string[] = [GAP];

/**
 * The texts that an expression may give, with a `GAP` for each part that is not constant. It is more than one where
 * a condition chooses: `IF(n = 0, 'ALTER TABLE …', 'SELECT 1')`.
 */
export function knownTexts(p: Parser, expr: Expr): readonly string[] {
  switch (expr.kind) {
    case "literal":
      return expr.type === "string" ? [expr.value] : UNKNOWN;
    case "binary":
      return expr.op === "||" || expr.op === "+" ? joined(p, operands(expr)) : UNKNOWN;
    case "variable":
    case "column": {
      const name = variableName(expr);
      return name === null ? UNKNOWN : (p.texts.get(name) ?? UNKNOWN);
    }
    case "case": {
      const results = expr.whens.map(({ result }) => result);
      return expr.otherwise ? either(p, [...results, expr.otherwise]) : UNKNOWN;
    }
    case "subquery": {
      // SELECT IF(COUNT(*) = 0, '…', '…') FROM information_schema.columns WHERE …
      const { body } = expr.query;
      return body.kind === "select" && body.items.length === 1 ? knownTexts(p, body.items[0].expr) : UNKNOWN;
    }
    case "call": {
      const { parts } = expr.name;
      return parts.length === 1 ? ofCall(p, parts[0].text.toLowerCase(), expr.args) : UNKNOWN;
    }
    default:
      return UNKNOWN;
  }
}

/** The operands of a chain of one operator, in their order; it is as deep as it is long. */
function operands(expr: Binary): Expr[] {
  const list: Expr[] = [];
  let left: Expr = expr;
  while (left.kind === "binary" && left.op === expr.op) {
    list.push(left.right);
    left = left.left;
  }
  list.push(left);
  return list.reverse();
}

function ofCall(p: Parser, name: string, args: readonly Expr[]): readonly string[] {
  const [first] = args;
  switch (name) {
    case "concat":
      return joined(p, args);
    case "quote_ident":
    case "quotename":
    case "quote_literal":
      return args.length === 1 ? knownTexts(p, first).map(QUOTES[name]) : UNKNOWN;
    case "format":
      return formatted(p, args);
    case "if":
    case "iif":
      return args.length === 3 ? either(p, args.slice(1)) : UNKNOWN;
    case "chr":
    case "char":
      // Line ends between the pieces.
      return first?.kind === "literal" && /^(?:9|10|13|32)$/.test(first.value) ? [" "] : UNKNOWN;
    case "replace":
      return args.length === 3 ? replaced(p, args) : UNKNOWN;
    default:
      return UNKNOWN;
  }
}

const QUOTES: Record<"quote_ident" | "quotename" | "quote_literal", (text: string) => string> = {
  quote_ident: (text) => (/^[a-z_\uE000][a-z0-9_\uE000]*$/.test(text) ? text : `"${text.replaceAll('"', '""')}"`),
  quotename: (text) => (text === GAP ? GAP : `[${text.replaceAll("]", "]]")}]`),
  quote_literal: (text) => `'${text.replaceAll("'", "''")}'`,
};

/** Each of the texts followed by each of the others; a gap where that is too much. */
function following(texts: readonly string[], added: readonly string[]): readonly string[] {
  if (texts.length * added.length > MOST || texts[0].length + added[0].length > LONGEST) return UNKNOWN;
  return texts.flatMap((text) => added.map((more) => text + more));
}

/** format('… %I … %L', …) (PostgreSQL 15 manual, 9.4.1). */
function formatted(p: Parser, args: readonly Expr[]): readonly string[] {
  const [pattern, ...values] = args;
  const patterns = pattern ? knownTexts(p, pattern) : UNKNOWN;
  if (patterns.length !== 1) return UNKNOWN;
  const pieces = patterns[0].split(/%(.)/s);
  let texts: readonly string[] = [pieces[0]];
  for (let i = 1; i < pieces.length; i += 2) {
    let added: readonly string[] = ["%"];
    if (pieces[i] !== "%") {
      // %1$I and %-10s take their values in other ways.
      const change = { s: (text: string) => text, I: QUOTES.quote_ident, L: QUOTES.quote_literal }[pieces[i]];
      const value = values.shift();
      if (!change || !value) return UNKNOWN;
      added = knownTexts(p, value).map(change);
    }
    texts = following(following(texts, added), [pieces[i + 1]]);
  }
  return texts;
}

function joined(p: Parser, parts: readonly Expr[]): readonly string[] {
  let texts: readonly string[] = [""];
  for (const part of parts) texts = following(texts, knownTexts(p, part));
  return texts;
}

function either(p: Parser, choices: readonly Expr[]): readonly string[] {
  const texts = new Set(choices.flatMap((choice) => knownTexts(p, choice)));
  return texts.size > MOST ? UNKNOWN : [...texts];
}

/** REPLACE('… {table} …', '{table}', name) in one text. */
function replaced(p: Parser, args: readonly Expr[]): readonly string[] {
  const [text, from, to] = args.map((one) => knownTexts(p, one));
  if (text.length > 1 || from.length > 1 || from[0] === "" || from[0].includes(GAP)) return UNKNOWN;
  const changed = to.map((one) => text[0].replaceAll(from[0], () => one));
  return changed.some((one) => one.length > LONGEST) ? UNKNOWN : changed;
}

/** Remembers what a variable may hold from here on. */
export function noteText(p: Parser, target: Expr | string, value: Expr | null, op = "="): void {
  const name = typeof target === "string" ? target.toLowerCase() : variableName(target);
  if (name === null) return;
  const added = value === null ? UNKNOWN : knownTexts(p, value);
  hold(p, name, op === "=" || op === ":=" ? added : following(p.texts.get(name) ?? UNKNOWN, added));
}

function hold(p: Parser, name: string, known: readonly string[]): void {
  p.texts.set(name, known);
  if (p.given) p.given.set(name, [...(p.given.get(name) ?? []), ...known]);
}

/** A variable that is declared without a value: as a text it runs nothing. */
export function noteDeclared(p: Parser, name: string, value: Expr | null): void {
  if (value) noteText(p, name, value);
  else p.texts.set(name.toLowerCase(), [""]);
}

/**
 * Takes note of the variables that a statement writes which is no assignment: SELECT @q = …, SELECT … INTO v, FETCH … INTO v,
 * UPDATE … SET @v = …, RETURNING … INTO v.
 */
export function noteWritten(p: Parser, tree: Statement): void {
  if (p.texts.size === 0 && tree.kind !== "select") return;
  switch (tree.kind) {
    case "select": {
      const { body } = tree.query;
      const into = tree.query.into ?? (body.kind === "select" ? body.into : null);
      if (body.kind === "select")
        for (const { expr } of body.items)
          if (expr.kind === "binary" && expr.left.kind === "variable" && assigns(p, expr.op))
            selected(p, expr.left, expr.right, expr.op, body.from.length > 0);
      if (into?.what !== "variables") return;
      into.targets.forEach((target, i) => {
        const item = body.kind === "select" ? body.items[i]?.expr : undefined;
        noteText(p, target, item && item.kind !== "star" ? item : null);
      });
      return;
    }
    case "update":
      for (const { targets } of tree.assignments)
        for (const target of targets) if (target.kind === "variable") noteText(p, target, null);
      if (tree.returning?.into) forget(p, tree.returning.into);
      return;
    case "insert":
    case "delete":
      if (tree.returning?.into) forget(p, tree.returning.into);
      return;
    case "opaque": {
      if (tree.verb !== "fetch") return;
      const text = p.slice(tree.start, Math.min(tree.end, tree.start + 4000)).replace(/\/\*[^*]*\*\/|--[^\n]*/g, " ");
      const [, names] = /\binto\b([^;]*)/i.exec(text) ?? [];
      for (const name of names?.split(",") ?? []) noteText(p, name.trim(), null);
      return;
    }
    case "call-statement":
      // It may be an argument that the routine writes; Transact-SQL marks those.
      for (const one of tree.args)
        if (!p.dialect.syntax.controlFlow || OUT.test(p.slice(one.end, one.end + 200))) forget(p, one);
      return;
    default:
  }
}

/** OUT or OUTPUT after an argument, perhaps after a comment. */
const OUT = /^(?:\s|\/\*[^*]*\*\/)*out/i;

/** `=` compares in MySQL. */
function assigns(p: Parser, op: string): boolean {
  return op === ":=" || (p.dialect.syntax.controlFlow && (op === "=" || op === "+="));
}

/** SELECT @q = …: once for each row, and not at all where there is none. */
function selected(p: Parser, target: Expr, value: Expr, op: string, fromRows: boolean): void {
  const name = variableName(target);
  if (name === null) return;
  if (!fromRows) noteText(p, target, value, op);
  else if (op === "+=" || mentions(value, name)) gathered(p, name, value);
  else hold(p, name, [...new Set([...(p.texts.get(name) ?? UNKNOWN), ...knownTexts(p, value)])].slice(0, MOST));
}

/** A text that gets a piece for each row: what is known of it is one piece, and that there may be more. */
function gathered(p: Parser, name: string, value: Expr): void {
  const before = p.texts.get(name) ?? UNKNOWN;
  const once = knownTexts(p, value);
  hold(p, name, once.length === 1 && before.length === 1 && before[0] === "" ? [`${once[0]} /* ${GAP} */`] : UNKNOWN);
}

function mentions(value: Node, name: string): boolean {
  let found = false;
  const look = (node: Node): void => {
    if ((node.kind === "variable" || node.kind === "column") && variableName(node) === name) found = true;
  };
  look(value);
  walk(value, (node) => void look(node));
  return found;
}

function forget(p: Parser, target: Expr): void {
  for (const one of target.kind === "row" ? target.items : [target]) {
    const name = variableName(one);
    if (name !== null && p.texts.has(name)) hold(p, name, UNKNOWN);
  }
}

/** Reads branches of which one runs, or none: after them a variable holds what any of them gives it, or what it held before. */
export function inBranches<R>(p: Parser, read: () => R): R {
  const outer = p.given;
  const before = new Map(p.texts);
  const given = new Map<string, readonly string[]>();
  p.given = given;
  let result: R;
  try {
    result = read();
  } finally {
    p.given = outer;
  }
  for (const [name, texts] of given) {
    const all = [...new Set([...(before.get(name) ?? UNKNOWN), ...texts])];
    const kept = all.length <= MOST ? all : UNKNOWN;
    p.texts.set(name, kept);
    outer?.set(name, [...(outer.get(name) ?? []), ...kept]);
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
