import type { Dialect } from "../dialects/dialect.ts";
import { C, classes, isDigit, isWideSpace, isWordPart, isWordStart, onlyBlanksBefore } from "./characters.ts";
import { addBackslash, directiveEnd, isLoneDot, lineEnd } from "./directives.ts";
import { K } from "./keywords.ts";
import { addOperator } from "./operators.ts";
import {
  atHoleEnd,
  batchEnd,
  copyDataEnd,
  dollarTagEnd,
  holeEnd,
  holeWordEnd,
  isNumberWord,
  numberEnd,
  percentHoleEnd,
  stringEnd,
} from "./token-ends.ts";
import { Bad, endsOperand, Op, T, TokenList } from "./tokens.ts";
import { hashStep, keywordAt } from "./words.ts";

/** After this many constructs without an end the lexer stops looking for the end of further ones. */
const UNCLOSED_LIMIT = 16;

/** What holds at the end of a statement, for whatever comes after it. */
export interface LexerState {
  /** The delimiter that a `DELIMITER` directive has chosen; `;` if none. */
  delimiter: string;
  /** Inside the executed text of a conditional comment. */
  conditional: boolean;
  /** Inside the rows after COPY … FROM STDIN. */
  inData: boolean;
  /** Whether a statement could begin here, so that a line may be one for the client program. */
  fresh: boolean;
}

/**
 * Cuts text into tokens, window by window. What must be remembered from one window to the next
 * (the delimiter chosen by the client, an open conditional comment) is its state.
 */
export class Lexer {
  readonly tokens = new TokenList();
  readonly dialect: Dialect;
  /** The delimiter that a `DELIMITER` directive has chosen; `;` if none. */
  delimiter = ";";
  /** Inside the executed text of a conditional comment. */
  #conditional = false;
  /** Where the executed text of conditional comments began and ended, by turns. */
  readonly #turns: number[] = [];
  /** Inside the rows after COPY … FROM STDIN. */
  #inData = false;
  #fresh = true;
  #unclosed = 0;
  #wordExtra: Uint8Array;

  constructor(dialect: Dialect) {
    this.dialect = dialect;
    this.#wordExtra = new Uint8Array(128);
    for (const character of dialect.lexical.wordCharacters) this.#wordExtra[character.charCodeAt(0)] = 1;
  }

  /** Whether the text ended among the rows after COPY … FROM STDIN, so that more of them may follow. */
  get inData(): boolean {
    return this.#inData;
  }

