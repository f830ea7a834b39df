import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Building, Call, Expr } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { call, callRest, castCall, emptyCall, matchAgainst } from "./call.ts";
import { binary, climb, expression, expressions, NOT, OR, UNARY } from "./expression.ts";
import { hole, intervalLiteral, literal, nameOrCall } from "./name-or-literal.ts";
import { atQuery, query, queryRest } from "./query.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

/** The smallest piece of an expression: what stands between two operators. */
export function primary(p: Parser): Expr {
  const start = p.start;
  switch (p.kind) {
    case T.STRING: {
      const date = p.kw === 1;
      return literal(p, date ? "date" : "string", date ? p.tokenText().slice(1, -1) : stringValue(p));
    }
    case T.NUMBER:
      return literal(p, "number", p.tokenText());
    case T.HOLE:
      if (p.peekKind(1) === T.DOT || p.peekKind(1) === T.LPAREN) {
        if (p.tokenText()[0] !== ":") return nameOrCall(p);
      }
      return hole(p);
    case T.VARIABLE: {
      const name = p.tokenText();
      p.advance();
      if (p.at(T.DOT) && !p.dialect.lexical.ampersandHoles) {
        p.advance();
        const field = p.label("a name after the dot");
        if (p.at(T.LPAREN) && p.dialect.syntax.columnMethods) {
          const call: Building<Call> = callRest(p, {
            kind: "name",
            parts: [field],
            link: null,
            start: field.start,
            end: field.end,
          });
          call.start = start;
          return call;
        }
        let path = `${name}.${field.text}`;
        while (p.acceptKind(T.DOT)) path += `.${p.label("a name after the dot").text}`;
        return { kind: "variable", name: path, start, end: p.previousEnd };
      }
      if (p.isOp(Op.ASSIGN)) {
        // @a := @b := 1 assigns from the right, before anything to its left is looked at.
        p.advance();
        return binary({ kind: "variable", name, start, end: start + name.length }, ":=", climb(p, OR));
      }
      return { kind: "variable", name, start, end: p.previousEnd };
    }
    case T.LPAREN:
      return parenthesised(p);
    case T.DOT:
      // .berth.code: a name in the current database (mysql)
      if (!p.dialect.syntax.dotNames) return p.fail("an expression");
      p.advance();
      return nameOrCall(p);
    case T.STAR:
      p.advance();
      return { kind: "star", path: [], start, end: p.previousEnd };
    case T.QUOTED:
      return nameOrCall(p);
    case T.LBRACE: {
      // The call escapes of drivers: {ts '…'}, {fn now()}.
      p.advance();
      p.label("a word");
      const inner: Building<Expr> = expression(p);
      p.expectKind(T.RBRACE, "}");
      inner.start = start;
      inner.end = p.previousEnd;
      return inner;
    }
    case T.LBRACKET: {
      const items: Expr[] = [];
      p.advance();
      while (!p.at(T.RBRACKET)) {
        items.push(expression(p));
        if (!p.acceptKind(T.COMMA)) break;
      }
      p.expectKind(T.RBRACKET, "]");
      return { kind: "compound", what: "array", operands: items, name: "", start, end: p.previousEnd };
    }
    case T.OPERATOR:
      if (p.marked(Op.QUESTION)) return hole(p);
      return p.fail("an expression");
    case T.WORD:
      return p.marked(K.NONE) ? nameOrCall(p) : wordPrimary(p);
    default:
      return p.fail("an expression");
  }
}

function parenthesised(p: Parser): Expr {
  const start = p.start;
  p.advance();
  if (atQuery(p)) {
    const inner = query(p);
    p.expectKind(T.RPAREN, ")");
    return { kind: "subquery", query: inner, start, end: p.previousEnd };
  }
  if (p.at(T.RPAREN)) {
    p.advance();
    return { kind: "row", items: [], start, end: p.previousEnd };
  }
  const first: Building<Expr> = expression(p);
  // ((SELECT …) UNION …): what looked like a value is the beginning of a query.
  if (first.kind === "subquery" && isQueryTail(p)) {
    const inner = queryRest(p, first.query, first.start);
    p.expectKind(T.RPAREN, ")");
    return { kind: "subquery", query: inner, start, end: p.previousEnd };
  }
  if (p.at(T.COMMA)) {
    const items = [first];
    while (p.acceptKind(T.COMMA)) items.push(expression(p));
    p.expectKind(T.RPAREN, ") or ,");
    return { kind: "row", items, start, end: p.previousEnd };
  }
  p.expectKind(T.RPAREN, ")");
  if (first.kind === "logic") first.parenthesised = true;
  first.start = start;
  first.end = p.previousEnd;
  return first;
}

/** Whether a query in parentheses goes on after them. */
export function isQueryTail(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.UNION:
    case K.EXCEPT:
    case K.INTERSECT:
    case K.ORDER:
    case K.FETCH:
      return true;
    case K.LIMIT:
    case K.OFFSET:
      return true;
    case K.MINUS:
      return p.dialect.syntax.minusOperation;
    default:
      return false;
  }
}

