import { isDigit, isHexDigit, isWordPart, isWordStart, restIsBlank } from "./characters.ts";

// Where tokens end that are not told by their first character alone.

/** The end of a quoted run whose closing quote may be doubled; 0 when it never closes. */
export function stringEnd(text: string, from: number, quote: number, backslash: boolean): number {
  const length = text.length;
  if (!backslash) {
    const closing = String.fromCharCode(quote);
    let at = from;
    for (;;) {
      const close = text.indexOf(closing, at);
      if (close < 0) return 0;
      if (text.charCodeAt(close + 1) !== quote) return close + 1;
      at = close + 2;
    }
  }
  let at = from;
  while (at < length) {
    const code = text.charCodeAt(at);
    if (code === 92) at += 2;
    else if (code === quote) {
      if (text.charCodeAt(at + 1) !== quote) return at + 1;
      at += 2;
    } else at++;
  }
  return 0;
}

/** Decimal, exponent, 0x…, 0b…, 0o…, and digits grouped by underscores. */
export function numberEnd(text: string, from: number): number {
  let at = from;
  const second = text.charCodeAt(at + 1) | 32;
  if (text.charCodeAt(at) === 48 && (second === 120 || second === 98 || second === 111)) {
    let end = at + 2;
    while (isHexDigit(text.charCodeAt(end)) || text.charCodeAt(end) === 95) end++;
    if (end > at + 2) return end;
  }
  while (isDigit(text.charCodeAt(at)) || (text.charCodeAt(at) === 95 && isDigit(text.charCodeAt(at + 1)))) at++;
  if (text.charCodeAt(at) === 46 && text.charCodeAt(at + 1) !== 46) {
    at++;
    while (isDigit(text.charCodeAt(at)) || (text.charCodeAt(at) === 95 && isDigit(text.charCodeAt(at + 1)))) at++;
  }
  if ((text.charCodeAt(at) | 32) === 101) {
    let end = at + 1;
    if (text.charCodeAt(end) === 43 || text.charCodeAt(end) === 45) end++;
    if (isDigit(text.charCodeAt(end))) {
      while (isDigit(text.charCodeAt(end))) end++;
      at = end;
    }
  }
  return at;
}

export function isNumberWord(text: string, start: number, end: number): boolean {
  const second = text.charCodeAt(start + 1) | 32;
  return text.charCodeAt(start) === 48 && (second === 120 || second === 98) && numberEnd(text, start) === end;
}

/** `${…}`, `{{…}}`, `{name}`, `$(name)`, `&name` inside a word: where it ends, or 0. */
export function holeEnd(text: string, at: number, paren: boolean): number {
  const code = text.charCodeAt(at);
  const next = text.charCodeAt(at + 1);
  if (code === 36 && next === 123) return closedOnLine(text, at + 2, "}");
  if (code === 123 && next === 123) return closedOnLine(text, at + 2, "}}");
  if (code === 123 && next === 37) return closedOnLine(text, at + 2, "%}");
  if (code === 123 && isWordStart(next)) {
    // {name} of a template; `{fn now()}` of an escape goes on.
    let end = at + 2;
    while (isWordPart(text.charCodeAt(end))) end++;
    return text.charCodeAt(end) === 125 ? end + 1 : 0;
  }
  if (code === 36 && next === 40 && paren) return closedOnLine(text, at + 2, ")");
  if (code === 38) {
    let end = at + 1;
    while (isWordPart(text.charCodeAt(end))) end++;
    return end;
  }
  return 0;
}

function closedOnLine(text: string, from: number, close: string): number {
  // A template hole is short; looking no further keeps a file full of braces linear.
  const limit = Math.min(text.length, from + 200);
  for (let i = from; i < limit; i++) {
    if (text.charCodeAt(i) === 10) return 0;
    if (text.startsWith(close, i)) return i + close.length;
  }
  return 0;
}

/** `@name@` in extension scripts, `@{name}` in templates. */
export function atHoleEnd(text: string, at: number): number {
  let end = at + 1;
  if (text.charCodeAt(end) === 123) return closedOnLine(text, end + 1, "}");
  if (!isWordStart(text.charCodeAt(end))) return 0;
  while (isWordPart(text.charCodeAt(end))) end++;
  return text.charCodeAt(end) === 64 ? end + 1 : 0;
}

/** `%s`, `%d`, `%(name)s`, `%I`, `%L` where an operand is expected. */
export function percentHoleEnd(text: string, at: number): number {
  const next = text.charCodeAt(at + 1);
  if (next === 40) {
    const close = closedOnLine(text, at + 2, ")");
    return close > 0 && isWordStart(text.charCodeAt(close)) ? close + 1 : 0;
  }
  if (next !== 115 && next !== 100 && next !== 73 && next !== 76) return 0;
  return isWordPart(text.charCodeAt(at + 2)) ? 0 : at + 2;
}

/** The end of `$tag$` at `at`, or 0. */
export function dollarTagEnd(text: string, at: number): number {
  let end = at + 1;
  while (isWordPart(text.charCodeAt(end))) end++;
  return text.charCodeAt(end) === 36 ? end + 1 : 0;
}

/** `GO [count]` or `/` alone on a line: where it ends, or -1. */
export function batchEnd(text: string, at: number, client: string): number {
  if (client === "sqlplus") {
    if (text.charCodeAt(at) !== 47) return -1;
    return restIsBlank(text, at + 1) ? at + 1 : -1;
  }
  if (client !== "sqlcmd") return -1;
  if ((text.charCodeAt(at) | 32) !== 103 || (text.charCodeAt(at + 1) | 32) !== 111) return -1;
  let end = at + 2;
  while (text[end] === " " || text[end] === "\t") end++;
  if (end > at + 2) while (isDigit(text.charCodeAt(end))) end++;
  if (text[end] === ";") end++;
  if (restIsBlank(text, end)) return end;
  while (text[end] === " " || text[end] === "\t") end++;
  return text.startsWith("--", end) ? end : -1;
}

/** Where inline rows end: after the line that holds only `\\.`; -1: not in this text. */
export function copyDataEnd(text: string, from: number): number {
  let at = from;
  for (;;) {
    const mark = text.indexOf("\\.", at);
    if (mark < 0) return -1;
    const end = mark + 2;
    const code = text.charCodeAt(end);
    if ((mark === from || text.charCodeAt(mark - 1) === 10) && (code === 10 || code === 13 || !(code === code)))
      return end;
    at = end;
  }
}

/** The end of a hole that goes on as a word: `${schema}_old`. */
export function holeWordEnd(text: string, from: number): number {
  let at = from;
  while (at < text.length) {
    const code = text.charCodeAt(at);
    if (isWordPart(code)) at++;
    else {
      const end = code === 36 || code === 123 ? holeEnd(text, at, false) : 0;
      if (end === 0) break;
      at = end;
    }
  }
  return at;
}
