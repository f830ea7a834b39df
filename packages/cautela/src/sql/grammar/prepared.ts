import { K } from "../lexer/keywords.ts";
import type { Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { dynamicStatement } from "./dynamic.ts";
import { expression } from "./expression.ts";
import { skipStatement } from "./statement-end.ts";

/** EXECUTE IMMEDIATE '…', EXECUTE '…' INTO x USING y, EXECUTE prepared. */
export function execute(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const immediate = p.accept(K.IMMEDIATE);
  if (!immediate && p.dialect.syntax.declareStatements) {
    // EXECUTE name: what was prepared under that name.
    return executePrepared(p, start);
  }
  const text = expression(p);
  if (!p.atEnd()) skipStatement(p);
  return dynamicStatement(p, text, start);
}

/** PREPARE name FROM '…' (mysql). */
export function prepare(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const name = p.label("a name").text.toLowerCase();
  p.prepared.delete(name);
  if (!p.accept(K.FROM)) {
    skipStatement(p);
    return { kind: "dynamic", text: null, body: null, pattern: [], start, end: p.previousEnd };
  }
  const text = expression(p);
  const node = dynamicStatement(p, text, start);
  // What its text is known to do is told where it is prepared.
  if (node.body || node.pattern.length > 0) p.prepared.add(name);
  return node;
}

/** EXECUTE of a prepared statement: nothing new where its text was read when it was prepared. */
export function executePrepared(p: Parser, start: number): Statement {
  const known = p.prepared.has(p.tokenText().toLowerCase());
  skipStatement(p);
  if (known)
    return { kind: "opaque", verb: "execute", object: "", class: "session", name: null, start, end: p.previousEnd };
  return { kind: "dynamic", text: null, body: null, pattern: [], start, end: p.previousEnd };
}
