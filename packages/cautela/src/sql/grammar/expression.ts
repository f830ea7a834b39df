import { compact } from "../compact.ts";
import { K } from "../keywords.ts";
import type { Parser } from "../parser.ts";
import { Op, T } from "../tokens.ts";
import type { Call, Expr, Ident, Literal, Name, OrderItem, Query } from "../tree.ts";
import { atQuery, query, queryRest } from "./query.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

// Binding powers, loosest first. PostgreSQL's table (manual 4.1.6) is the frame; where another
// dialect differs in a way that changes the answer, `binaryPower` says so.
const OR = 10;
const XOR = 20;
const AND = 30;
const NOT = 40;
const IS = 50;
const COMPARISON = 60;
/** sqlite: `<` and its like bind tighter than `=`. */
const ORDERING = 65;
const RANGE = 70;
const OTHER = 80;
/** mysql: `|` is loosest of the bit operators, then `&`, then the shifts. */
const BIT_AND = 82;
const SHIFT = 84;
const ADDITIVE = 90;
const MULTIPLICATIVE = 100;
const POWER = 110;
const AT = 120;
const COLLATE = 130;
const UNARY = 140;

/** A condition or a value, to the loosest operator. */
export function expression(p: Parser): Expr {
  return climb(p, OR);
}

/** A value in which AND and BETWEEN's AND do not take part. */
export function operand(p: Parser): Expr {
  return climb(p, OTHER);
}

/** Several expressions with commas between. */
export function expressions(p: Parser): Expr[] {
  const first = expression(p);
  if (!p.at(T.COMMA)) return [first];
  const list = [first];
  while (p.acceptKind(T.COMMA)) list.push(expression(p));
  return compact(list);
}

function climb(p: Parser, least: number): Expr {
  p.enter();
  let left = prefix(p, least);
  for (;;) {
    const next = infix(p, left, least);
    if (next === null) break;
    left = next;
  }
  p.leave();
  return left;
}

function prefix(p: Parser, least: number): Expr {
  const start = p.start;
  if (p.at(T.WORD)) {
    if (p.marked(K.OPERATOR) && p.dialect.lexical.freeOperators && p.peekKind(1) === T.LPAREN) {
      const op = explicitOperator(p);
      const inner = climb(p, OTHER);
      return { kind: "unary", op, operand: inner, start, end: inner.end };
    }
    if (p.marked(K.NOT) && least <= NOT) {
      p.advance();
      const inner = climb(p, NOT);
      return { kind: "unary", op: "not", operand: inner, start, end: inner.end };
    }
  } else if (p.at(T.OPERATOR)) {
    switch (p.kw) {
      case Op.PLUS:
      case Op.MINUS:
      case Op.TILDE:
      case Op.NOT: {
        const op = p.tokenText();
        p.advance();
        const inner = climb(p, UNARY);
        if (op === "!" && p.dialect.grammar.pipesAreOr) {
          return { kind: "unary", op: "not", operand: inner, start, end: inner.end };
        }
        return { kind: "unary", op, operand: inner, start, end: inner.end };
      }
      case Op.OTHER:
      case Op.AT: {
        if (!p.dialect.lexical.freeOperators) break;
        const op = p.tokenText();
        p.advance();
        const inner = climb(p, OTHER);
        return { kind: "unary", op, operand: inner, start, end: inner.end };
      }
      default:
    }
  }
  return postfix(p, primary(p));
}

