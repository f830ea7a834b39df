import type { Dialect } from "../dialects/dialect.ts";
import { K, WORDS } from "../lexer/keywords.ts";
import { NameCache } from "../lexer/name-cache.ts";
import { BAD_REASON, type Bad, Op, T, type TokenList } from "../lexer/tokens.ts";
import type { Ident, Name, Problem } from "../nodes/tree.ts";
import { InnerTexts } from "./inner-text.ts";

/** How deep expressions, queries and blocks may nest before a statement is given up as unread. */
export const DEPTH_LIMIT = 800;

/**
 * Thrown once for a statement that cannot be read; the reader catches it and goes on after the
 * statement. It carries no stack trace, since taking one would dominate the cost of a bad script.
 */
export class ReadingStopped {
  readonly problem: Problem;
  constructor(problem: Problem) {
    this.problem = problem;
  }
}

/**
 * A cursor over the tokens of one window. The grammar files are functions over it; it knows tokens
 * and words, and nothing of statements.
 */
export class Parser {
  readonly dialect: Dialect;
  readonly tokens: TokenList;
  readonly #names = new NameCache();
  text = "";
  pos = 0;
  /** The current token's kind and its keyword or operator. */
  kind: T = T.EOF;
  kw: number = 0;
  depth = 0;
  /** The offset of the text's first character in the script. */
  base = 0;
  /** The kind of the token before the first one of the window. */
  before: T = T.BATCH;
  /** Set when the end of the window was looked at: with more text the answer might differ. */
  touchedEnd = false;
  /** The texts that variables are known to hold, any one of them and perhaps with gaps, by lower-cased name. */
  readonly texts = new Map<string, readonly string[]>();
  /** What variables are given inside branches that are being read. */
  given: Map<string, readonly string[]> | null = null;
  /** The texts within the script that are read as well; shared with the parsers that read them. */
  readonly inner: InnerTexts;
  /** The names under which statements have been prepared whose text is known. */
  readonly prepared = new Set<string>();
  /** Reading the body of a routine, where `;` ends an inner statement. */
  inRoutine = 0;
  /** Inside CREATE SCHEMA, where CREATE and GRANT begin its next element. */
  inSchema = false;

  constructor(dialect: Dialect, tokens: TokenList, inner = new InnerTexts()) {
    this.dialect = dialect;
    this.tokens = tokens;
    this.inner = inner;
  }

  reset(text: string, base: number, before: T = T.BATCH): void {
    this.text = text;
    this.base = base;
    this.before = before;
    this.touchedEnd = false;
    this.seek(0);
  }

  seek(pos: number): void {
    this.pos = pos;
    const tokens = this.tokens;
    if (pos < tokens.count) {
      const kind = tokens.kinds[pos];
      this.kind = kind;
      this.kw = tokens.marks[pos];
    } else {
      // Never beyond the end, so that what ends here has its range inside the text.
      this.pos = tokens.count;
      this.kind = T.EOF;
      this.kw = 0;
      this.touchedEnd = true;
    }
  }

  // `kind` and `mark` change under the caller's hands with every step, which the compiler cannot
  // know; asking through these two keeps it from narrowing them for good.

  /** Whether the current token is of this kind. */
  at(kind: T): boolean {
    return this.kind === kind;
  }

  /** Whether the current token, known to be a word or an operator, is this one. */
  marked(mark: K | Op): boolean {
    return this.kw === mark;
  }

  advance(): void {
    this.seek(this.pos + 1);
  }

  /** Where the current token begins, as an offset into the script. */
  get start(): number {
    return this.base + (this.pos < this.tokens.count ? this.tokens.starts[this.pos] : this.text.length);
  }

  /** Where the previous token ends. */
  get previousEnd(): number {
    return this.pos === 0 ? this.start : this.base + this.tokens.ends[this.pos - 1];
  }

  get tokenEnd(): number {
    return this.base + (this.pos < this.tokens.count ? this.tokens.ends[this.pos] : this.text.length);
  }

  /** The text of the current token. */
  tokenText(): string {
    if (this.pos >= this.tokens.count) return "";
    return this.#names.get(this.text, this.tokens.starts[this.pos], this.tokens.ends[this.pos]);
  }

