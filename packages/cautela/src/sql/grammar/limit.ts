import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, Expr, Limit } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { expression, operand } from "./expression.ts";

// How many rows a query gives, or a change takes.

/** TOP 5, TOP (5) PERCENT WITH TIES; the current token is TOP. */
export function top(p: Parser): Limit {
  const start = p.start;
  p.advance();
  let count: Expr;
  if (p.at(T.LPAREN)) {
    p.advance();
    count = expression(p);
    p.expectKind(T.RPAREN, ")");
  } else if (p.at(T.NUMBER) || p.at(T.VARIABLE) || p.at(T.HOLE)) {
    const from = p.start;
    const kind = p.kind;
    const text = p.tokenText();
    p.advance();
    const end = p.previousEnd;
    if (kind === T.NUMBER) count = { kind: "literal", type: "number", value: text, start: from, end };
    else if (kind === T.VARIABLE) count = { kind: "variable", name: text, start: from, end };
    else count = { kind: "placeholder", text, start: from, end };
  } else p.fail("a number of rows");
  const percent = p.accept(K.PERCENT);
  const withTies = p.is(K.WITH) && p.nextIs(K.TIES);
  if (withTies) p.seek(p.pos + 2);
  return { count, offset: null, percent, withTies, start, end: p.previousEnd };
}

/** ROWS EXAMINED n: how much work the query may do, and no limit on its rows (mariadb). */
function rowsExamined(p: Parser): void {
  p.advance();
  if (!p.acceptText("EXAMINED")) p.fail("EXAMINED");
  operand(p);
}

/** LIMIT, OFFSET and FETCH in any order; the current token is one of them. */
export function limit(p: Parser, before: Limit | null): Limit {
  const node: Building<Limit> = before ?? {
    count: null,
    offset: null,
    percent: false,
    withTies: false,
    start: p.start,
    end: p.start,
  };
  if (p.accept(K.LIMIT)) {
    if (p.is(K.ROWS) && p.dialect.syntax.rowsExamined) {
      rowsExamined(p);
    } else if (p.accept(K.ALL)) node.count = null;
    else if (p.accept(K.NULL)) node.count = null;
    else {
      node.count = operand(p);
      if (p.acceptKind(T.COMMA)) {
        node.offset = node.count;
        node.count = operand(p);
      }
      if (p.is(K.ROWS) && p.dialect.syntax.rowsExamined) rowsExamined(p);
    }
  } else if (p.accept(K.OFFSET)) {
    node.offset = operand(p);
    if (p.is(K.ROWS) && p.dialect.syntax.rowsExamined && /^examined$/i.test(p.wordAhead(1))) rowsExamined(p);
    else if (!p.accept(K.ROWS)) p.accept(K.ROW);
  } else {
    p.expect(K.FETCH);
    if (!p.accept(K.FIRST)) p.expect(K.NEXT);
    if (p.is(K.ROW) || p.is(K.ROWS))
      node.count = { kind: "literal", type: "number", value: "1", start: p.start, end: p.start };
    else node.count = operand(p);
    node.percent = p.accept(K.PERCENT);
    if (!p.accept(K.ROWS)) p.accept(K.ROW);
    if (p.accept2(K.WITH, K.TIES)) node.withTies = true;
    else p.accept(K.ONLY);
  }
  node.end = p.previousEnd;
  return node;
}
