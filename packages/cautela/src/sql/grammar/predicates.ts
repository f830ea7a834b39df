import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, Expr } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { COMPARISON, climb, expressions, OTHER, quantified } from "./expression.ts";
import { isQueryTail } from "./primary.ts";
import { atQuery, query, queryRest } from "./query.ts";

// What stands after a value and makes a condition of it: IN, BETWEEN, LIKE, IS.

export function isRangeWord(word: K): boolean {
  switch (word) {
    case K.IN:
    case K.BETWEEN:
    case K.LIKE:
    case K.ALIKE:
    case K.ILIKE:
    case K.SIMILAR:
    case K.GLOB:
    case K.REGEXP:
    case K.RLIKE:
    case K.MATCH:
    case K.LIKEC:
    case K.LIKE2:
    case K.LIKE4:
    case K.MEMBER:
    case K.SUBMULTISET:
      return true;
    default:
      return false;
  }
}

export function range(p: Parser, left: Building<Expr>, negated: boolean): Expr {
  const word = p.kw;
  p.advance();
  const { start } = left;
  switch (word) {
    case K.IN: {
      if (!p.at(T.LPAREN)) {
        // sqlite: IN table; templates: IN ${list}
        const right = climb(p, OTHER);
        return { kind: "in", operand: left, negated, items: [right], query: null, start, end: right.end };
      }
      p.advance();
      if (p.at(T.RPAREN)) {
        p.advance();
        return { kind: "in", operand: left, negated, items: [], query: null, start, end: p.previousEnd };
      }
      if (atQuery(p)) {
        const inner = query(p);
        p.expectKind(T.RPAREN, ")");
        return { kind: "in", operand: left, negated, items: null, query: inner, start, end: p.previousEnd };
      }
      const items = expressions(p);
      const [only]: readonly Building<Expr>[] = items;
      if (items.length === 1 && only.kind === "subquery" && isQueryTail(p)) {
        only.query = queryRest(p, only.query, only.start);
      }
      p.expectKind(T.RPAREN, ") or ,");
      if (items.length === 1 && items[0].kind === "subquery") {
        return { kind: "in", operand: left, negated, items: null, query: items[0].query, start, end: p.previousEnd };
      }
      return { kind: "in", operand: left, negated, items, query: null, start, end: p.previousEnd };
    }
    case K.BETWEEN: {
      if (!p.accept(K.SYMMETRIC)) p.accept(K.ASYMMETRIC);
      const low = climb(p, OTHER);
      p.expect(K.AND);
      const high = climb(p, OTHER);
      return { kind: "between", operand: left, low, high, negated, start, end: high.end };
    }
    case K.MEMBER:
    case K.SUBMULTISET: {
      p.accept(K.OF);
      const right = climb(p, OTHER);
      return {
        kind: "like",
        op: "member of",
        operand: left,
        pattern: right,
        escape: null,
        negated,
        start,
        end: right.end,
      };
    }
    default: {
      let op = p.slice(p.base + p.tokens.starts[p.pos - 1], p.previousEnd).toLowerCase();
      if (word === K.SIMILAR) {
        p.expect(K.TO);
        op = "similar to";
      }
      if (p.at(T.WORD) && (p.marked(K.ANY) || p.marked(K.ALL) || p.marked(K.SOME)) && p.peekKind(1) === T.LPAREN) {
        return quantified(p, left, negated ? `not ${op}` : op);
      }
      if (p.is(K.BINARY)) p.advance();
      const pattern = climb(p, OTHER);
      let escaper: Expr | null = null;
      if (p.is(K.ESCAPE)) {
        p.advance();
        escaper = climb(p, OTHER);
      }
      return { kind: "like", op, operand: left, pattern, escape: escaper, negated, start, end: p.previousEnd };
    }
  }
}

export function isTest(p: Parser, left: Building<Expr>): Expr {
  p.advance();
  const negated = p.accept(K.NOT);
  const { start } = left;
  const simple = (test: "null" | "true" | "false" | "unknown" | "other"): Expr => {
    p.advance();
    return { kind: "is", operand: left, test, negated, right: null, start, end: p.previousEnd };
  };
  if (p.at(T.WORD)) {
    switch (p.kw) {
      case K.NULL:
        // IS NULL; nothing more can follow.
        return simple("null");
      case K.TRUE:
        return simple("true");
      case K.FALSE:
        return simple("false");
      case K.UNKNOWN:
        return simple("unknown");
      case K.DISTINCT: {
        p.advance();
        p.expect(K.FROM);
        const right = climb(p, OTHER);
        return { kind: "is", operand: left, test: "distinct", negated, right, start, end: right.end };
      }
      case K.JSON: {
        p.advance();
        if (p.at(T.WORD) && (p.marked(K.VALUE) || p.marked(K.OBJECT) || p.marked(K.ARRAY) || p.isText("SCALAR")))
          p.advance();
        if (p.accept(K.WITH) || p.accept(K.WITHOUT)) {
          p.accept(K.UNIQUE);
          p.accept(K.KEYS);
        }
        return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
      }
      case K.OF: {
        p.advance();
        p.accept(K.TYPE);
        p.skipParens();
        return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
      }
      default:
    }
    if (p.isText("NFC") || p.isText("NFD") || p.isText("NFKC") || p.isText("NFKD")) p.advance();
    if (p.acceptText("NORMALIZED") || p.acceptText("NAN") || p.acceptText("INFINITE") || p.acceptText("DOCUMENT")) {
      return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
    }
    if (p.accept(K.EMPTY))
      return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
    if (p.dialect.syntax.multisets && p.isText("A") && p.peekKind(1) === T.WORD) {
      p.seek(p.pos + 2);
      return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
    }
  }
  if (!p.dialect.syntax.notNullTest && !p.at(T.HOLE)) p.fail("NULL, TRUE, FALSE or DISTINCT FROM");
  // sqlite: IS compares any two values, NULLs included.
  const right = climb(p, COMPARISON);
  return { kind: "is", operand: left, test: "distinct", negated: !negated, right, start, end: right.end };
}