/** Functions that are called without parentheses. */
function isBareFunction(word: K): boolean {
  switch (word) {
    case K.CURRENT_DATE:
    case K.CURRENT_TIME:
    case K.CURRENT_TIMESTAMP:
    case K.CURRENT_USER:
    case K.CURRENT_ROLE:
    case K.CURRENT_CATALOG:
    case K.CURRENT_SCHEMA:
    case K.LOCALTIME:
    case K.LOCALTIMESTAMP:
    case K.SESSION_USER:
    case K.SYSTEM_USER:
    case K.USER:
      return true;
    default:
      return false;
  }
}

/** An expression that begins with a word: a table of words, one case each, which is longer than a function should be. */
function wordPrimary(p: Parser): Expr {
  const start = p.start;

  const next = p.peekKind(1);
  switch (p.kw) {
    case K.NULL:
      return literal(p, "null", "");
    case K.TRUE:
    case K.FALSE:
      if (next === T.DOT || next === T.LPAREN) break;
      if (p.dialect.syntax.noBooleans) break;
      return literal(p, "boolean", p.marked(K.TRUE) ? "true" : "false");
    case K.IGNORE:
      if (p.dialect.syntax.ignoreValue) return literal(p, "default", "ignore");
      break;
    case K.DEFAULT:
      if (next === T.LPAREN) return call(p);
      // SQLite has DEFAULT VALUES, and no DEFAULT among values.
      if (p.dialect.syntax.noDefaultValue) break;
      return literal(p, "default", "");
    case K.CASE:
      if (next === T.DOT && p.dialect.syntax.namesFromWords) break;
      return caseExpression(p);
    case K.CAST:
    case K.TRY_CAST:
      if (next === T.LPAREN) return castCall(p);
      break;
    case K.EXISTS:
      if (next === T.LPAREN) {
        p.advance();
        p.advance();
        const inner = atQuery(p) || p.at(T.LPAREN) ? query(p) : p.fail("SELECT");
        p.expectKind(T.RPAREN, ")");
        return { kind: "exists", query: inner, start, end: p.previousEnd };
      }
      break;
    case K.ARRAY:
      if (next === T.LBRACKET) {
        p.advance();
        const inner: Building<Expr> = primary(p);
        inner.start = start;
        return inner;
      }
      if (next === T.LPAREN && p.dialect.syntax.arrayQueries) {
        p.advance();
        p.advance();
        const inner = query(p);
        p.expectKind(T.RPAREN, ")");
        return { kind: "subquery", query: inner, start, end: p.previousEnd };
      }
      break;
    case K.ROW:
      if (next === T.LPAREN && !p.dialect.syntax.namesFromWords) {
        p.advance();
        p.advance();
        const items = p.at(T.RPAREN) ? [] : expressions(p);
        p.expectKind(T.RPAREN, ") or ,");
        return { kind: "row", items, start, end: p.previousEnd };
      }
      break;
    case K.NATIONAL:
      // national character varying(3) 'x' (postgresql)
      if (p.dialect.syntax.typedLiterals && (p.nextIs(K.CHARACTER) || p.nextIs(K.CHAR))) {
        typeName(p);
        if (!p.at(T.STRING)) p.fail("a string");
        return { ...literal(p, "string", stringValue(p)), start };
      }
      break;
    case K.DOUBLE:
      // double precision '1.5' (postgresql)
      if (p.dialect.syntax.typedLiterals && p.nextIs(K.PRECISION) && p.peekKind(2) === T.STRING) {
        p.seek(p.pos + 2);
        return { ...literal(p, "string", stringValue(p)), start };
      }
      break;
    case K.INTERVAL: {
      const interval = intervalLiteral(p);
      if (interval) return interval;
      break;
    }
    case K.DATE:
    case K.TIME:
    case K.TIMESTAMP:
    case K.DATETIME: {
      // DATE '2025-01-31', TIMESTAMP(3) WITH TIME ZONE '…'
      if (next === T.STRING) {
        p.advance();
        return { ...literal(p, "date", stringValue(p)), start };
      }
      let ahead = 1;
      if (next === T.LPAREN && p.peekKind(2) === T.NUMBER && p.peekKind(3) === T.RPAREN) ahead = 4;
      if ((p.nextIs(K.WITH, ahead) || p.nextIs(K.WITHOUT, ahead)) && p.nextIs(K.TIME, ahead + 1)) ahead += 3;
      if (ahead > 1 && p.peekKind(ahead) === T.STRING) {
        p.seek(p.pos + ahead);
        return { ...literal(p, "date", stringValue(p)), start };
      }
      break;
    }
    case K.PRIOR:
    case K.CONNECT_BY_ROOT: {
      if (!p.dialect.syntax.hierarchies) break;
      const name = p.marked(K.PRIOR) ? "prior" : "connect_by_root";
      p.advance();
      const inner = climb(p, UNARY);
      return { kind: "compound", what: "prior", operands: [inner], name, start, end: inner.end };
    }
    case K.BINARY: {
      if (!p.dialect.syntax.binaryOperator) break;
      if (next === T.DOT || next === T.COMMA || next === T.RPAREN) break;
      p.advance();
      const inner = climb(p, UNARY);
      return { kind: "compound", what: "collate", operands: [inner], name: "binary", start, end: inner.end };
    }
    case K.CURSOR:
      if (next === T.LPAREN) {
        p.seek(p.pos + 2);
        const inner = query(p);
        p.expectKind(T.RPAREN, ")");
        return {
          kind: "compound",
          what: "cursor",
          operands: [{ kind: "subquery", query: inner, start, end: p.previousEnd }],
          name: "",
          start,
          end: p.previousEnd,
        };
      }
      break;
    case K.CURRENT:
      if (p.dialect.syntax.noCursors || !p.nextIs(K.OF)) break;
      p.advance();
      p.advance();
      return {
        kind: "compound",
        what: "current",
        operands: [],
        name: p.ident("a cursor").text,
        start,
        end: p.previousEnd,
      };
    case K.EXTRACT:
    case K.TRIM:
    case K.SUBSTRING:
    case K.SUBSTR:
    case K.POSITION:
    case K.OVERLAY:
    case K.CONVERT:
    case K.TRY_CONVERT:
    case K.IF:
    case K.LEFT:
    case K.RIGHT:
    case K.REPLACE:
    case K.INSERT:
    case K.VALUES:
    case K.CHAR:
    case K.DATABASE:
    case K.SCHEMA:
    case K.REPEAT:
    case K.MOD:
    case K.TRUNCATE:
    case K.COALESCE:
    case K.NULLIF:
    case K.IDENTITY:
    case K.CONTAINS:
    case K.FREETEXT:
    case K.UPDATE:
    case K.CHECK:
    case K.GROUPING:
    case K.RANK:
    case K.DENSE_RANK:
    case K.COLLATION:
      if (p.nextIs(K.FOR) && p.peekKind(2) === T.LPAREN) {
        const word = p.anyIdent();
        p.advance();
        return callRest(p, { kind: "name", parts: [word], link: null, start, end: word.end });
      }
      if (next === T.LPAREN) return call(p);
      break;
    case K.ANY:
    case K.SOME:
    case K.ALL:
    case K.SET:
    case K.RAISE:
    case K.GLOB:
    case K.LIKE:
    case K.CHARACTER:
    case K.AUTHORIZATION:
    case K.OPENROWSET:
      if (next === T.LPAREN) return call(p);
      break;
    case K.NEW:
      // An object constructor: NEW berth_type(…).
      if (next === T.WORD && p.dialect.syntax.newObjects && p.peekKind(2) === T.LPAREN) p.advance();
      break;
    case K.NEXT:
    case K.PREVIOUS:
      // NEXT VALUE FOR sequence, PREVIOUS VALUE FOR sequence
      if (p.peekKind(1) === T.WORD && p.peekMark(1) === K.VALUE && p.nextIs(K.FOR, 2)) {
        p.seek(p.pos + 3);
        const name = p.name("a sequence");
        if (p.is(K.OVER)) {
          p.advance();
          p.skipParens();
        }
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
          end: p.previousEnd,
        };
      }
      break;
    case K.MATCH:
      if (next === T.LPAREN && p.dialect.syntax.binaryOperator) return matchAgainst(p);
      if (next !== T.LPAREN && p.dialect.syntax.binaryOperator) return matchAgainst(p);
      break;
    case K.NOT: {
      // NOT where a value is expected: `a = NOT b` (mysql, sqlite, postgresql).
      p.advance();
      const inner = climb(p, NOT);
      return { kind: "unary", op: "not", operand: inner, start, end: inner.end };
    }
    case K.DISTINCT:
      break;
    default:
      if (isBareFunction(p.kw) && (p.dialect.wordClass[p.kw] & 1) !== 0) {
        if (next === T.LPAREN) return call(p);
        const word = p.anyIdent();
        return emptyCall({ kind: "name", parts: [word], link: null, start, end: word.end }, start, word.end);
      }
  }
  return nameOrCall(p);
}

function caseExpression(p: Parser): Expr {
  const start = p.start;
  p.advance();
  const operandOf = p.is(K.WHEN) ? null : expression(p);
  const whens: { when: Expr; result: Expr }[] = [];
  while (p.accept(K.WHEN)) {
    const when = expression(p);
    p.expect(K.THEN);
    whens.push({ when, result: expression(p) });
  }
  if (whens.length === 0) p.fail("WHEN");
  const otherwise = p.accept(K.ELSE) ? expression(p) : null;
  p.expect(K.END);
  // END CASE closes it in some procedural code.
  return { kind: "case", operand: operandOf, whens, otherwise, start, end: p.previousEnd };
}
