import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Parser } from "../reading/parser.ts";

/** Words after which a name stands: STORAGE main, ON [PRIMARY], USING btree. */
const BEFORE_NAMES: ReadonlySet<number> = new Set([
  K.STORAGE,
  K.COMPRESSION,
  K.TABLESPACE,
  K.INDEX,
  K.USING,
  K.ON,
  K.BY,
  K.INTO,
  K.IS,
  K.IN,
  K.DOMAIN,
  K.SET,
  K.CONFLICT,
  K.PARSER,
  K.TO,
  K.FORMAT,
  K.FOR,
  K.CONSTRAINT,
  K.WITH,
]);

/**
 * Passes one word of a clause of a column or a constraint that means nothing to us, and stops at one that means nothing
 * to the engine either: NOT NUL, DEFALT 0.
 */
export function passClauseWord(p: Parser): void {
  if (p.at(T.WORD) && p.marked(K.NONE) && !mayStand(p)) p.fail("a clause of the column or the constraint");
  p.advance();
}

function mayStand(p: Parser): boolean {
  const { clauseWords } = p.dialect.grammar;
  if (clauseWords.has(p.wordAhead(0).toLowerCase())) return true;
  if (p.peekKind(1) === T.OPERATOR && p.peekMark(1) === Op.EQ) return true;
  const before = p.pos - 1;
  switch (p.tokens.kinds[before]) {
    case T.WORD: {
      const word = p.tokens.marks[before];
      return word === K.NONE ? clauseWords.has(p.wordAhead(-1).toLowerCase()) : BEFORE_NAMES.has(word);
    }
    case T.OPERATOR:
    case T.DOT:
    case T.VARIABLE:
      return true;
    default:
      return false;
  }
}

/** What Oracle's USING INDEX and what follows it say of the index; the rest of the constraint is kept as text. */
export function passIndexAttributes(p: Parser): void {
  while (!p.at(T.COMMA) && !p.at(T.RPAREN) && !p.atEnd()) {
    if (p.at(T.BAD)) p.fail(") or ,");
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
}
