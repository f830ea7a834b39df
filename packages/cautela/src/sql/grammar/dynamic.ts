import type { Dialect } from "../dialects/dialect.ts";
import { Lexer } from "../lexer/lexer.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, Expr, Node, Problem, Statement } from "../nodes/tree.ts";
import { children } from "../nodes/visitor.ts";
import { Parser, ReadingStopped } from "../reading/parser.ts";
import { constantTexts } from "./known-text.ts";

/** How a text inside a script is read: as a list of statements, or as one body. */
export type Reading = (p: Parser) => Statement[];

/** The reading of a script's statements; set by the statement grammar. */
export const reading: { script: Reading | null } = { script: null };

/** What a text inside a script holds. */
export interface InnerText {
  statements: Statement[] | null;
  problem: Problem | null;
}

/**
 * Reads a text that stands inside a script: the body of a routine in quotes, constant dynamic SQL.
 *
 * @param offset where the text begins in the script, when its characters stand there one to one;
 *   otherwise the ranges of what is read become that of `whole`
 */
export function readInner(
  dialect: Dialect,
  text: string,
  offset: number | null,
  whole: { start: number; end: number },
  read: Reading,
): InnerText {
  const lexer = new Lexer(dialect);
  lexer.scan(text, 0, text.length, true);
  const p = new Parser(dialect, lexer.tokens);
  p.reset(text, offset ?? 0);
  try {
    const statements = read(p);
    if (!p.at(T.EOF)) p.fail("the end of the text");
    if (offset === null) for (const statement of statements) relocate(statement, whole);
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

/** What dynamic SQL runs; null where its text is not constant, or cannot be read. One text of several is a branch. */
export function dynamicBody(p: Parser, text: Expr): Statement[] | null {
  const texts = constantTexts(p, text);
  if (!texts) return null;
  const bodies = texts.map((one) => readText(p.dialect, one, text));
  if (bodies.length === 1) return bodies[0];
  const branches: { condition: null; body: Statement[] }[] = [];
  for (const body of bodies) {
    if (!body) return null;
    branches.push({ condition: null, body });
  }
  return [{ kind: "if", branches, start: text.start, end: text.end }];
}

/** Constant dynamic SQL as statements; null where it cannot be read. */
export function readText(dialect: Dialect, text: string, whole: { start: number; end: number }): Statement[] | null {
  if (reading.script === null) return null;
  return readInner(dialect, text, null, whole, reading.script).statements;
}

/** Gives every node below a statement the range of the string it was read from. */
function relocate(root: Statement, whole: { start: number; end: number }): void {
  const stack: Building<Node>[] = [root];
  for (let node = stack.pop(); node; node = stack.pop()) {
    node.start = whole.start;
    node.end = whole.end;
    children(node, (child) => stack.push(child));
  }
}
