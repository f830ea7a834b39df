import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Building, Call, Expr, Name, OrderItem } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { climb, explicitOperator, expression, expressions, OTHER } from "./expression.ts";
import { grow } from "./growing.ts";
import { atQuery, query } from "./query.ts";
import { typeName } from "./type.ts";

/** A call whose arguments are still to be read. */
export function emptyCall(name: Name, start: number, end: number): Call {
  return {
    kind: "call",
    name,
    args: [],
    argNames: null,
    distinct: false,
    star: false,
    orderBy: null,
    filter: null,
    over: false,
    opaque: false,
    start,
    end,
  };
}

/** CAST and TRY_CAST, with AS and a type inside. */
export function castCall(p: Parser): Expr {
  const start = p.start;
  p.advance();
  p.advance();
  const inner = expression(p);
  if (p.at(T.COMMA) && p.dialect.syntax.convertComma) p.advance();
  else p.expect(K.AS);
  const type = typeName(p);
  if (p.is(K.ARRAY)) p.advance();
  if (!p.at(T.RPAREN)) skipToClosing(p);
  p.expectKind(T.RPAREN, ")");
  return { kind: "cast", operand: inner, type, start, end: p.previousEnd };
}

/** MATCH (a, b) AGAINST ('…' IN BOOLEAN MODE). */
export function matchAgainst(p: Parser): Expr {
  const start = p.start;
  p.advance();
  const args: Expr[] = [];
  if (p.acceptKind(T.LPAREN)) {
    args.push(...expressions(p));
    p.expectKind(T.RPAREN, ")");
  } else args.push(...expressions(p));
  if (!p.acceptText("AGAINST")) p.fail("AGAINST");
  p.expectKind(T.LPAREN, "(");
  args.push(climb(p, OTHER));
  if (!p.at(T.RPAREN)) skipToClosing(p);
  p.expectKind(T.RPAREN, ")");
  const name: Building<Name> = {
    kind: "name",
    parts: [{ text: "match", quoted: false, hole: false, start, end: start + 5 }],
    link: null,
    start,
    end: start + 5,
  };
  const match: Building<Call> = emptyCall(name, start, p.previousEnd);
  match.args = args;
  return match;
}

/** Skips what stands before the parenthesis that closes the current level. */
function skipToClosing(p: Parser): void {
  while (!p.at(T.RPAREN)) {
    if (p.at(T.LPAREN)) p.skipParens();
    else if (p.atEnd() || p.at(T.BAD)) p.fail(")");
    else p.advance();
  }
}

export function isOuterMark(p: Parser): boolean {
  return (
    p.dialect.syntax.outerMarks &&
    p.peekKind(1) === T.OPERATOR &&
    p.peekMark(1) === Op.PLUS &&
    p.peekKind(2) === T.RPAREN
  );
}

/** A call whose name stands here. */
export function call(p: Parser): Expr {
  const word = p.anyIdent();
  return callRest(p, { kind: "name", parts: [word], link: null, start: word.start, end: word.end });
}

/** The arguments and what follows them; the current token is the opening parenthesis. */
export function callRest(p: Parser, name: Name): Call {
  const node: Building<Call> = emptyCall(name, name.start, name.end);
  p.advance();
  if (p.at(T.STAR)) {
    const after = p.peekKind(1);
    if (after === T.RPAREN || after === T.COMMA) {
      node.star = true;
      p.advance();
      p.acceptKind(T.COMMA);
    }
  }
  if (p.accept(K.DISTINCT)) node.distinct = true;
  else if (p.is(K.ALL) && p.peekKind(1) !== T.LPAREN) p.advance();
  else if (p.accept(K.UNIQUE) || p.accept(K.DISTINCTROW)) node.distinct = true;
  if (!p.at(T.RPAREN)) {
    arguments_(p, node);
    node.args = compact(node.args);
  }
  p.expectKind(T.RPAREN, ") or ,");
  node.end = p.previousEnd;
  if (p.at(T.LPAREN)) {
    if (isOuterMark(p)) p.seek(p.pos + 3);
    else if (p.dialect.syntax.callsOfCalls) {
      // A collection's element: berths(3)(1).
      p.skipParens();
    }
  }
  if (p.at(T.WORD)) callTail(p, node);
  return node;
}