/** What may follow a primary directly: `::type`, subscripts, `.field`, `(+)`. */
function postfix(p: Parser, first: Expr): Expr {
  let left = first;
  for (;;) {
    switch (p.kind) {
      case T.OPERATOR:
        if (p.marked(Op.CAST)) {
          p.advance();
          const type = typeName(p);
          left = { kind: "cast", operand: left, type, start: left.start, end: type.end };
          continue;
        }
        return left;
      case T.LBRACKET: {
        const operands: Expr[] = [left];
        p.advance();
        while (!p.at(T.RBRACKET)) {
          if (p.at(T.COLON)) p.advance();
          else if (p.at(T.HOLE) && operands.length > 1) operands.push(hole(p));
          else operands.push(expression(p));
          if (p.at(T.EOF)) p.fail("]");
        }
        p.advance();
        left = { kind: "compound", what: "subscript", operands, name: "", start: left.start, end: p.previousEnd };
        continue;
      }
      case T.DOT: {
        // A dot behind a name belongs to the name; behind parentheses it selects a field.
        const closed = p.tokens.kinds[p.pos - 1] === T.RPAREN || p.tokens.kinds[p.pos - 1] === T.RBRACKET;
        if ((!closed && left.kind !== "compound") || p.peekKind(1) === T.DOT) return left;
        p.advance();
        if (p.at(T.STAR)) {
          p.advance();
          left = {
            kind: "compound",
            what: "field",
            operands: [left],
            name: "*",
            start: left.start,
            end: p.previousEnd,
          };
          continue;
        }
        const field = p.label("the name of a field");
        if (p.at(T.LPAREN)) {
          const call = callRest(p, { kind: "name", parts: [field], link: null, start: field.start, end: field.end });
          if (call.kind === "call") call.args.unshift(left);
          call.start = left.start;
          left = call;
          continue;
        }
        left = {
          kind: "compound",
          what: "field",
          operands: [left],
          name: field.text,
          start: left.start,
          end: field.end,
        };
        continue;
      }
      default:
        return left;
    }
  }
}

function infix(p: Parser, left: Expr, least: number): Expr | null {
  if (p.at(T.WORD)) return p.marked(K.NONE) && p.dialect.id !== "jet" ? null : wordInfix(p, left, least);
  if (p.at(T.STAR)) {
    if (least > MULTIPLICATIVE) return null;
    p.advance();
    return binary(left, "*", climb(p, MULTIPLICATIVE + 1));
  }
  if (p.at(T.OPERATOR)) return operatorInfix(p, left, least);
  if (
    p.at(T.STRING) &&
    left.kind === "call" &&
    p.dialect.lexical.escapeStrings &&
    p.tokens.kinds[p.pos - 1] === T.RPAREN
  ) {
    // A literal of the type that stands before it: char(20) '…'.
    p.advance();
    left.end = p.previousEnd;
    return left;
  }
  // A second string continues the first one.
  if (p.at(T.STRING) && left.kind === "literal" && left.type === "string") {
    left.value += stringValue(p);
    p.advance();
    left.end = p.previousEnd;
    return left;
  }
  if (p.at(T.RBRACKET) || !p.at(T.LBRACKET)) return null;
  return postfix(p, left);
}

function binary(left: Expr, op: string, right: Expr): Expr {
  return { kind: "binary", op, left, right, start: left.start, end: right.end };
}

/** Joins a condition to a chain; `a AND b AND c` stays one flat node however long it is. */
function chain(op: "and" | "or" | "xor", left: Expr, right: Expr): Expr {
  if (left.kind === "logic" && left.op === op && !left.parenthesised) {
    if (left.items.length < 8) left.items = [...left.items, right];
    else left.items.push(right);
    left.end = right.end;
    return left;
  }
  return { kind: "logic", op, items: [left, right], parenthesised: false, start: left.start, end: right.end };
}

const OPERATOR_TEXT: Partial<Record<Op, string>> = {
  [Op.EQ]: "=",
  [Op.LT]: "<",
  [Op.GT]: ">",
  [Op.LE]: "<=",
  [Op.GE]: ">=",
  [Op.NE]: "<>",
  [Op.NULL_SAFE]: "<=>",
  [Op.PLUS]: "+",
  [Op.MINUS]: "-",
  [Op.SLASH]: "/",
  [Op.PERCENT]: "%",
  [Op.CONCAT]: "||",
};

