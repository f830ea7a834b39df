import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Building, Expr, Query } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { callRest } from "./call.ts";
import { grow } from "./growing.ts";
import { hole } from "./name-or-literal.ts";
import { isRangeWord, isTest, range } from "./predicates.ts";
import { isQueryTail, primary } from "./primary.ts";
import { atQuery, query, queryRest } from "./query.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

// Binding powers, loosest first. PostgreSQL's table (manual 4.1.6) is the frame; where another
// dialect differs in a way that changes the answer, `binaryPower` says so.
export const OR = 10;
const XOR = 20;
export const AND = 30;
export const NOT = 40;
export const IS = 50;
export const COMPARISON = 60;
/** sqlite: `<` and its like bind tighter than `=`. */
const ORDERING = 65;
const RANGE = 70;
export const OTHER = 80;
/** mysql: `|` is loosest of the bit operators, then `&`, then the shifts. */
const BIT_AND = 82;
const SHIFT = 84;
const ADDITIVE = 90;
const MULTIPLICATIVE = 100;
const POWER = 110;
const AT = 120;
const COLLATE = 130;
export const UNARY = 140;

/** A condition or a value, to the loosest operator. */
export function expression(p: Parser): Expr {
  return climb(p, OR);
}

/** A value in which AND and BETWEEN's AND do not take part. */
export function operand(p: Parser): Expr {
  return climb(p, OTHER);
}

/** Several expressions with commas between. */
export function expressions(p: Parser): readonly Expr[] {
  const first = expression(p);
  if (!p.at(T.COMMA)) return [first];
  const list = [first];
  while (p.acceptKind(T.COMMA)) list.push(expression(p));
  return compact(list);
}

/** Takes operators as long as they bind at least so tightly. */
export function climb(p: Parser, least: number): Expr {
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
        if (op === "!" && p.dialect.syntax.bangIsNot) {
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
function postfix(p: Parser, first: Building<Expr>): Expr {
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
        // A dot after a name belongs to the name; after parentheses it selects a field.
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
          const call: Building<Expr> = callRest(p, {
            kind: "name",
            parts: [field],
            link: null,
            start: field.start,
            end: field.end,
          });
          if (call.kind === "call") call.args = [left, ...call.args];
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

function infix(p: Parser, left: Building<Expr>, least: number): Expr | null {
  if (p.at(T.WORD)) return p.marked(K.NONE) && !p.dialect.syntax.wordOperators ? null : wordInfix(p, left, least);
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

/** Two operands and their operator as one node. */
export function binary(left: Building<Expr>, op: string, right: Expr): Expr {
  return { kind: "binary", op, left, right, start: left.start, end: right.end };
}

/** Joins a condition to a chain; `a AND b AND c` stays one flat node however long it is. */
function chain(op: "and" | "or" | "xor", left: Building<Expr>, right: Expr): Expr {
  if (left.kind === "logic" && left.op === op && !left.parenthesised) {
    if (left.items.length < 8) left.items = [...left.items, right];
    else grow(left.items, right);
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

function operatorInfix(p: Parser, left: Building<Expr>, least: number): Expr | null {
  const op = p.kw as Op;
  let power = OTHER;
  switch (op) {
    case Op.LT:
    case Op.GT:
    case Op.LE:
    case Op.GE:
      power = p.dialect.syntax.orderedComparisons ? ORDERING : COMPARISON;
      break;
    case Op.EQ:
    case Op.NE:
    case Op.NULL_SAFE:
      power = COMPARISON;
      break;
    case Op.AMPERSAND:
      if (p.dialect.syntax.bitsLikeSums) power = ADDITIVE;
      else if (p.dialect.syntax.bitLevels) power = BIT_AND;
      break;
    case Op.PIPE:
      if (p.dialect.syntax.bitsLikeSums) power = ADDITIVE;
      break;
    case Op.SHIFT_LEFT:
    case Op.SHIFT_RIGHT:
      if (p.dialect.syntax.bitLevels) power = SHIFT;
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
      power = p.dialect.syntax.bitsLikeSums ? ADDITIVE : POWER;
      break;
    case Op.CONCAT:
      if (p.dialect.grammar.pipesAreOr) {
        if (least > OR) return null;
        p.advance();
        return chain("or", left, climb(p, OR + 1));
      }
      power = p.dialect.syntax.orderedComparisons ? POWER : OTHER;
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
      if (!p.dialect.syntax.wholeDivision) return null;
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
export function quantified(p: Parser, left: Building<Expr>, op: string): Expr {
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

/** An operator that is a word: a table of words, one case each, which is longer than a function should be. */
function wordInfix(p: Parser, left: Building<Expr>, least: number): Expr | null {
  switch (p.kw) {
    case K.OR:
      if (least > OR) return null;
      p.advance();
      return chain("or", left, climb(p, OR + 1));
    case K.XOR:
      if (least > XOR || !p.dialect.syntax.xorOperator) return null;
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
      if (least > IS || !p.dialect.syntax.nullTests) return null;
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
      if (next === K.NULL && p.dialect.syntax.notNullTest) {
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
      if (least > MULTIPLICATIVE || !p.dialect.syntax.wordDivision) return null;
      p.advance();
      return binary(left, p.tokens.marks[p.pos - 1] === K.DIV ? "div" : "%", climb(p, MULTIPLICATIVE + 1));
    case K.NONE:
      // EQV and IMP join conditions loosest of all (jet).
      if (least > OR || !p.dialect.syntax.wordOperators || !(p.isText("EQV") || p.isText("IMP"))) return null;
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
      if (!p.dialect.syntax.multisets || least > OTHER) return null;
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
      if (!p.dialect.syntax.multisets || least > UNARY) return null;
      p.advance();
      if (p.at(T.LPAREN)) p.skipParens();
      if (p.accept(K.TO)) {
        p.advance();
        if (p.at(T.LPAREN)) p.skipParens();
      }
      return { kind: "compound", what: "interval", operands: [left], name: "", start: left.start, end: p.previousEnd };
    default:
      if (!isRangeWord(p.kw) || least > RANGE || !inDialect(p, p.kw)) return null;
      return range(p, left, false);
  }
}

/** OPERATOR(schema.+): the text of the operator. */
export function explicitOperator(p: Parser): string {
  p.advance();
  p.expectKind(T.LPAREN, "(");
  while (p.at(T.WORD) || p.at(T.QUOTED) || p.at(T.DOT)) p.advance();
  const op = p.tokenText();
  if (!p.at(T.OPERATOR) && !p.at(T.STAR)) p.fail("an operator");
  p.advance();
  p.expectKind(T.RPAREN, ")");
  return op;
}

/** Whether a word is an operator in this dialect and not a name. */
function inDialect(p: Parser, word: K): boolean {
  switch (word) {
    case K.ALIKE:
      return p.dialect.syntax.alike;
    case K.ILIKE:
      return p.dialect.syntax.ilike;
    case K.SIMILAR:
      return p.dialect.syntax.ilike && p.nextIs(K.TO);
    case K.GLOB:
      return p.dialect.syntax.glob;
    case K.REGEXP:
      return p.dialect.syntax.regexp;
    case K.RLIKE:
      return p.dialect.syntax.rlike;
    case K.MATCH:
      return p.dialect.syntax.glob;
    case K.MEMBER:
      return p.dialect.syntax.multisets || (p.dialect.syntax.memberOf && p.nextIs(K.OF));
    case K.LIKEC:
    case K.LIKE2:
    case K.LIKE4:
    case K.SUBMULTISET:
      return p.dialect.syntax.multisets;
    default:
      return true;
  }
}
