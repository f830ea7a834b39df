import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Expr, Ident, Name, Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { expression } from "./expression.ts";
import { ifExists } from "./if-exists.ts";
import { alterObject } from "./objects.ts";
import { skipStatement, statementBegins } from "./statement-end.ts";
import { stringValue } from "./string.ts";

// The counters that number new rows, where they are set.

/** ALTER SEQUENCE name … RESTART; null where it is not set back. */
export function restartSequence(p: Parser, start: number): Statement | null {
  const from = p.pos;
  ifExists(p);
  const name = p.name("the name of a sequence");
  while (!p.atEnd() && !p.at(T.SEMICOLON) && !p.is(K.RESTART) && !statementBegins(p)) p.advance();
  if (!p.accept(K.RESTART)) {
    p.seek(from);
    return alterObject(p, "sequence", start);
  }
  const value = restartValue(p);
  skipStatement(p, { begun: true });
  return { kind: "set-counter", of: "sequence", name, value, start, end: p.previousEnd };
}

/** DBCC CHECKIDENT ('table', RESEED, value) (tsql); null for whatever else DBCC does. */
export function reseed(p: Parser, start: number): Statement | null {
  if (!p.acceptText("CHECKIDENT")) return null;
  p.expectKind(T.LPAREN, "(");
  const begin = p.start;
  const name: Name = p.at(T.STRING)
    ? { kind: "name", parts: quotedName(stringValue(p), begin), link: null, start: begin, end: begin }
    : p.name("the name of a table");
  if (p.at(T.STRING)) p.advance();
  if (!p.acceptKind(T.COMMA) || !p.acceptText("RESEED") || !p.acceptKind(T.COMMA)) return null;
  const value = expression(p);
  p.expectKind(T.RPAREN, ")");
  const from = p.pos;
  if (p.accept(K.WITH) && !p.acceptText("NO_INFOMSGS")) p.seek(from);
  return { kind: "set-counter", of: "table", name, value, start, end: p.previousEnd };
}

/** The parts of a name inside a string: `'dbo.loaf'`, `'[dbo].[loaf]'`. */
function quotedName(text: string, at: number): Ident[] {
  return text.split(".").map((part) => {
    const bare = part.trim().replace(/^[["]|[\]"]$/g, "");
    return { text: bare, quoted: bare !== part.trim(), hole: false, start: at, end: at };
  });
}

/** What follows RESTART: `WITH 1`, `1`, `START WITH 1` (plsql); null: nothing. */
export function restartValue(p: Parser): Expr | null {
  p.accept(K.START);
  p.accept(K.WITH);
  return p.at(T.NUMBER) || (p.at(T.OPERATOR) && p.peekKind(1) === T.NUMBER) || p.at(T.VARIABLE) ? expression(p) : null;
}