  /** Whether `offset`, of the text that was scanned last, lies in the executed text of a conditional comment. */
  conditionalAt(offset: number): boolean {
    let inside = this.#conditional;
    for (let i = this.#turns.length - 1; i >= 0 && this.#turns[i] > offset; i--) inside = !inside;
    return inside;
  }

  /** Makes ready to read from the end of a statement on, with what held there. */
  rewind({ delimiter, conditional, inData, fresh }: LexerState): void {
    this.delimiter = delimiter;
    this.#conditional = conditional;
    this.#turns.length = 0;
    this.#inData = inData;
    this.#fresh = fresh;
  }

  /**
   * Fills {@link tokens} from `from` on, and stops after the first token that begins at or after
   * `until`. With `final` false a token that touches the end of the text is left out, since more of
   * it may follow.
   *
   * It is one long loop, a case for each kind of character, because it runs for each token of a script: its offset and
   * the token stay in variables, and no method hands them back.
   *
   * @returns the offset after the last token or comment
   */
  scan(text: string, from: number, until: number, final: boolean): number {
    const tokens = this.tokens;
    tokens.clear();
    const { lexical } = this.dialect;
    const extra = this.#wordExtra;
    const length = text.length;
    const psql = lexical.client === "psql";
    const sqlplus = lexical.client === "sqlplus";
    let line = false;
    let at = from;
    // Whether a statement could begin here, and whether only blanks precede on this line.
    let fresh = this.#fresh;
    let lineStart = from === 0 || text.charCodeAt(from - 1) === 10 || onlyBlanksBefore(text, from);
    // COPY … FROM STDIN is followed by data; 1: seen COPY, 2: seen FROM STDIN.
    let copy = 0;
    if (this.#inData) at = this.#data(text, at, final);

    while (at < length && at < until) {
      const start = at;
      const code = text.charCodeAt(at);
      const kind = code < 128 ? classes[code] : C.WORD;

      if (kind === C.SPACE) {
        if (code === 10) {
          lineStart = true;
          if (line) fresh = true;
          line = false;
        }
        at++;
        continue;
      }
      if (code > 127 && isWideSpace(code)) {
        at++;
        continue;
      }

      // Lines for the client, and separators that stand alone on their line.
      if (lineStart) {
        lineStart = false;
        if (fresh || lexical.client === "sqlcmd") {
          const end = directiveEnd(text, at, lexical.client);
          if (end >= 0) {
            if (!final && end === length) return start;
            tokens.add(T.DIRECTIVE, 0, start, end);
            at = end;
            continue;
          }
          if (lexical.client === "mysql-client" && (code | 32) === 100) {
            const end = this.#delimiterDirective(text, at);
            if (end >= 0) {
              if (!final && end === length) return start;
              tokens.add(T.DIRECTIVE, 0, start, end);
              at = end;
              continue;
            }
          }
        }
        const end = batchEnd(text, at, lexical.client);
        if (end >= 0) {
          if (!final && end >= length - 1) return start;
          tokens.add(T.BATCH, 0, start, end);
          at = end;
          fresh = true;
          continue;
        }
      }

      if (this.delimiter !== ";" && text.startsWith(this.delimiter, at)) {
        at += this.delimiter.length;
        tokens.add(T.DELIMITER, 0, start, at);
        fresh = true;
        continue;
      }

      if (kind === C.WORD || (code < 128 && extra[code] === 1 && code !== 64 && code !== 36 && code !== 35)) {
        // Prefixed literals: E'…', B'…', X'…', N'…', U&'…', q'[…]'.
        const next = text.charCodeAt(at + 1);
        if (next === 39 || (next === 38 && lexical.escapeStrings)) {
          const end = this.#prefixedString(text, at, code | 32);
          if (end !== 0) {
            const close = Math.abs(end);
            if (!final && close >= length) return start;
            if (end < 0) this.#bad(text, start, Bad.STRING);
            else tokens.add(next === 38 && text[at + 2] === '"' ? T.QUOTED : T.STRING, 0, start, close);
            at = end < 0 ? lineEnd(text, start) : close;
            fresh = false;
            continue;
          }
        } else if (
          (code | 32) === 110 &&
          (next | 32) === 113 &&
          text.charCodeAt(at + 2) === 39 &&
          lexical.alternativeQuotes
        ) {
          const close = this.#alternativeQuote(text, at + 2);
          if (!final && Math.abs(close) >= length) return start;
          if (close < 0) this.#bad(text, start, Bad.STRING);
          else tokens.add(T.STRING, 0, start, close);
          at = close < 0 ? lineEnd(text, start) : close;
          fresh = false;
          continue;
        }
        let hash = 0;
        let hole = false;
        let ascii = true;
        for (;;) {
          let c = text.charCodeAt(at);
          if (c < 128) {
            const cc = classes[c];
            if (cc === C.WORD) {
              if (c <= 90 && c !== 95) c |= 32;
              hash = hashStep(hash, c);
              at++;
            } else if (cc === C.DIGIT) {
              hash = hashStep(hash, c);
              at++;
            } else if (
              (c === 36 || c === 123 || c === 38) &&
              (c !== 38 || (lexical.ampersandHoles && isWordStart(text.charCodeAt(at + 1)))) &&
              holeEnd(text, at, lexical.parenHoles) > 0
            ) {
              hole = true;
              at = holeEnd(text, at, lexical.parenHoles);
            } else if (extra[c] === 1) {
              // `END$$` where `$$` is the chosen delimiter
              if (this.delimiter !== ";" && text.startsWith(this.delimiter, at)) break;
              ascii = false;
              at++;
            } else break;
          } else if (c === c && !isWideSpace(c)) {
            ascii = false;
            at++;
          } else break;
        }
        if (!final && at === length) return start;
        const word = ascii && !hole ? keywordAt(text, start, at, hash) : K.NONE;
        tokens.add(hole ? T.HOLE : T.WORD, word, start, at);
        if (fresh) {
          copy = psql && word === K.COPY ? 1 : 0;
          // EXEC of Oracle's shell is one line and needs no terminator.
          line =
            sqlplus && (word === K.EXEC || (word === K.EXECUTE && !/^\s+immediate\b/i.test(text.slice(at, at + 20))));
        }
        if (copy === 1 && word === K.STDIN && tokens.marks[tokens.count - 2] === K.FROM) copy = 2;
        fresh = false;
        continue;
      }

      if (kind === C.DIGIT || (code === 46 && isDigit(text.charCodeAt(at + 1)) && !endsOperand(tokens))) {
        at = numberEnd(text, at);
        // `1st_berth` is a word in dialects whose names may begin with a digit.
        if (lexical.backticks && lexical.backslashEscapes && isWordStart(text.charCodeAt(at)) && code !== 46) {
          const dotted = text.slice(start, at).includes(".");
          if (!dotted) {
            while (at < length && isWordPart(text.charCodeAt(at))) at++;
            if (!final && at === length) return start;
            tokens.add(isNumberWord(text, start, at) ? T.NUMBER : T.WORD, 0, start, at);
            fresh = false;
            continue;
          }
        }
        if (!final && at === length) return start;
        tokens.add(T.NUMBER, 0, start, at);
        fresh = false;
        continue;
      }

      switch (code) {
        case 39: {
          // '
          const close = stringEnd(text, at + 1, 39, lexical.backslashEscapes);
          if (close === 0 || (!final && close >= length)) {
            if (!final) return start;
            at = this.#bad(text, start, Bad.STRING);
          } else {
            tokens.add(T.STRING, 0, start, close);
            at = close;
          }
          fresh = false;
          continue;
        }
        case 34: {
          // "
          const text34 = lexical.doubleQuoteIsString;
          const close = stringEnd(text, at + 1, 34, text34 && lexical.backslashEscapes);
          if (close === 0 || (!final && close >= length)) {
            if (!final) return start;
            at = this.#bad(text, start, text34 ? Bad.STRING : Bad.NAME);
          } else {
            tokens.add(text34 ? T.STRING : T.QUOTED, 0, start, close);
            at = close;
          }
          fresh = false;
          continue;
        }
        case 96: {
          // `
          if (!lexical.backticks) break;
          const close = stringEnd(text, at + 1, 96, false);
          if (close === 0 || (!final && close >= length)) {
            if (!final) return start;
            at = this.#bad(text, start, Bad.NAME);
          } else {
            tokens.add(T.QUOTED, 0, start, close);
            at = close;
          }
          fresh = false;
          continue;
        }
        case 91: {
          // [
          if (lexical.brackets) {
            const close = stringEnd(text, at + 1, 93, false);
            if (close === 0 || (!final && close >= length)) {
              if (!final) return start;
              at = this.#bad(text, start, Bad.NAME);
            } else {
              tokens.add(T.QUOTED, 0, start, close);
              at = close;
            }
          } else tokens.add(T.LBRACKET, 0, start, ++at);
          fresh = false;
          continue;
        }
        case 93:
          tokens.add(T.RBRACKET, 0, start, ++at);
          continue;
        case 40:
          tokens.add(T.LPAREN, 0, start, ++at);
          fresh = false;
          continue;
        case 41:
          tokens.add(T.RPAREN, 0, start, ++at);
          fresh = false;
          continue;
        case 44:
          tokens.add(T.COMMA, 0, start, ++at);
          fresh = false;
          continue;
        case 46:
          if (lexical.client === "sqlplus" && isLoneDot(text, at)) {
            at++;
            continue;
          }
          tokens.add(T.DOT, 0, start, ++at);
          fresh = false;
          continue;
        case 59: {
          // ;
          tokens.add(T.SEMICOLON, 0, start, ++at);
          fresh = true;
          if (copy === 2) {
            this.#inData = true;
            at = this.#data(text, Math.min(lineEnd(text, at) + 1, length), final);
            lineStart = true;
          }
          copy = 0;
          continue;
        }
        case 58: {
          // :
          const next = text.charCodeAt(at + 1);
          if (next === 58) {
            at += 2;
            tokens.add(T.OPERATOR, Op.CAST, start, at);
          } else if (next === 61) {
            at += 2;
            tokens.add(T.OPERATOR, Op.ASSIGN, start, at);
          } else if (
            // `done:BEGIN` is a label (mysql).
            (isWordStart(next) && !(lexical.hashComments && isWordPart(text.charCodeAt(start - 1)))) ||
            (isDigit(next) && lexical.client === "sqlplus")
          ) {
            at++;
            while (at < length && isWordPart(text.charCodeAt(at))) at++;
            if (!final && at === length) return start;
            tokens.add(T.HOLE, 0, start, at);
          } else if (psql && (next === 39 || next === 34)) {
            const close = stringEnd(text, at + 2, next, false);
            if (close === 0) {
              if (!final) return start;
              at = this.#bad(text, start, Bad.STRING);
            } else {
              tokens.add(T.HOLE, 0, start, close);
              at = close;
            }
          } else tokens.add(T.COLON, 0, start, ++at);
          fresh = false;
          continue;
        }
        case 92: {
          // backslash: a command of the client, or its terminator
          if (psql || lexical.client === "mysql-client") {
            if (!final && at + 2 >= length) return start;
            const end = addBackslash(tokens, text, at, psql, fresh);
            if (!final && end === length) return start;
            if (tokens.kinds[tokens.count - 1] === T.DELIMITER) fresh = true;
            at = end;
            continue;
          }
          tokens.add(T.OPERATOR, Op.BACKSLASH, start, ++at);
          continue;
        }
        case 123: {
          // {
          const end = holeEnd(text, at, false);
          if (end > 0) {
            at = holeWordEnd(text, end);
            tokens.add(T.HOLE, 0, start, at);
          } else tokens.add(T.LBRACE, 0, start, ++at);
          fresh = false;
          continue;
        }
        case 125:
          tokens.add(T.RBRACE, 0, start, ++at);
          continue;
        case 36: {
          // $
          const hole = holeEnd(text, at, lexical.parenHoles);
          if (hole > 0) {
            at = holeWordEnd(text, hole);
            tokens.add(T.HOLE, 0, start, at);
            fresh = false;
            continue;
          }
          const next = text.charCodeAt(at + 1);
          if (lexical.dollarQuotes && (next === 36 || isWordStart(next))) {
            const tagEnd = dollarTagEnd(text, at);
            if (tagEnd > 0) {
              const tag = text.slice(at, tagEnd);
              const close = this.#unclosed > UNCLOSED_LIMIT ? -1 : text.indexOf(tag, tagEnd);
              if (close < 0) {
                if (!final) return start;
                at = this.#bad(text, start, Bad.DOLLAR);
              } else {
                at = close + tag.length;
                tokens.add(T.STRING, 0, start, at);
              }
              fresh = false;
              continue;
            }
          }
          at++;
          if (lexical.client === "sqlcmd" && isDigit(next)) {
            // $12.50: an amount of money (tsql)
            while (at < length && (isDigit(text.charCodeAt(at)) || text.charCodeAt(at) === 46)) at++;
            if (!final && at === length) return start;
            tokens.add(T.NUMBER, 0, start, at);
            fresh = false;
            continue;
          }
          while (at < length && isWordPart(text.charCodeAt(at))) at++;
          if (!final && at === length) return start;
          tokens.add(at - start > 1 ? T.HOLE : T.BAD, at - start > 1 ? 0 : Bad.CHARACTER, start, at);
          fresh = false;
          continue;
        }
        case 64: {
          // @
          if (lexical.atVariables && text.charCodeAt(at + 1) !== 123) {
            at++;
            if (text.charCodeAt(at) === 64) at++;
            const quote = text.charCodeAt(at);
            if ((quote === 39 || quote === 34 || quote === 96) && lexical.client === "mysql-client") {
              const close = stringEnd(text, at + 1, quote, false);
              if (close === 0) {
                if (!final) return start;
                at = this.#bad(text, start, Bad.STRING);
                fresh = false;
                continue;
              }
              at = close;
            } else while (at < length && (isWordPart(text.charCodeAt(at)) || extra[text.charCodeAt(at)] === 1)) at++;
            if (!final && at === length) return start;
            tokens.add(T.VARIABLE, 0, start, at);
            fresh = false;
            continue;
          }
          const end = atHoleEnd(text, at);
          if (end > 0) {
            at = holeWordEnd(text, end);
            tokens.add(T.HOLE, 0, start, at);
            fresh = false;
            continue;
          }
          break;
        }
        case 35: {
          // #
          if (lexical.hashComments) {
            at = lineEnd(text, at);
            if (!final && at === length) return start;
            tokens.addComment(start, at);
            continue;
          }
          if (lexical.hashDates) {
            const close = text.indexOf("#", at + 1);
            if (close < 0 || close - at > 40) {
              at = this.#bad(text, start, Bad.STRING);
            } else {
              at = close + 1;
              tokens.add(T.STRING, 1, start, at);
            }
            fresh = false;
            continue;
          }
          if (
            extra[35] === 1 &&
            isWordPart(text.charCodeAt(at + 1) === 35 ? text.charCodeAt(at + 2) : text.charCodeAt(at + 1))
          ) {
            // A temporary table's name: #scratch, ##shared.
            at++;
            while (at < length && (isWordPart(text.charCodeAt(at)) || extra[text.charCodeAt(at)] === 1)) at++;
            if (!final && at === length) return start;
            tokens.add(T.WORD, K.NONE, start, at);
            fresh = false;
            continue;
          }
          break;
        }
        case 45: {
          // -
          if (text.charCodeAt(at + 1) === 45) {
            const next = text.charCodeAt(at + 2);
            // The client takes a whole line that begins with -- for a comment, where no statement is under way.
            const line = fresh && (at === 0 || text.charCodeAt(at - 1) === 10);
            if (!lexical.dashNeedsBlank || line || !(next > 32)) {
              at = lineEnd(text, at);
              if (!final && at === length) return start;
              tokens.addComment(start, at);
              continue;
            }
          }
          break;
        }
        case 47: {
          // /
          if (text.charCodeAt(at + 1) === 42) {
            const opened = this.#comment(text, at, final);
            if (opened === -1) return start;
            at = opened;
            continue;
          }
          break;
        }
        case 42: {
          // *
          if (this.#conditional && text.charCodeAt(at + 1) === 47) {
            this.#conditional = false;
            this.#turns.push(at + 1);
            at += 2;
            continue;
          }
          break;
        }
        case 38: {
          // &
          if (lexical.ampersandHoles) {
            const skip = text.charCodeAt(at + 1) === 38 ? 2 : 1;
            if (isWordStart(text.charCodeAt(at + skip)) || isDigit(text.charCodeAt(at + skip))) {
              at = holeWordEnd(text, at + skip);
              // A single dot ends the variable's name: &schema..vessel.
              if (text.charCodeAt(at) === 46 && text.charCodeAt(at + 1) === 46) at++;
              if (!final && at >= length) return start;
              tokens.add(T.HOLE, 0, start, at);
              fresh = false;
              continue;
            }
          }
          break;
        }
        case 37: {
          // %
          const end = percentHoleEnd(text, at);
          if (end > 0 && !endsOperand(tokens)) {
            at = end;
            tokens.add(T.HOLE, 0, start, at);
            fresh = false;
            continue;
          }
          break;
        }
        default:
      }

      if (kind === C.OPERATOR) {
        at = addOperator(tokens, this.dialect, text, at);
        if (!final && at === length) {
          tokens.count--;
          return start;
        }
        fresh = false;
        continue;
      }
      tokens.add(T.BAD, Bad.CHARACTER, start, ++at);
      fresh = false;
    }
    return at;
  }

  /** The rows of inline data from `from` on, as one token for as much of them as is here. */
  #data(text: string, from: number, final: boolean): number {
    let end = copyDataEnd(text, from);
    if (end >= 0) this.#inData = false;
    else if (final) {
      // psql, too, takes the rest of a file as data when the closing line is missing.
      this.#inData = false;
      end = text.length;
    } else end = Math.max(from, text.lastIndexOf("\n") + 1);
    if (end > from) this.tokens.add(T.DATA, 0, from, end);
    return end;
  }

  /** Records a construct without an end; the reading goes on in the next line. */
  #bad(text: string, start: number, why: Bad): number {
    this.#unclosed++;
    const end = lineEnd(text, start);
    this.tokens.add(T.BAD, why, start, Math.max(end, start + 1));
    return Math.max(end, start + 1);
  }