  slice(start: number, end: number): string {
    return this.text.slice(start - this.base, end - this.base);
  }

  peekKind(ahead: number): T {
    const at = this.pos + ahead;
    if (at < this.tokens.count) return this.tokens.kinds[at];
    this.touchedEnd = true;
    return T.EOF;
  }

  peekMark(ahead: number): number {
    const at = this.pos + ahead;
    if (at < this.tokens.count) return this.tokens.marks[at];
    this.touchedEnd = true;
    return 0;
  }

  /** The text of the token that many places ahead; empty at the end. */
  wordAhead(ahead: number): string {
    const at = this.pos + ahead;
    if (at >= this.tokens.count) return "";
    return this.text.slice(this.tokens.starts[at], this.tokens.ends[at]);
  }

  /** Whether the current token is this word. */
  is(word: K): boolean {
    return this.kw === word && this.kind === T.WORD;
  }

  /** Whether the token that many places ahead is this word. */
  nextIs(word: K, ahead = 1): boolean {
    return this.peekKind(ahead) === T.WORD && this.peekMark(ahead) === word;
  }

  isOp(op: Op): boolean {
    return this.kw === op && this.kind === T.OPERATOR;
  }

  accept(word: K): boolean {
    if (this.kw !== word || this.kind !== T.WORD) return false;
    this.advance();
    return true;
  }

  /** Takes two words, or neither. */
  accept2(first: K, second: K): boolean {
    if (!this.is(first) || !this.nextIs(second)) return false;
    this.seek(this.pos + 2);
    return true;
  }

  acceptOp(op: Op): boolean {
    if (!this.isOp(op)) return false;
    this.advance();
    return true;
  }

  acceptKind(kind: T): boolean {
    if (this.kind !== kind) return false;
    this.advance();
    return true;
  }

  expect(word: K): void {
    if (!this.accept(word)) this.fail(WORDS[word]);
  }

  expectKind(kind: T, what: string): void {
    if (!this.acceptKind(kind)) this.fail(what);
  }

  /** Whether the token, taken as a word, is this one, for words that are no keywords here. */
  isText(word: string): boolean {
    if (this.kind !== T.WORD) return false;
    const start = this.tokens.starts[this.pos];
    if (this.tokens.ends[this.pos] - start !== word.length) return false;
    return this.tokenText().toUpperCase() === word;
  }

  acceptText(word: string): boolean {
    if (!this.isText(word)) return false;
    this.advance();
    return true;
  }

  fail(expected: string): never {
    const found =
      this.kind === T.EOF
        ? "the end of the script"
        : this.kind === T.BAD
          ? BAD_REASON[this.kw as Bad]
          : shown(this.tokenText());
    throw new ReadingStopped({ start: this.start, end: Math.max(this.tokenEnd, this.start), expected, found });
  }

  /** Counts one level of nesting; a statement that nests too deeply is given up. */
  enter(): void {
    if (++this.depth > DEPTH_LIMIT) this.fail(`no more than ${DEPTH_LIMIT} levels of nesting`);
  }

  leave(): void {
    this.depth--;
  }

  /** Whether the current token can be a name. */
  atName(): boolean {
    switch (this.kind) {
      case T.WORD:
        return this.kw === K.NONE || (this.dialect.wordClass[this.kw] & 1) === 0;
      case T.QUOTED:
      case T.HOLE:
        return true;
      case T.OPERATOR:
        return this.kw === Op.QUESTION;
      default:
        return false;
    }
  }

  /** Whether the current token can be an alias without AS. */
  atBareAlias(): boolean {
    if (this.kind !== T.WORD) return this.kind === T.QUOTED;
    if (this.kw === K.NONE) return true;
    // FOR r IN SELECT … FROM vessel LOOP
    if (this.inRoutine > 0 && (this.kw === K.LOOP || this.kw === K.DO)) return false;
    return this.dialect.wordClass[this.kw] === 0;
  }

  ident(what: string): Ident {
    if (!this.atName()) this.fail(what);
    return this.anyIdent();
  }