function operatorInfix(p: Parser, left: Expr, least: number): Expr | null {
  const op = p.kw as Op;
  let power = OTHER;
  switch (op) {
    case Op.LT:
    case Op.GT:
    case Op.LE:
    case Op.GE:
      power = p.dialect.id === "sqlite" ? ORDERING : COMPARISON;
      break;
    case Op.EQ:
    case Op.NE:
    case Op.NULL_SAFE:
      power = COMPARISON;
      break;
    case Op.AMPERSAND:
      if (p.dialect.id === "tsql") power = ADDITIVE;
      else if (p.dialect.grammar.pipesAreOr) power = BIT_AND;
      break;
    case Op.PIPE:
      if (p.dialect.id === "tsql") power = ADDITIVE;
      break;
    case Op.SHIFT_LEFT:
    case Op.SHIFT_RIGHT:
      if (p.dialect.grammar.pipesAreOr) power = SHIFT;
      break;
    case Op.PLUS:
    case Op.MINUS:
      power = ADDITIVE;
      break;
    case Op.SLASH:
    case Op.PERCENT:
      power = MULTIPLICATIVE;
      break;
    case Op.CARET:
    case Op.POWER:
      power = p.dialect.id === "tsql" ? ADDITIVE : POWER;
      break;
    case Op.CONCAT:
      if (p.dialect.grammar.pipesAreOr) {
        if (least > OR) return null;
        p.advance();
        return chain("or", left, climb(p, OR + 1));
      }
      power = p.dialect.id === "sqlite" ? POWER : OTHER;
      break;
    case Op.AND2:
      if (p.dialect.grammar.ampersandsAreAnd) {
        if (least > AND) return null;
        p.advance();
        return chain("and", left, climb(p, AND + 1));
      }
      break;
    case Op.ARROW:
    case Op.ARROW2:
      power = p.dialect.lexical.freeOperators ? OTHER : POWER;
      break;
    case Op.CAST:
      return postfix(p, left);
    case Op.ASSIGN:
    case Op.FAT_ARROW:
    case Op.PLUS_EQ:
      return null;
    case Op.BACKSLASH:
      // Division of whole numbers (jet)
      if (p.dialect.id !== "jet") return null;
      power = MULTIPLICATIVE;
      break;
    case Op.NOT:
      return null;
    case Op.TILDE:
      if (!p.dialect.lexical.freeOperators) return null;
      break;
    default:
  }
  if (power < least) return null;
  let text = OPERATOR_TEXT[op] ?? p.tokenText();
  p.advance();
  // `< >` and `> =` with a blank between are still one operator (tsql, plsql).
  if ((power === COMPARISON || power === ORDERING) && p.at(T.OPERATOR) && !p.dialect.lexical.freeOperators) {
    if (op === Op.LT && p.marked(Op.GT)) {
      text = "<>";
      p.advance();
    } else if ((op === Op.LT || op === Op.GT) && p.marked(Op.EQ)) {
      text += "=";
      p.advance();
    }
  }
  if (p.at(T.WORD) && (p.marked(K.ANY) || p.marked(K.SOME) || p.marked(K.ALL)) && p.peekKind(1) === T.LPAREN) {
    return quantified(p, left, text);
  }
  return binary(left, text, climb(p, power + 1));
}

/** `= ANY (…)`: the current token is the quantifier. */
function quantified(p: Parser, left: Expr, op: string): Expr {
  const quantifier = p.marked(K.ALL) ? "all" : "any";
  p.advance();
  p.expectKind(T.LPAREN, "(");
  let inner: Query | null = null;
  let value: Expr | null = null;
  if (atQuery(p)) inner = query(p);
  else {
    value = expression(p);
    if (p.at(T.COMMA)) {
      const items = [value];
      while (p.acceptKind(T.COMMA)) items.push(expression(p));
      value = { kind: "row", items, start: items[0].start, end: p.previousEnd };
    } else if (value.kind === "subquery" && isQueryTail(p)) {
      inner = queryRest(p, value.query, value.start);
      value = null;
    } else if (value.kind === "subquery" && p.at(T.RPAREN)) {
      inner = value.query;
      value = null;
    }
  }
  p.expectKind(T.RPAREN, ")");
  return {
    kind: "quantified",
    op,
    quantifier,
    left,
    query: inner,
    operand: value,
    start: left.start,
    end: p.previousEnd,
  };
}

