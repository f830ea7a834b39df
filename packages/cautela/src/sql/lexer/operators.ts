import type { Dialect } from "../dialects/dialect.ts";
import { C, classes, isDigit, isSpecial } from "./characters.ts";
import { Op, T, type TokenList } from "./tokens.ts";

/** The longest operator at `at`; adds its token and returns its end. */
export function addOperator(tokens: TokenList, dialect: Dialect, text: string, at: number): number {
  if (dialect.lexical.freeOperators) return addFreeOperator(tokens, text, at);
  const code = text.charCodeAt(at);
  const next = text.charCodeAt(at + 1);
  let op = Op.OTHER;
  let width = 1;
  switch (code) {
    case 61: // =
      if (next === 62) [op, width] = [Op.FAT_ARROW, 2];
      else if (next === 61) [op, width] = [Op.EQ, 2];
      else if (next === 60 || next === 42) op = Op.EQ;
      else op = Op.EQ;
      break;
    case 60: // <
      if (next === 61 && text.charCodeAt(at + 2) === 62) [op, width] = [Op.NULL_SAFE, 3];
      else if (next === 61) [op, width] = [Op.LE, 2];
      else if (next === 62) [op, width] = [Op.NE, 2];
      else if (next === 60) [op, width] = [Op.SHIFT_LEFT, 2];
      else op = Op.LT;
      break;
    case 62: // >
      if (next === 61) [op, width] = [Op.GE, 2];
      else if (next === 62) [op, width] = [Op.SHIFT_RIGHT, 2];
      else op = Op.GT;
      break;
    case 33: // !
      if (next === 61) [op, width] = [Op.NE, 2];
      else if (next === 60) [op, width] = [Op.GE, 2];
      else if (next === 62) [op, width] = [Op.LE, 2];
      else op = Op.NOT;
      break;
    case 94: // ^
      if (next === 61) [op, width] = [dialect.syntax.caretNotEquals ? Op.NE : Op.PLUS_EQ, 2];
      else op = Op.CARET;
      break;
    case 126: // ~
      if (next === 61 && dialect.syntax.caretNotEquals) [op, width] = [Op.NE, 2];
      else op = Op.TILDE;
      break;
    case 43:
      if (next === 61) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.PLUS;
      break;
    case 45:
      if (next === 62) {
        if (text.charCodeAt(at + 2) === 62) [op, width] = [Op.ARROW2, 3];
        else [op, width] = [Op.ARROW, 2];
      } else if (next === 61) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.MINUS;
      break;
    case 42: // *
      if (next === 42 && dialect.syntax.caretNotEquals) [op, width] = [Op.POWER, 2];
      else if (next === 61 && dialect.syntax.bitAssignments) [op, width] = [Op.PLUS_EQ, 2];
      else {
        tokens.add(T.STAR, 0, at, at + 1);
        return at + 1;
      }
      break;
    case 47:
      if (next === 61 && dialect.syntax.bitAssignments) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.SLASH;
      break;
    case 37:
      if (next === 61 && dialect.syntax.bitAssignments) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.PERCENT;
      break;
    case 124: // |
      if (next === 124) [op, width] = [Op.CONCAT, 2];
      else if (next === 61) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.PIPE;
      break;
    case 38: // &
      if (next === 38) [op, width] = [Op.AND2, 2];
      else if (next === 61) [op, width] = [Op.PLUS_EQ, 2];
      else op = Op.AMPERSAND;
      break;
    case 63:
      op = Op.QUESTION;
      // ?1 (sqlite)
      while (isDigit(text.charCodeAt(at + width))) width++;
      tokens.add(T.HOLE, 0, at, at + width);
      return at + width;
    case 64:
      op = Op.AT;
      break;
    case 35:
      op = Op.HASH;
      break;
    default:
  }
  tokens.add(T.OPERATOR, op, at, at + width);
  return at + width;
}

/** PostgreSQL's rule for operators (manual 4.1.3): the longest run, less a trailing + or -. */
function addFreeOperator(tokens: TokenList, text: string, at: number): number {
  let end = at + 1;
  let special = isSpecial(text.charCodeAt(at));
  for (;;) {
    const code = text.charCodeAt(end);
    if (!(code < 128) || classes[code] !== C.OPERATOR) break;
    const next = text.charCodeAt(end + 1);
    if ((code === 45 && next === 45) || (code === 47 && next === 42)) break;
    if (isSpecial(code)) special = true;
    end++;
  }
  if (!special) {
    while (end > at + 1) {
      const last = text.charCodeAt(end - 1);
      if (last !== 43 && last !== 45) break;
      end--;
    }
  }
  const op = freeOperatorMark(text, at, end);
  if (op === Op.NONE) tokens.add(T.STAR, 0, at, end);
  else tokens.add(T.OPERATOR, op, at, end);
  return end;
}

/** The {@link Op} of a run of operator characters; `NONE` for a lone star. */
function freeOperatorMark(text: string, at: number, end: number): Op {
  const code = text.charCodeAt(at);
  if (end - at === 1) {
    switch (code) {
      case 42:
        return Op.NONE;
      case 61:
        return Op.EQ;
      case 60:
        return Op.LT;
      case 62:
        return Op.GT;
      case 43:
        return Op.PLUS;
      case 45:
        return Op.MINUS;
      case 47:
        return Op.SLASH;
      case 37:
        return Op.PERCENT;
      case 94:
        return Op.CARET;
      case 63:
        return Op.QUESTION;
      default:
        return Op.OTHER;
    }
  }
  if (end - at === 2) {
    const next = text.charCodeAt(at + 1);
    if (code === 60 && next === 62) return Op.NE;
    if (code === 33 && next === 61) return Op.NE;
    if (code === 60 && next === 61) return Op.LE;
    if (code === 62 && next === 61) return Op.GE;
    if (code === 61 && next === 62) return Op.FAT_ARROW;
    if (code === 124 && next === 124) return Op.CONCAT;
    if (code === 45 && next === 62) return Op.ARROW;
  }
  return Op.OTHER;
}
