import type { LexicalRules } from "../dialects/dialect.ts";
import { isWordPart, onlyBlanksBefore } from "./characters.ts";
import { K } from "./keywords.ts";
import { T, type TokenList } from "./tokens.ts";

/** Where the line that holds `at` ends: the offset of its line break, or the end of the text. */
export function lineEnd(text: string, at: number): number {
  const end = text.indexOf("\n", at);
  if (end < 0) return text.length;
  return end > at && text.charCodeAt(end - 1) === 13 ? end - 1 : end;
}

// The commands of Oracle's shell that take the rest of the line (SQL*Plus User's Guide, "Command
// Reference"), with their shortest spellings. SET is among them unless ROLE, TRANSACTION or
// CONSTRAINT follows, which are statements.
const sqlplusCommands = new Set(
  (
    "ACC ACCEPT ARCHIVE ATTRIBUTE BRE BREAK BTITLE CL CLEAR COL COLUMN COMP COMPUTE CONN CONNECT DEF DEFINE DISC " +
    "DISCONNECT EXIT HO HOST PASSW PASSWORD PAU PAUSE PRI PRINT PRO PROMPT QUIT REM REMARK REPF REPFOOTER REPH " +
    "REPHEADER RUN SHO SHOW SHUTDOWN SPO SPOOL STA START STARTUP STORE TIMI TIMING TTI TTITLE UNDEF UNDEFINE VAR " +
    "VARIABLE WHENEVER XQUERY"
  ).split(" "),
);

const mysqlCommands = new Set(
  "charset connect conn edit ego exit go help nopager notee nowarning pager print prompt quit rehash source status system tee warnings".split(
    " ",
  ),
);

function wordAt(text: string, at: number): string {
  let end = at;
  while (end < text.length && end < at + 24) {
    const code = text.charCodeAt(end);
    if (!((code >= 65 && code <= 90) || (code >= 97 && code <= 122) || code === 95)) break;
    end++;
  }
  return text.slice(at, end);
}

function wordAfter(text: string, at: number): string {
  let start = at;
  while (text[start] === " " || text[start] === "\t") start++;
  return wordAt(text, start).toUpperCase();
}

/**
 * Where a client directive ends that begins at `at`, or -1 when the line is for the server.
 * Called only where a statement could begin and only for the first word of a line.
 */
export function directiveEnd(text: string, at: number, client: LexicalRules["client"]): number {
  const first = text.charCodeAt(at);
  switch (client) {
    case "sqlite-client":
      // A shell command begins with a dot in the first column.
      return first === 46 && (at === 0 || text[at - 1] === "\n") ? lineEnd(text, at) : -1;
    case "sqlcmd":
      if ((first === 58 && isLetter(text.charCodeAt(at + 1))) || (first === 33 && text[at + 1] === "!")) {
        return lineEnd(text, at);
      }
      return -1;
    case "sqlplus": {
      if (first === 64 || first === 33) return lineEnd(text, at);
      const word = wordAt(text, at).toUpperCase();
      if (word === "SET") {
        const next = wordAfter(text, at + 3);
        return next === "ROLE" || next.startsWith("TRANSACTION") || next.startsWith("CONSTRAINT") || next === ""
          ? -1
          : lineEnd(text, at);
      }
      return word.length > 2 && sqlplusCommands.has(word) && !continues(text, at + word.length)
        ? lineEnd(text, at)
        : -1;
    }
    case "mysql-client": {
      const word = wordAt(text, at).toLowerCase();
      if (!mysqlCommands.has(word) || continues(text, at + word.length)) return -1;
      return lineEnd(text, at);
    }
    default:
      return -1;
  }
}

function isLetter(code: number): boolean {
  return (code >= 65 && code <= 90) || (code >= 97 && code <= 122);
}

/** Whether the word goes on (`show_all`, `run.x`), so that it is no command after all. */
function continues(text: string, at: number): boolean {
  const code = text.charCodeAt(at);
  return code === 36 || code === 46 || code === 61 || (code >= 48 && code <= 57) || code > 127 || code === 40;
}

/** A backslash command, whose text goes to the end of the line, or a terminator such as \g. */
export function addBackslash(tokens: TokenList, text: string, at: number, psql: boolean, fresh: boolean): number {
  const next = text[at + 1] ?? "";
  if (!psql) {
    if (next === "g" || next === "G") {
      tokens.add(T.DELIMITER, 0, at, at + 2);
      return at + 2;
    }
    // `\'` outside a string stands in texts that a program assembles; `\N` is NULL.
    if (next === "N") {
      tokens.add(T.WORD, K.NULL, at, at + 2);
      return at + 2;
    }
    const end = lineEnd(text, at);
    tokens.add(T.DIRECTIVE, 0, at, end);
    return end;
  }
  if (next === "\\") return at + 2;
  if (next === ";") {
    tokens.add(T.SEMICOLON, 0, at, at + 2);
    return at + 2;
  }
  let end = at + 1;
  const line = lineEnd(text, at);
  while (
    end < line &&
    (isWordPart(text.charCodeAt(end)) || text[end] === "+" || text[end] === "!" || text[end] === "?")
  )
    end++;
  const command = text.slice(at + 1, end);
  // \g and its like send the statement; so they end it.
  const sends = /^(?:g|gx|gexec|gset|gdesc|crosstabview|watch)$/.test(command);
  // Another command may follow on the same line: \echo … \quit
  let stop = line;
  for (let i = end; i < line; i++) {
    const code = text.charCodeAt(i);
    if (code === 39 || code === 34 || code === 96) {
      const close = text.indexOf(text[i], i + 1);
      if (close < 0 || close >= line) break;
      i = close;
    } else if (code === 92 && command !== "copy" && command !== "!") {
      stop = i;
      break;
    }
  }
  // A command in the middle of a statement runs at once and leaves the statement as it is.
  if (!sends && !fresh) tokens.addComment(at, stop);
  else tokens.add(sends ? T.DELIMITER : T.DIRECTIVE, 0, at, stop);
  return stop;
}

/** A dot alone on its line: it ends the entry without running it, and the / after it runs it (sqlplus). */
export function isLoneDot(text: string, at: number): boolean {
  return onlyBlanksBefore(text, at) && /^\.[ \t]{0,40}(?:\r?\n|$)/.test(text.slice(at, at + 44));
}