function wordInfix(p: Parser, left: Expr, least: number): Expr | null {
  const id = p.dialect.id;
  switch (p.kw) {
    case K.OR:
      if (least > OR) return null;
      p.advance();
      return chain("or", left, climb(p, OR + 1));
    case K.XOR:
      if (least > XOR || (!p.dialect.grammar.pipesAreOr && id !== "jet")) return null;
      p.advance();
      return chain("xor", left, climb(p, XOR + 1));
    case K.AND:
      if (least > AND) return null;
      p.advance();
      return chain("and", left, climb(p, AND + 1));
    case K.IS:
      return least > IS ? null : isTest(p, left);
    case K.ISNULL:
    case K.NOTNULL:
      if (least > IS || (id !== "postgresql" && id !== "sqlite")) return null;
      p.advance();
      return {
        kind: "is",
        operand: left,
        test: "null",
        negated: p.tokens.marks[p.pos - 1] === K.NOTNULL,
        right: null,
        start: left.start,
        end: p.previousEnd,
      };
    case K.NOT: {
      const next = p.peekKind(1) === T.WORD ? p.peekMark(1) : K.NONE;
      if (next === K.NULL && id === "sqlite") {
        if (least > IS) return null;
        p.advance();
        p.advance();
        return {
          kind: "is",
          operand: left,
          test: "null",
          negated: true,
          right: null,
          start: left.start,
          end: p.previousEnd,
        };
      }
      if (!isRangeWord(next)) return null;
      if (least > RANGE) return null;
      p.advance();
      return range(p, left, true);
    }
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
      if (least > RANGE || !inDialect(p, p.kw)) return null;
      return range(p, left, false);
    case K.SOUNDS:
      if (least > RANGE || !p.nextIs(K.LIKE)) return null;
      p.advance();
      return range(p, left, false);
    case K.COLLATE: {
      if (least > COLLATE) return null;
      p.advance();
      const name = p.at(T.STRING) ? p.label("a collation") : p.name("a collation").parts[0];
      return {
        kind: "compound",
        what: "collate",
        operands: [left],
        name: name.text,
        start: left.start,
        end: p.previousEnd,
      };
    }
    case K.AT: {
      if (least > AT) return null;
      if (p.nextIs(K.TIME) && p.nextIs(K.ZONE, 2)) {
        p.seek(p.pos + 3);
        const zone = climb(p, AT + 1);
        return { kind: "compound", what: "at", operands: [left, zone], name: "", start: left.start, end: zone.end };
      }
      if (p.nextIs(K.LOCAL)) {
        p.seek(p.pos + 2);
        return { kind: "compound", what: "at", operands: [left], name: "local", start: left.start, end: p.previousEnd };
      }
      return null;
    }
    case K.DIV:
    case K.MOD:
      if (least > MULTIPLICATIVE || (!p.dialect.grammar.pipesAreOr && id !== "jet" && id !== "plsql")) return null;
      p.advance();
      return binary(left, p.tokens.marks[p.pos - 1] === K.DIV ? "div" : "%", climb(p, MULTIPLICATIVE + 1));
    case K.NONE:
      // EQV and IMP join conditions loosest of all (jet).
      if (least > OR || id !== "jet" || !(p.isText("EQV") || p.isText("IMP"))) return null;
      {
        const op = p.tokenText().toLowerCase();
        p.advance();
        return binary(left, op, climb(p, OR + 1));
      }
    case K.OVERLAPS:
      if (least > RANGE) return null;
      p.advance();
      return binary(left, "overlaps", climb(p, OTHER));
    case K.MULTISET:
      if (id !== "plsql" || least > OTHER) return null;
      p.advance();
      if (!p.accept(K.UNION) && !p.accept(K.EXCEPT)) p.expect(K.INTERSECT);
      if (!p.accept(K.ALL)) p.accept(K.DISTINCT);
      return binary(left, "multiset", climb(p, OTHER + 1));
    case K.OPERATOR: {
      // a OPERATOR(pg_catalog.+) b
      if (p.peekKind(1) !== T.LPAREN || !p.dialect.lexical.freeOperators || least > OTHER) return null;
      const op = explicitOperator(p);
      if (p.at(T.WORD) && (p.marked(K.ANY) || p.marked(K.SOME) || p.marked(K.ALL))) return quantified(p, left, op);
      return binary(left, op, climb(p, OTHER + 1));
    }
    case K.YEAR:
    case K.MONTH:
    case K.DAY:
    case K.HOUR:
    case K.MINUTE:
    case K.SECOND:
      // (a - b) DAY TO SECOND
      if (id !== "plsql" || least > UNARY) return null;
      p.advance();
      if (p.at(T.LPAREN)) p.skipParens();
      if (p.accept(K.TO)) {
        p.advance();
        if (p.at(T.LPAREN)) p.skipParens();
      }
      return { kind: "compound", what: "interval", operands: [left], name: "", start: left.start, end: p.previousEnd };
    default:
      return null;
  }
}

