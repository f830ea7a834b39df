import { K } from "./keywords.ts";

/** What a token is. The names of words are in `keywords.ts`, of operators in {@link Op}. */
export const enum T {
  EOF = 0,
  /** An unquoted word: a keyword, a name, or both. */
  WORD,
  /** A quoted name: `"x"`, `` `x` `` or `[x]`. */
  QUOTED,
  STRING,
  NUMBER,
  /** A place left open: `?`, `$1`, `:name`, `&name`, `${name}`, `{{name}}`, `%s`, `@name@`. */
  HOLE,
  /** `@name`, `@@name`. */
  VARIABLE,
  OPERATOR,
  STAR,
  LPAREN,
  RPAREN,
  LBRACKET,
  RBRACKET,
  LBRACE,
  RBRACE,
  COMMA,
  DOT,
  COLON,
  /** `;` */
  SEMICOLON,
  /** A terminator that a client directive has chosen (`DELIMITER //`), or `\g`, `\G` and their like. */
  DELIMITER,
  /** `GO`, alone on its line, or `/` alone on its line: ends a batch, whatever is open. */
  BATCH,
  /** A line for the client and not for the server. */
  DIRECTIVE,
  /** Rows that follow COPY … FROM STDIN. */
  DATA,
  /** A string, quoted name or comment that is never closed, or a character that means nothing. */
  BAD,
}

/** Operators that the grammar tells apart; any other run of operator characters is `OTHER`. */
export const enum Op {
  NONE = 0,
  EQ,
  LT,
  GT,
  LE,
  GE,
  NE,
  NULL_SAFE,
  PLUS,
  MINUS,
  SLASH,
  PERCENT,
  CARET,
  CONCAT,
  AND2,
  AMPERSAND,
  PIPE,
  TILDE,
  HASH,
  SHIFT_LEFT,
  SHIFT_RIGHT,
  ARROW,
  ARROW2,
  CAST,
  ASSIGN,
  FAT_ARROW,
  NOT,
  QUESTION,
  AT,
  POWER,
  PLUS_EQ,
  BACKSLASH,
  OTHER,
}

/** Why a {@link T.BAD} token is bad; kept in the token's keyword slot. */
export const enum Bad {
  CHARACTER = 1,
  STRING,
  NAME,
  COMMENT,
  DOLLAR,
}

export const BAD_REASON: Record<Bad, string> = {
  [Bad.CHARACTER]: "a character that has no meaning here",
  [Bad.STRING]: "a string that is never closed",
  [Bad.NAME]: "a quoted name that is never closed",
  [Bad.COMMENT]: "a comment that is never closed",
  [Bad.DOLLAR]: "a dollar-quoted string that is never closed",
};

/** Room for the tokens of a short text; it grows. */
const FEW = 256;

/**
 * The tokens of one window of a script, as parallel arrays. An object for each token would cost
 * more than all the rest of the reading.
 */
export class TokenList {
  count = 0;
  kinds = new Uint8Array(FEW);
  /** A keyword of `K` for words, an {@link Op} for operators, a {@link Bad} for bad tokens. */
  marks = new Uint16Array(FEW);
  starts = new Int32Array(FEW);
  ends = new Int32Array(FEW);
  commentCount = 0;
  commentStarts = new Int32Array(FEW / 16);
  commentEnds = new Int32Array(FEW / 16);

  clear(): void {
    this.count = 0;
    this.commentCount = 0;
  }

  add(kind: T, mark: number, start: number, end: number): void {
    const i = this.count;
    if (i === this.kinds.length) this.#grow();
    this.kinds[i] = kind;
    this.marks[i] = mark;
    this.starts[i] = start;
    this.ends[i] = end;
    this.count = i + 1;
  }

  addComment(start: number, end: number): void {
    const i = this.commentCount;
    if (i === this.commentStarts.length) {
      this.commentStarts = grown(this.commentStarts);
      this.commentEnds = grown(this.commentEnds);
    }
    this.commentStarts[i] = start;
    this.commentEnds[i] = end;
    this.commentCount = i + 1;
  }

  #grow(): void {
    const kinds = new Uint8Array(this.kinds.length * 2);
    kinds.set(this.kinds);
    this.kinds = kinds;
    const marks = new Uint16Array(this.marks.length * 2);
    marks.set(this.marks);
    this.marks = marks;
    this.starts = grown(this.starts);
    this.ends = grown(this.ends);
  }
}

function grown(old: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> {
  const next = new Int32Array(old.length * 2);
  next.set(old);
  return next;
}

/** Whether the last token ends an operand, so that an operator and not a hole or number follows. */
export function endsOperand(tokens: TokenList): boolean {
  if (tokens.count === 0) return false;
  const last = tokens.count - 1;
  switch (tokens.kinds[last]) {
    case T.WORD:
      return tokens.marks[last] === K.NONE;
    case T.QUOTED:
    case T.STRING:
    case T.NUMBER:
    case T.HOLE:
    case T.VARIABLE:
    case T.RPAREN:
    case T.RBRACKET:
      return true;
    default:
      return false;
  }
}