function arguments_(p: Parser, node: Building<Call>): void {
  for (;;) {
    // VARIADIC array, and the leading words of TRIM, EXTRACT and the XML and JSON functions.
    while (p.at(T.WORD) && isLeadingArgumentWord(p)) p.advance();
    if (p.at(T.RPAREN)) return;
    if ((p.is(K.UNSIGNED) || p.is(K.SIGNED)) && p.dialect.syntax.convertComma) {
      // CONVERT(value, UNSIGNED)
      typeName(p);
      if (p.at(T.RPAREN)) return;
    }
    if (
      (p.at(T.WORD) || p.at(T.QUOTED)) &&
      p.peekKind(1) === T.OPERATOR &&
      (p.peekMark(1) === Op.FAT_ARROW || p.peekMark(1) === Op.ASSIGN)
    ) {
      node.argNames ??= [];
      while (node.argNames.length < node.args.length) node.argNames.push(null);
      node.argNames.push(p.anyIdent().text);
      p.advance();
      grow(node.args, expression(p));
    } else if (p.at(T.COMMA)) {
      // An argument left out: f(a, , b) (jet).
      p.advance();
      continue;
    } else if (atQuery(p)) {
      const start = p.start;
      const inner = query(p);
      grow(node.args, { kind: "subquery", query: inner, start, end: inner.end });
    } else grow(node.args, expression(p));
    // Words between the parts of one argument list: FROM, FOR, IN, AS type, USING, SEPARATOR…
    for (;;) {
      if (p.at(T.COMMA)) break;
      if (p.at(T.RPAREN)) return;
      if (p.at(T.WORD) && p.marked(K.ORDER)) {
        node.orderBy = orderBy(p);
        continue;
      }
      if (p.at(T.WORD) && p.marked(K.AS)) {
        // XMLSERIALIZE(… AS type), XMLELEMENT(… AS name)
        p.advance();
        typeName(p);
        continue;
      }
      if (p.at(T.WORD) && isArgumentWord(p)) {
        p.advance();
        if (!p.at(T.WORD) || !isArgumentWord(p)) {
          if (p.at(T.RPAREN)) return;
          if (!p.at(T.COMMA)) grow(node.args, expression(p));
        }
        continue;
      }
      if (p.at(T.COLON) || p.at(T.HOLE)) {
        // 'key': value
        if (p.at(T.COLON)) p.advance();
        grow(node.args, expression(p));
        continue;
      }
      if (p.at(T.WORD) || p.at(T.OPERATOR) || p.at(T.LPAREN)) {
        node.opaque = true;
        skipToClosing(p);
        return;
      }
      p.fail(") or ,");
    }
    p.advance();
    if (p.at(T.RPAREN) && p.dialect.syntax.omittedArgument) return;
  }
}

function isLeadingArgumentWord(p: Parser): boolean {
  const next = p.peekKind(1);
  const closes = next === T.RPAREN || next === T.COMMA || next === T.DOT || next === T.OPERATOR;
  switch (p.kw) {
    case K.VARIADIC:
      return true;
    case K.BOTH:
    case K.LEADING:
    case K.TRAILING:
      return !closes || next === T.OPERATOR;
    case K.NAME:
    case K.KEY:
      return next === T.WORD || next === T.QUOTED || next === T.STRING;
    case K.FROM:
    case K.FOR:
      return true;
    default:
      return false;
  }
}