/** OPERATOR(schema.+): the text of the operator. */
function explicitOperator(p: Parser): string {
  p.advance();
  p.expectKind(T.LPAREN, "(");
  while (p.at(T.WORD) || p.at(T.QUOTED) || p.at(T.DOT)) p.advance();
  const op = p.tokenText();
  if (!p.at(T.OPERATOR) && !p.at(T.STAR)) p.fail("an operator");
  p.advance();
  p.expectKind(T.RPAREN, ")");
  return op;
}

function isRangeWord(word: K): boolean {
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

/** Whether a word is an operator in this dialect and not a name. */
function inDialect(p: Parser, word: K): boolean {
  const id = p.dialect.id;
  switch (word) {
    case K.ALIKE:
      return id === "jet";
    case K.ILIKE:
      return id === "postgresql";
    case K.SIMILAR:
      return id === "postgresql" && p.nextIs(K.TO);
    case K.GLOB:
      return id === "sqlite";
    case K.REGEXP:
      return id === "sqlite" || id === "mysql" || id === "mariadb";
    case K.RLIKE:
      return id === "mysql" || id === "mariadb";
    case K.MATCH:
      return id === "sqlite";
    case K.MEMBER:
      return (id === "mysql" || id === "plsql") && (p.nextIs(K.OF) || id === "plsql");
    case K.LIKEC:
    case K.LIKE2:
    case K.LIKE4:
    case K.SUBMULTISET:
      return id === "plsql";
    default:
      return true;
  }
}

function range(p: Parser, left: Expr, negated: boolean): Expr {
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
      if (items.length === 1 && items[0].kind === "subquery" && isQueryTail(p)) {
        items[0].query = queryRest(p, items[0].query, items[0].start);
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

function isTest(p: Parser, left: Expr): Expr {
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
    if (p.dialect.id === "plsql" && p.isText("A") && p.peekKind(1) === T.WORD) {
      p.seek(p.pos + 2);
      return { kind: "is", operand: left, test: "other", negated, right: null, start, end: p.previousEnd };
    }
  }
  if (p.dialect.id !== "sqlite" && !p.at(T.HOLE)) p.fail("NULL, TRUE, FALSE or DISTINCT FROM");
  // sqlite: IS compares any two values, NULLs included.
  const right = climb(p, COMPARISON);
  return { kind: "is", operand: left, test: "distinct", negated: !negated, right, start, end: right.end };
}

function literal(p: Parser, type: Literal["type"], value: string): Literal {
  const start = p.start;
  p.advance();
  if (p.is(K.UESCAPE) && p.peekKind(1) === T.STRING) p.seek(p.pos + 2);
  return { kind: "literal", type, value, start, end: p.previousEnd };
}

function hole(p: Parser): Expr {
  const start = p.start;
  const text = p.tokenText();
  p.advance();
  // :name.field, :new.fee
  if (p.at(T.DOT) && text[0] === ":") {
    const path: Ident[] = [
      {
        start,
        end: start + text.length,
        text: text.slice(1),
        quoted: false,
        hole: !/^:(?:new|old|parent)$/i.test(text),
      },
    ];
    while (p.acceptKind(T.DOT)) path.push(p.at(T.STAR) ? p.starPart() : p.label("a name after the dot"));
    return { kind: "column", path, outer: false, start, end: p.previousEnd };
  }
  return { kind: "hole", text, start, end: p.previousEnd };
}

function primary(p: Parser): Expr {
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
        if (p.at(T.LPAREN) && p.dialect.id === "tsql") {
          const call = callRest(p, { kind: "name", parts: [field], link: null, start: field.start, end: field.end });
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
      if (!p.dialect.grammar.pipesAreOr) return p.fail("an expression");
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
      const inner = expression(p);
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
  const first = expression(p);
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

/** Whether a query in parentheses goes on behind them. */
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
      return p.dialect.id === "plsql" || p.dialect.id === "mariadb";
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

function wordPrimary(p: Parser): Expr {
  const start = p.start;
  const { id } = p.dialect;
  const next = p.peekKind(1);
  switch (p.kw) {
    case K.NULL:
      return literal(p, "null", "");
    case K.TRUE:
    case K.FALSE:
      if (next === T.DOT || next === T.LPAREN) break;
      if (id === "plsql" || id === "tsql") break;
      return literal(p, "boolean", p.marked(K.TRUE) ? "true" : "false");
    case K.IGNORE:
      if (id === "mariadb") return literal(p, "default", "ignore");
      break;
    case K.DEFAULT:
      if (next === T.LPAREN) return call(p);
      // SQLite has DEFAULT VALUES, and no DEFAULT among values.
      if (id === "sqlite") break;
      return literal(p, "default", "");
    case K.CASE:
      if (next === T.DOT && id === "sqlite") break;
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
        const inner = primary(p);
        inner.start = start;
        return inner;
      }
      if (next === T.LPAREN && id === "postgresql") {
        p.advance();
        p.advance();
        const inner = query(p);
        p.expectKind(T.RPAREN, ")");
        return { kind: "subquery", query: inner, start, end: p.previousEnd };
      }
      break;
    case K.ROW:
      if (next === T.LPAREN && id !== "sqlite") {
        p.advance();
        p.advance();
        const items = p.at(T.RPAREN) ? [] : expressions(p);
        p.expectKind(T.RPAREN, ") or ,");
        return { kind: "row", items, start, end: p.previousEnd };
      }
      break;
    case K.NATIONAL:
      // national character varying(3) 'x' (postgresql)
      if (id === "postgresql" && (p.nextIs(K.CHARACTER) || p.nextIs(K.CHAR))) {
        typeName(p);
        if (!p.at(T.STRING)) p.fail("a string");
        return { ...literal(p, "string", stringValue(p)), start };
      }
      break;
    case K.DOUBLE:
      // double precision '1.5' (postgresql)
      if (id === "postgresql" && p.nextIs(K.PRECISION) && p.peekKind(2) === T.STRING) {
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
      if (id !== "plsql") break;
      const name = p.marked(K.PRIOR) ? "prior" : "connect_by_root";
      p.advance();
      const inner = climb(p, UNARY);
      return { kind: "compound", what: "prior", operands: [inner], name, start, end: inner.end };
    }
    case K.BINARY: {
      if (id !== "mysql" && id !== "mariadb") break;
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
      if (id === "jet" || !p.nextIs(K.OF)) break;
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
      if (next === T.WORD && (id === "plsql" || id === "mysql") && p.peekKind(2) === T.LPAREN) p.advance();
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
      if (next === T.LPAREN && (id === "mysql" || id === "mariadb")) return matchAgainst(p);
      if (next !== T.LPAREN && (id === "mysql" || id === "mariadb")) return matchAgainst(p);
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

function emptyCall(name: Name, start: number, end: number): Call {
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

/** INTERVAL '1' DAY, INTERVAL 3 MONTH, INTERVAL(a, b) as a function; null when it is a name. */
function intervalLiteral(p: Parser): Expr | null {
  const start = p.start;
  const next = p.peekKind(1);
  const mysql = p.dialect.grammar.pipesAreOr;
  if (next === T.DOT || next === T.EOF || next === T.COMMA || next === T.RPAREN) return null;
  if (next === T.LPAREN && !mysql) {
    // INTERVAL(3) '1 second'
    if (p.peekKind(3) !== T.RPAREN || p.peekKind(4) !== T.STRING) return null;
    p.seek(p.pos + 4);
  } else if (next === T.STRING || next === T.HOLE || mysql) p.advance();
  else return null;
  const amount = mysql ? expression(p) : primary(p);
  if (mysql) {
    // INTERVAL(a, b, c) compares; it has no unit behind it.
    if (p.at(T.WORD) && !p.marked(K.AS) && !p.marked(K.FROM)) p.advance();
    else if (amount.kind !== "row") p.fail("a unit such as DAY");
    return { kind: "compound", what: "interval", operands: [amount], name: "", start, end: p.previousEnd };
  }
  while (p.at(T.WORD) && isIntervalUnit(p.kw)) {
    p.advance();
    if (p.at(T.LPAREN)) p.skipParens();
    if (!p.accept(K.TO)) break;
  }
  return { kind: "literal", type: "interval", value: p.slice(amount.start, amount.end), start, end: p.previousEnd };
}

function isIntervalUnit(word: K): boolean {
  return (
    word === K.YEAR || word === K.MONTH || word === K.DAY || word === K.HOUR || word === K.MINUTE || word === K.SECOND
  );
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

function castCall(p: Parser): Expr {
  const start = p.start;
  p.advance();
  p.advance();
  const inner = expression(p);
  if (p.at(T.COMMA) && p.dialect.grammar.pipesAreOr) p.advance();
  else p.expect(K.AS);
  const type = typeName(p);
  if (p.is(K.ARRAY)) p.advance();
  if (!p.at(T.RPAREN)) skipToClosing(p);
  p.expectKind(T.RPAREN, ")");
  return { kind: "cast", operand: inner, type, start, end: p.previousEnd };
}

/** MATCH (a, b) AGAINST ('…' IN BOOLEAN MODE). */
function matchAgainst(p: Parser): Expr {
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
  const name: Name = {
    kind: "name",
    parts: [{ text: "match", quoted: false, hole: false, start, end: start + 5 }],
    link: null,
    start,
    end: start + 5,
  };
  const match = emptyCall(name, start, p.previousEnd);
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

function nameOrCall(p: Parser): Expr {
  const start = p.start;
  const first = p.kind;
  if (!p.atName()) p.fail("an expression");
  const part = p.anyIdent();
  if (p.at(T.STRING) && first === T.WORD) return prefixedLiteral(p, part, start);
  if (p.at(T.NUMBER) && part.text[0] === "_" && p.dialect.grammar.pipesAreOr) {
    // _utf8mb4 0xE29883: bytes in a character set
    return { ...literal(p, "string", p.tokenText()), start };
  }
  if (!p.at(T.DOT) && !p.at(T.LPAREN)) {
    // A name without a dot is by far the commonest expression.
    if (p.at(T.OPERATOR)) {
      if (p.marked(Op.NOT) && p.dialect.id === "jet") return bangPath(p, [part], start);
      if (p.marked(Op.AT) && p.dialect.id === "plsql") return remoteName(p, [part], start);
      if (p.marked(Op.FAT_ARROW) && p.dialect.lexical.freeOperators === false && p.dialect.id !== "plsql") {
        return { kind: "column", path: [part], outer: false, start, end: part.end };
      }
    }
    return { kind: "column", path: [part], outer: false, start, end: part.end };
  }
  let path = [part];
  while (p.at(T.DOT) || (p.at(T.OPERATOR) && p.marked(Op.NOT) && p.dialect.id === "jet")) {
    // 1..last: the bounds of a loop, and no part of the name.
    if (p.peekKind(1) === T.DOT && p.dialect.id !== "tsql") break;
    p.advance();
    if (p.at(T.DOT)) continue;
    if (p.at(T.STAR)) {
      p.advance();
      return { kind: "star", path, start, end: p.previousEnd };
    }
    const label = p.label("a name after the dot");
    if (path.length === 1) path = [part, label];
    else path.push(label);
  }
  if (p.at(T.LPAREN)) {
    if (isOuterMark(p)) {
      p.seek(p.pos + 3);
      return { kind: "column", path, outer: true, start, end: p.previousEnd };
    }
    return callRest(p, { kind: "name", parts: path, link: null, start, end: p.previousEnd });
  }
  if (p.at(T.STRING) && first === T.WORD && path.length > 1) return prefixedLiteral(p, part, start);
  if (p.at(T.OPERATOR) && p.marked(Op.AT) && p.dialect.id === "plsql") return remoteName(p, path, start);
  return { kind: "column", path, outer: false, start, end: p.previousEnd };
}

/** A name behind a database link: `next_fee@archive(3)`, `vessel.name@archive`. */
function remoteName(p: Parser, path: Ident[], start: number): Expr {
  p.advance();
  const link = p.name("the name of a database link").parts[0];
  if (p.at(T.LPAREN) && !isOuterMark(p))
    return callRest(p, { kind: "name", parts: path, link, start, end: p.previousEnd });
  return { kind: "column", path, outer: false, start, end: p.previousEnd };
}

/** Jet's `Forms!entry!fee`. */
function bangPath(p: Parser, path: Ident[], start: number): Expr {
  while (p.at(T.DOT) || (p.at(T.OPERATOR) && p.marked(Op.NOT))) {
    p.advance();
    path.push(p.label("a name"));
  }
  return { kind: "column", path, outer: false, start, end: p.previousEnd };
}

export function isOuterMark(p: Parser): boolean {
  return (
    p.dialect.id === "plsql" && p.peekKind(1) === T.OPERATOR && p.peekMark(1) === Op.PLUS && p.peekKind(2) === T.RPAREN
  );
}

/** `_utf8mb4'…'`, `berth_code '…'`: a literal of the type or character set that stands before it. */
function prefixedLiteral(p: Parser, word: Ident, start: number): Expr {
  const free = p.dialect.lexical.escapeStrings;
  if (!free && word.text[0] !== "_") return { kind: "column", path: [word], outer: false, start, end: word.end };
  return { ...literal(p, "string", stringValue(p)), start };
}

function call(p: Parser): Expr {
  const word = p.anyIdent();
  return callRest(p, { kind: "name", parts: [word], link: null, start: word.start, end: word.end });
}

/** The arguments and what follows them; the current token is the opening parenthesis. */
function callRest(p: Parser, name: Name): Call {
  const node = emptyCall(name, name.start, name.end);
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
    else if (p.dialect.id === "plsql" || p.dialect.id === "sqlite") {
      // A collection's element: berths(3)(1).
      p.skipParens();
    }
  }
  if (p.at(T.WORD)) callTail(p, node);
  return node;
}

function arguments_(p: Parser, node: Call): void {
  for (;;) {
    // VARIADIC array, and the leading words of TRIM, EXTRACT and the XML and JSON functions.
    while (p.at(T.WORD) && isLeadingArgumentWord(p)) p.advance();
    if (p.at(T.RPAREN)) return;
    if ((p.is(K.UNSIGNED) || p.is(K.SIGNED)) && p.dialect.grammar.pipesAreOr) {
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
      node.args.push(expression(p));
    } else if (p.at(T.COMMA)) {
      // An argument left out: f(a, , b) (jet).
      p.advance();
      continue;
    } else if (atQuery(p)) {
      const start = p.start;
      const inner = query(p);
      node.args.push({ kind: "subquery", query: inner, start, end: inner.end });
    } else node.args.push(expression(p));
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
          if (!p.at(T.COMMA)) node.args.push(expression(p));
        }
        continue;
      }
      if (p.at(T.COLON) || p.at(T.HOLE)) {
        // 'key': value
        if (p.at(T.COLON)) p.advance();
        node.args.push(expression(p));
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
    if (p.at(T.RPAREN) && p.dialect.id === "jet") return;
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
function callTail(p: Parser, node: Call): void {
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
function windowSpec(p: Parser, node: Call): void {
  p.advance();
  if (p.at(T.WORD) && !p.is(K.PARTITION) && !p.is(K.ORDER) && !isFrameWord(p.kw)) p.anyIdent();
  else if (p.at(T.QUOTED)) p.anyIdent();
  if (p.accept(K.PARTITION)) {
    p.expect(K.BY);
    node.args.push(...expressions(p));
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
