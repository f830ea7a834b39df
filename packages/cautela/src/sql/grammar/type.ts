import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { TypeName } from "../nodes/tree.ts";
import { type Parser, unquote } from "../reading/parser.ts";

/** The name of a data type with its arguments and modifiers. */
export function typeName(p: Parser): TypeName {
  const start = p.start;
  if (p.is(K.SETOF)) p.advance();
  const name = typeWords(p);
  const args: string[] = [];
  let array = false;
  if (p.at(T.LPAREN)) typeArgs(p, args);
  const modifiersStart = p.start;
  let modifiersEnd = modifiersStart;
  for (;;) {
    if (p.at(T.LBRACKET)) {
      p.advance();
      p.acceptKind(T.NUMBER);
      p.expectKind(T.RBRACKET, "]");
      array = true;
      continue;
    }
    // With brackets as quotes, `int[]` and `int[3]` arrive as quoted names.
    if (!p.at(T.WORD) && !p.at(T.OPERATOR)) break;
    if (p.at(T.OPERATOR)) {
      // vessel.name%TYPE, vessel%ROWTYPE
      if (!p.marked(Op.PERCENT) || !(p.nextIs(K.TYPE) || p.nextIs(K.ROWTYPE))) break;
      p.seek(p.pos + 2);
    } else if ((p.is(K.WITH) || p.is(K.WITHOUT)) && (p.nextIs(K.TIME) || (p.nextIs(K.LOCAL) && p.nextIs(K.TIME, 2)))) {
      p.seek(p.pos + (p.nextIs(K.LOCAL) ? 4 : 3));
    } else if (p.is(K.UNSIGNED) || p.is(K.SIGNED) || p.is(K.ZEROFILL) || p.is(K.VARYING)) {
      p.advance();
      if (p.at(T.LPAREN)) typeArgs(p, args);
    } else if (p.is(K.CHARACTER) && p.nextIs(K.SET)) {
      p.seek(p.pos + 2);
      if (p.isOp(Op.EQ)) p.advance();
      p.label("a character set");
    } else if (p.is(K.CHARSET) && p.dialect.syntax.charsetWord) {
      p.advance();
      p.label("a character set");
    } else if (p.is(K.ARRAY) && p.dialect.syntax.arrayTypes) {
      p.advance();
      array = true;
    } else if (isIntervalField(p)) {
      p.advance();
      if (p.at(T.LPAREN)) p.skipParens();
      if (p.accept(K.TO)) {
        p.advance();
        if (p.at(T.LPAREN)) p.skipParens();
      }
    } else break;
    modifiersEnd = p.previousEnd;
  }
  const modifiers = modifiersEnd > modifiersStart ? p.slice(modifiersStart, modifiersEnd).toLowerCase() : "";
  return { kind: "type", name, args, array, modifiers, start, end: p.previousEnd };
}

/** INTERVAL DAY TO SECOND as a type: the fields stand after the word. */
function isIntervalField(p: Parser): boolean {
  const before = p.tokens.marks[p.pos - 1];
  if (p.tokens.kinds[p.pos - 1] !== T.WORD || before !== K.INTERVAL) return false;
  return p.is(K.YEAR) || p.is(K.MONTH) || p.is(K.DAY) || p.is(K.HOUR) || p.is(K.MINUTE) || p.is(K.SECOND);
}

function typeArgs(p: Parser, args: string[]): void {
  p.advance();
  let from = p.start;
  while (!p.at(T.RPAREN)) {
    if (p.at(T.COMMA)) {
      args.push(argument(p, from));
      p.advance();
      from = p.start;
    } else if (p.at(T.LPAREN)) p.skipParens();
    else if (p.atEnd() || p.at(T.BAD)) p.fail(")");
    else p.advance();
  }
  if (p.start > from) args.push(argument(p, from));
  p.advance();
}

function argument(p: Parser, from: number): string {
  const raw = p.slice(from, p.previousEnd);
  return raw[0] === "'" || raw[0] === '"' ? unquote(raw) : raw;
}

function typeWords(p: Parser): string {
  const first = p.at(T.STRING) ? p.fail("a type") : typeWord(p);
  let name = first;
  while (p.at(T.DOT)) {
    p.advance();
    name += `.${p.label("a type").text.toLowerCase()}`;
  }
  // Names of two or three words.
  if (first === "double" && p.accept(K.PRECISION)) return "double precision";
  if (
    first === "long" &&
    !p.dialect.syntax.freeTypes &&
    p.at(T.WORD) &&
    !p.is(K.NOT) &&
    !p.is(K.DEFAULT) &&
    !p.is(K.NULL)
  ) {
    if (p.is(K.RAW) || p.is(K.VARCHAR) || p.is(K.VARBINARY) || p.is(K.CHAR)) {
      name += ` ${p.tokenText().toLowerCase()}`;
      p.advance();
      if (p.accept(K.VARYING)) name += " varying";
    }
    return name;
  }
  if (first === "national") {
    name += ` ${typeWord(p)}`;
    if (p.accept(K.VARYING)) name += " varying";
    return name;
  }
  if (
    (first === "character" || first === "char" || first === "nchar" || first === "bit" || first === "binary") &&
    p.is(K.VARYING)
  ) {
    p.advance();
    return `${name} varying`;
  }
  if ((first === "character" || first === "binary" || first === "char") && p.isText("LARGE")) {
    p.advance();
    p.accept(K.OBJECT);
    return `${name} large object`;
  }
  // sqlite takes any words for a type.
  if (p.dialect.syntax.freeTypes) {
    while (p.at(T.WORD) && !isColumnWord(p.kw) && (p.dialect.wordClass[p.kw] & 1) === 0) {
      name += ` ${p.tokenText().toLowerCase()}`;
      p.advance();
    }
  }
  return name;
}

function isColumnWord(word: K): boolean {
  return word === K.GENERATED || word === K.AS || word === K.REFERENCES || word === K.WITHOUT;
}

function typeWord(p: Parser): string {
  if (p.at(T.WORD) || p.at(T.QUOTED) || p.at(T.HOLE)) {
    if (p.at(T.WORD) && (p.is(K.SELECT) || p.is(K.FROM) || p.is(K.WHERE))) p.fail("a type");
    const word = p.anyIdent();
    return word.quoted ? word.text : word.text.toLowerCase();
  }
  return p.fail("a type");
}
