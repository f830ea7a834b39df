import type { Dialect } from "../dialects/dialect.ts";
import { Lexer } from "../lexer/lexer.ts";
import { T } from "../lexer/tokens.ts";
import type { DynamicStatement, Expr, Problem, Statement } from "../nodes/tree.ts";
import { Parser, ReadingStopped } from "../reading/parser.ts";
import { GAP, knownTexts } from "./known-text.ts";

/** How a text inside a script is read: as a list of statements, or as one body. */
export type Reading = (p: Parser) => Statement[];

/** The reading of a script's statements; set by the statement grammar. */
export const reading: { script: Reading | null } = { script: null };

/** What a text inside a script holds. */
export interface InnerReading {
  statements: Statement[] | null;
  problem: Problem | null;
}

/**
 * Reads a text that stands inside a script: the body of a routine in quotes, constant dynamic SQL.
 *
 * @param offset where the text begins in the script, when its characters stand there one to one; otherwise what is read has
 *   places of its own, see `InnerText`
 */
export function readInner(
  outer: Parser,
  text: string,
  offset: number | null,
  whole: { start: number; end: number },
  read: Reading,
): InnerReading {
  const lexer = new Lexer(outer.dialect);
  lexer.scan(text, 0, text.length, true);
  const p = new Parser(outer.dialect, lexer.tokens, outer.inner);
  p.reset(text, offset ?? outer.inner.add(text, whole));
  try {
    const statements = read(p);
    if (!p.at(T.EOF)) p.fail("the end of the text");
    return { statements, problem: null };
  } catch (stopped) {
    if (!(stopped instanceof ReadingStopped)) throw stopped;
    const { problem } = stopped;
    return {
      statements: null,
      problem: offset === null ? { ...problem, start: whole.start, end: whole.end } : problem,
    };
  }
}

/** Dynamic SQL, with the statements of its text as far as that is known. */
export function dynamicStatement(p: Parser, text: Expr, start: number): DynamicStatement {
  const texts = knownTexts(p, text);
  const gaps = texts.some((one) => one.includes(GAP));
  const body = gaps ? null : bodyOf(p, text, texts);
  return { kind: "dynamic", text, body, pattern: gaps ? patternOf(p, text, texts) : [], start, end: p.previousEnd };
}

/** The statements of texts with gaps, as far as they can be read so. */
function patternOf(p: Parser, text: Expr, texts: readonly string[]): readonly Statement[] {
  const { script } = reading;
  if (!script) return [];
  return texts.flatMap((one) =>
    one.replaceAll(GAP, "").trim() === "" ? [] : (readInner(p, one, null, text, script).statements ?? []),
  );
}

/** What constant texts run; null where they cannot be read. One of several is a branch. */
function bodyOf(p: Parser, text: Expr, texts: readonly string[]): Statement[] | null {
  const { script } = reading;
  if (!script) return null;
  const bodies = texts.map((one) => readInner(p, one, offsetIn(p, text, one), text, script).statements);
  if (bodies.length === 1) return bodies[0];
  const branches: { condition: null; body: Statement[] }[] = [];
  for (const body of bodies) {
    if (!body) return null;
    branches.push({ condition: null, body });
  }
  return [{ kind: "if", branches, start: text.start, end: text.end }];
}

/** Where the text of a literal begins, if it stands there sign by sign: after the quote, and after what marks its kind (N'…'). */
function offsetIn(p: Parser, { kind, start, end }: Expr, value: string): number | null {
  if (kind !== "literal" || start < p.base) return null;
  const before = end - start - value.length - 1;
  const plain = before === 1 || (before === 2 && /[a-z]/i.test(p.slice(start, start + 1)));
  return plain ? start + before : null;
}

/** A text by itself as statements; null where it cannot be read. Their places are those in the text. */
export function readText(dialect: Dialect, text: string): Statement[] | null {
  const { script } = reading;
  if (script === null) return null;
  const p = new Parser(dialect, new Lexer(dialect).tokens);
  return readInner(p, text, 0, { start: 0, end: text.length }, script).statements;
}
