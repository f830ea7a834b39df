import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Expr, Ident, Literal } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { callRest, isOuterMark } from "./call.ts";
import { expression } from "./expression.ts";
import { primary } from "./primary.ts";
import { stringValue } from "./string.ts";

/** A literal of one token. */
export function literal(p: Parser, type: Literal["type"], value: string): Literal {
  const start = p.start;
  p.advance();
  if (p.is(K.UESCAPE) && p.peekKind(1) === T.STRING) p.seek(p.pos + 2);
  return { kind: "literal", type, value, start, end: p.previousEnd };
}

/** A placeholder that stands where a value stands. */
export function hole(p: Parser): Expr {
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
  return { kind: "placeholder", text, start, end: p.previousEnd };
}

/** INTERVAL '1' DAY, INTERVAL 3 MONTH, INTERVAL(a, b) as a function; null when it is a name. */
export function intervalLiteral(p: Parser): Expr | null {
  const start = p.start;
  const next = p.peekKind(1);
  const mysql = p.dialect.syntax.unitIntervals;
  if (next === T.DOT || next === T.EOF || next === T.COMMA || next === T.RPAREN) return null;
  if (next === T.LPAREN && !mysql) {
    // INTERVAL(3) '1 second'
    if (p.peekKind(3) !== T.RPAREN || p.peekKind(4) !== T.STRING) return null;
    p.seek(p.pos + 4);
  } else if (next === T.STRING || next === T.HOLE || mysql) p.advance();
  else return null;
  const amount = mysql ? expression(p) : primary(p);
  if (mysql) {
    // INTERVAL(a, b, c) compares; it has no unit after it.
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

/** A name, dotted or not, and the call that it may be the head of. */
export function nameOrCall(p: Parser): Expr {
  const start = p.start;
  const first = p.kind;
  if (!p.atName()) p.fail("an expression");
  const part = p.anyIdent();
  if (p.at(T.STRING) && first === T.WORD) return prefixedLiteral(p, part, start);
  if (p.at(T.NUMBER) && part.text[0] === "_" && p.dialect.syntax.introducers) {
    // _utf8mb4 0xE29883: bytes in a character set
    return { ...literal(p, "string", p.tokenText()), start };
  }
  if (!p.at(T.DOT) && !p.at(T.LPAREN)) {
    // A name without a dot is by far the commonest expression.
    if (p.at(T.OPERATOR)) {
      if (p.marked(Op.NOT) && p.dialect.syntax.bangNames) return bangPath(p, [part], start);
      if (p.marked(Op.AT) && p.dialect.syntax.remoteNames) return remoteName(p, [part], start);
      if (p.marked(Op.FAT_ARROW) && !p.dialect.syntax.namedArguments) {
        return { kind: "column", path: [part], outer: false, start, end: part.end };
      }
    }
    return { kind: "column", path: [part], outer: false, start, end: part.end };
  }
  let path = [part];
  while (p.at(T.DOT) || (p.at(T.OPERATOR) && p.marked(Op.NOT) && p.dialect.syntax.bangNames)) {
    // 1..last: the bounds of a loop, and no part of the name.
    if (p.peekKind(1) === T.DOT && !p.dialect.syntax.emptyNameParts) break;
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
  if (p.at(T.OPERATOR) && p.marked(Op.AT) && p.dialect.syntax.remoteNames) return remoteName(p, path, start);
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

/** `_utf8mb4'…'`, `berth_code '…'`: a literal of the type or character set that stands before it. */
function prefixedLiteral(p: Parser, word: Ident, start: number): Expr {
  const free = p.dialect.lexical.escapeStrings;
  if (!free && word.text[0] !== "_") return { kind: "column", path: [word], outer: false, start, end: word.end };
  return { ...literal(p, "string", stringValue(p)), start };
}