  /** The end of a literal with a prefix letter; 0: none here; negative: never closed. */
  #prefixedString(text: string, at: number, letter: number): number {
    const { lexical } = this.dialect;
    const next = text.charCodeAt(at + 1);
    if (next === 38) {
      // U&'…' and U&"…"
      const quote = text.charCodeAt(at + 2);
      if (letter !== 117 || (quote !== 39 && quote !== 34)) return 0;
      return stringEnd(text, at + 3, quote, false) || -text.length;
    }
    if (letter === 101 && lexical.escapeStrings) return stringEnd(text, at + 2, 39, true) || -text.length;
    if (letter === 113 && lexical.alternativeQuotes) return this.#alternativeQuote(text, at + 1);
    if (letter === 110 || letter === 98 || letter === 120) {
      return stringEnd(text, at + 2, 39, lexical.backslashEscapes && letter === 110) || -text.length;
    }
    return 0;
  }

  /** Oracle's q'[…]': `quote` is the offset of the apostrophe. */
  #alternativeQuote(text: string, quote: number): number {
    const open = text[quote + 1];
    if (open === undefined || this.#unclosed > UNCLOSED_LIMIT) return -text.length;
    const close = "])}>"["[({<".indexOf(open)] ?? open;
    const end = text.indexOf(`${close}'`, quote + 2);
    return end < 0 ? -text.length : end + 2;
  }

  /** A comment at `at`; returns where reading goes on, or -1 when the window ends first. */
  #comment(text: string, at: number, final: boolean): number {
    const { lexical } = this.dialect;
    const length = text.length;
    if (lexical.conditionalComments > 0) {
      let head = at + 2;
      if (text.charCodeAt(head) === 77 && text.charCodeAt(head + 1) === 33 && lexical.conditionalGap) head++;
      if (text.charCodeAt(head) === 33 && !this.#conditional) {
        head++;
        let version = 0;
        const digits = head;
        while (isDigit(text.charCodeAt(head)) && head - digits < 6) {
          version = version * 10 + text.charCodeAt(head) - 48;
          head++;
        }
        if (!final && head >= length) return -1;
        const gap = lexical.conditionalGap;
        if (version <= lexical.conditionalComments && !(gap && version >= gap[0] && version <= gap[1])) {
          this.#conditional = true;
          this.#turns.push(head);
          return head;
        }
      }
    }
    let depth = 1;
    let from = at + 2;
    if (this.#unclosed > UNCLOSED_LIMIT) from = length;
    for (;;) {
      const close = text.indexOf("*/", from);
      if (close < 0) break;
      if (lexical.nestedComments) {
        const open = text.indexOf("/*", from);
        if (open >= 0 && open < close) {
          depth++;
          from = open + 2;
          continue;
        }
      }
      from = close + 2;
      if (--depth === 0) {
        this.tokens.addComment(at, from);
        return from;
      }
    }
    if (!final) return -1;
    return this.#bad(text, at, Bad.COMMENT);
  }

  /** `DELIMITER //`: chooses the delimiter; returns the end of the line, or -1. */
  #delimiterDirective(text: string, at: number): number {
    if (text.slice(at, at + 9).toUpperCase() !== "DELIMITER") return -1;
    const end = lineEnd(text, at);
    const rest = text.slice(at + 9, end);
    const chosen = rest.trim().split(/[ \t]/, 1)[0];
    if (chosen === "" || !/^[ \t]/.test(rest)) return -1;
    this.delimiter = chosen;
    return end;
  }
}