  /** A name after a dot or after AS, where every word is allowed. */
  label(what: string): Ident {
    if (this.kind === T.WORD || this.kind === T.STRING) return this.anyIdent();
    if (this.kind === T.VARIABLE) return this.anyIdent();
    return this.ident(what);
  }

  anyIdent(): Ident {
    const start = this.start;
    const raw = this.tokenText();
    const kind = this.kind;
    this.advance();
    if (kind === T.QUOTED || kind === T.STRING) {
      if (this.is(K.UESCAPE) && this.peekKind(1) === T.STRING && /^[uU]&/.test(raw)) this.seek(this.pos + 2);
      return { start, end: start + raw.length, text: unquote(raw), quoted: true, hole: false };
    }
    return { start, end: start + raw.length, text: raw, quoted: false, hole: kind === T.HOLE };
  }

  /** A dotted name. `..` stands for an omitted part (tsql). */
  name(what: string): Name {
    const start = this.start;
    let parts = [this.kind === T.STRING || this.kind === T.VARIABLE ? this.label(what) : this.ident(what)];
    while (this.kind === T.DOT) {
      this.advance();
      // harbour..berth: the schema is left out.
      const part =
        this.kind === T.DOT
          ? this.noPart()
          : this.kind === T.STAR
            ? this.starPart()
            : this.label("a name after the dot");
      if (parts.length === 1) parts = [parts[0], part];
      else parts.push(part);
    }
    let link: Ident | null = null;
    // vessel@archive: a table behind a database link.
    if (this.kind === T.OPERATOR && this.kw === Op.AT && this.dialect.syntax.remoteNames) {
      this.advance();
      link = this.name("the name of a database link").parts[0];
    }
    return { kind: "name", start, end: this.previousEnd, parts, link };
  }

  noPart(): Ident {
    return { start: this.start, end: this.start, text: "", quoted: false, hole: false };
  }

  starPart(): Ident {
    const start = this.start;
    this.advance();
    return { start, end: start + 1, text: "*", quoted: false, hole: false };
  }

  /** Names in parentheses, the opening one being the current token. */
  identList(what: string): Ident[] {
    this.expectKind(T.LPAREN, "(");
    const list = [this.label(what)];
    while (this.acceptKind(T.COMMA)) list.push(this.label(what));
    this.expectKind(T.RPAREN, ") or ,");
    return list;
  }

  /** Skips from an opening parenthesis to after the one that closes it. */
  skipParens(): void {
    let depth = 0;
    do {
      if (this.kind === T.LPAREN) depth++;
      else if (this.kind === T.RPAREN) depth--;
      else if (this.kind === T.EOF || this.kind === T.DELIMITER || this.kind === T.BATCH || this.kind === T.BAD)
        this.fail(")");
      this.advance();
    } while (depth > 0);
  }

  /** Whether the statement ends here. */
  atEnd(): boolean {
    switch (this.kind) {
      case T.EOF:
      case T.SEMICOLON:
      case T.DELIMITER:
      case T.BATCH:
        return true;
      default:
        return false;
    }
  }

  /** Whether the current token is the first one on its line. */
  firstOnLine(pos = this.pos): boolean {
    if (pos >= this.tokens.count) return false;
    const end = this.tokens.starts[pos];
    const from = pos === 0 ? 0 : this.tokens.ends[pos - 1];
    if (pos === 0) return true;
    // Only what lies between the two tokens is looked at: a line may be as long as the script.
    for (let at = from; at < end; at++) if (this.text.charCodeAt(at) === 10) return true;
    return false;
  }
}

/** A token as an error message shows it: quoted, and cut when it is long. */
function shown(text: string): string {
  const line = text.split("\n", 1)[0];
  return line.length > 40 ? `"${line.slice(0, 37)}…"` : `"${line}"`;
}

/** The name inside quotes, doubled quotes undone. */
export function unquote(raw: string): string {
  let text = raw;
  if (/^[uU]&/.test(text)) text = text.slice(2);
  const close = text[text.length - 1];
  const inner = text.slice(1, -1);
  return inner.includes(close) ? inner.replaceAll(close + close, close) : inner;
}