function isArgumentWord(p: Parser): boolean {
  switch (p.kw) {
    case K.FROM:
    case K.FOR:
    case K.IN:
    case K.USING:
    case K.PLACING:
    case K.SEPARATOR:
    case K.VALUE:
    case K.PASSING:
    case K.SIMILAR:
    case K.ESCAPE:
      return true;
    default:
      return false;
  }
}

/** FILTER, WITHIN GROUP, OVER, IGNORE NULLS, KEEP. */
function callTail(p: Parser, node: Building<Call>): void {
  for (;;) {
    // NTH_VALUE(fee, 2) FROM FIRST RESPECT NULLS OVER (…)
    if (p.is(K.FROM) && (p.nextIs(K.FIRST) || p.nextIs(K.LAST)) && (p.nextIs(K.RESPECT, 2) || p.nextIs(K.IGNORE, 2)))
      p.seek(p.pos + 2);
    if (p.is(K.WITHIN) && p.nextIs(K.GROUP)) {
      p.seek(p.pos + 2);
      p.expectKind(T.LPAREN, "(");
      node.orderBy = orderBy(p);
      p.expectKind(T.RPAREN, ")");
    } else if (p.is(K.FILTER) && p.peekKind(1) === T.LPAREN) {
      p.seek(p.pos + 2);
      p.expect(K.WHERE);
      node.filter = expression(p);
      p.expectKind(T.RPAREN, ")");
    } else if ((p.is(K.IGNORE) || p.is(K.RESPECT)) && p.nextIs(K.NULLS)) p.seek(p.pos + 2);
    else if (p.is(K.FROM) && (p.nextIs(K.FIRST) || p.nextIs(K.LAST)) && p.nextIs(K.OVER, 2)) p.seek(p.pos + 2);
    else if (p.is(K.KEEP) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      p.skipParens();
    } else if (p.is(K.OVER) && (p.peekKind(1) === T.LPAREN || p.peekKind(1) === T.WORD || p.peekKind(1) === T.QUOTED)) {
      p.advance();
      node.over = true;
      if (p.at(T.LPAREN)) windowSpec(p, node);
      else p.anyIdent();
    } else break;
    node.end = p.previousEnd;
  }
}

/** The window in parentheses; its expressions are kept among the arguments' order. */
function windowSpec(p: Parser, node: Building<Call>): void {
  p.advance();
  if (p.at(T.WORD) && !p.is(K.PARTITION) && !p.is(K.ORDER) && !isFrameWord(p.kw)) p.anyIdent();
  else if (p.at(T.QUOTED)) p.anyIdent();
  if (p.accept(K.PARTITION)) {
    p.expect(K.BY);
    for (const one of expressions(p)) grow(node.args, one);
  }
  if (p.is(K.ORDER)) node.orderBy = orderBy(p);
  if (!p.at(T.RPAREN)) {
    if (!p.at(T.WORD) || !isFrameWord(p.kw)) p.fail(")");
    skipToClosing(p);
  }
  p.expectKind(T.RPAREN, ")");
}

function isFrameWord(word: K): boolean {
  return word === K.ROWS || word === K.RANGE || word === K.GROUPS;
}

/** ORDER BY and its items; the current token is ORDER. */
export function orderBy(p: Parser): OrderItem[] {
  p.advance();
  if (p.is(K.SIBLINGS)) p.advance();
  p.expect(K.BY);
  const items: OrderItem[] = [];
  do {
    const expr = expression(p);
    let descending = false;
    if (p.accept(K.DESC)) descending = true;
    else if (p.accept(K.ASC)) descending = false;
    else if (p.is(K.USING)) {
      p.advance();
      if (p.is(K.OPERATOR)) explicitOperator(p);
      else p.advance();
    }
    if (p.is(K.NULLS) && (p.nextIs(K.FIRST) || p.nextIs(K.LAST))) p.seek(p.pos + 2);
    items.push({ expr, descending, start: expr.start, end: p.previousEnd });
  } while (p.acceptKind(T.COMMA));
  return items;
}
