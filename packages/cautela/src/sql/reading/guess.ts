import type { DialectId } from "../dialects/dialect.ts";
import { dialectIds, usualDialect } from "../dialects/index.ts";
import { ScriptReader } from "./script.ts";

/** A dialect and what in the text speaks for it. */
export interface DialectGuess {
  dialect: DialectId;
  /** In words, for the reader of a review; empty where nothing in the text speaks for any dialect. */
  reason: string;
}

/** Only the head of a script is looked at: what is written in one dialect shows it early. */
export const HEAD = 64 * 1024;

/** A word or a form that only some dialects have, and how strongly it speaks for each. */
interface Mark {
  shown: string;
  for: Partial<Record<DialectId, number>>;
}

const word = (shown: string, marks: Mark["for"]): [string, Mark] => [shown, { shown, for: marks }];

// Words that stand for a dialect wherever they occur outside strings and comments.
const WORD_MARKS = new Map<string, Mark>([
  word("go", { tsql: 1 }),
  word("nvarchar", { tsql: 3 }),
  word("getdate", { tsql: 4 }),
  word("dbo", { tsql: 4 }),
  word("nolock", { tsql: 4 }),
  word("object_id", { tsql: 3 }),
  word("rowversion", { tsql: 3 }),
  word("raiserror", { tsql: 4 }),
  word("top", { tsql: 2, jet: 2 }),
  word("datetime2", { tsql: 4 }),
  word("varchar2", { plsql: 5 }),
  word("dual", { plsql: 2 }),
  word("sysdate", { plsql: 4 }),
  word("rownum", { plsql: 4 }),
  word("nvl", { plsql: 3 }),
  word("systimestamp", { plsql: 4 }),
  word("elsif", { plsql: 1, postgresql: 1 }),
  word("pls_integer", { plsql: 5 }),
  word("raise_application_error", { plsql: 5 }),
  word("ilike", { postgresql: 4 }),
  word("serial", { postgresql: 3 }),
  word("bigserial", { postgresql: 4 }),
  word("plpgsql", { postgresql: 5 }),
  word("timestamptz", { postgresql: 4 }),
  word("jsonb", { postgresql: 4 }),
  word("bytea", { postgresql: 3 }),
  word("generate_series", { postgresql: 3 }),
  word("returning", { postgresql: 1, sqlite: 1, mariadb: 1 }),
  word("auto_increment", { mysql: 5, mariadb: 5 }),
  word("engine", { mysql: 3, mariadb: 3 }),
  word("innodb", { mysql: 4, mariadb: 4 }),
  word("utf8mb4", { mysql: 4, mariadb: 4 }),
  word("ifnull", { mysql: 2, mariadb: 2, sqlite: 2 }),
  word("delimiter", { mysql: 5, mariadb: 5 }),
  word("mediumtext", { mysql: 3, mariadb: 3 }),
  word("unsigned", { mysql: 2, mariadb: 2 }),
  word("modify", { mysql: 2, mariadb: 2, plsql: 2 }),
  word("tinytext", { mysql: 3, mariadb: 3 }),
  word("longtext", { mysql: 3, mariadb: 3 }),
  word("mediumint", { mysql: 3, mariadb: 3 }),
  word("autoincrement", { sqlite: 4, jet: 2 }),
  word("pragma", { sqlite: 4 }),
  word("sqlite_master", { sqlite: 5 }),
  word("sqlite_sequence", { sqlite: 5 }),
  word("glob", { sqlite: 3 }),
  word("distinctrow", { jet: 4 }),
  word("iif", { jet: 2, tsql: 1 }),
  word("nz", { jet: 4 }),
  word("yesno", { jet: 5 }),
  word("counter", { jet: 2 }),
  word("transform", { jet: 2 }),
  word("cdate", { jet: 4 }),
  word("clng", { jet: 4 }),
]);

/**
 * Guesses the dialect of a script from the words and forms that only some dialects have, and from
 * which dialects can read it. Without any sign it is `postgresql`, with an empty reason.
 *
 * @example
 * guessDialect("DELETE TOP (5) FROM dbo.berth\nGO") // { dialect: "tsql", reason: "`dbo` on line 1, …" }
 */
export function guessDialect(text: string): DialectGuess {
  const head = text.length > HEAD ? text.slice(0, HEAD) : text;
  const scores = new Map<DialectId, number>(dialectIds.map((id) => [id, 0]));
  const signs: { mark: Mark; line: number }[] = [];
  const seen = new Set<string>();
  scan(head, (mark, line) => {
    if (seen.has(mark.shown)) return;
    seen.add(mark.shown);
    signs.push({ mark, line });
    for (const id of dialectIds) scores.set(id, (scores.get(id) ?? 0) + (mark.for[id] ?? 0));
  });
  if (signs.length === 0) {
    // Nothing speaks for any dialect. One that cannot read half of it is out if another reads it all.
    if (unread(head, usualDialect) < 0.5) return { dialect: usualDialect, reason: "" };
    const reads = dialectIds.find((id) => unread(head, id) === 0);
    return reads === undefined
      ? { dialect: usualDialect, reason: "" }
      : { dialect: reads, reason: "PostgreSQL does not read all of it" };
  }
  // What a dialect cannot read counts against it.
  const most = Math.max(...scores.values());
  let best: DialectId = usualDialect;
  let bestScore = Number.NEGATIVE_INFINITY;
  for (const id of dialectIds) {
    const marks = scores.get(id) ?? 0;
    if (marks < most - 3) continue;
    const score = marks - 6 * unread(head, id);
    if (score > bestScore) {
      best = id;
      bestScore = score;
    }
  }
  const named = signs.filter(({ mark }) => (mark.for[best] ?? 0) > 0).slice(0, 3);
  const reason = named.map(({ mark, line }) => `\`${mark.shown}\` on line ${line}`).join(", ");
  return { dialect: best, reason: reason || "only this dialect reads it" };
}

/** Whether a dialect reads more than half of a script's head. */
export function reads(text: string, dialect: DialectId): boolean {
  return unread(text.length > HEAD ? text.slice(0, HEAD) : text, dialect) < 0.5;
}

/** The share of statements that a dialect cannot read, from 0 to 1. */
function unread(text: string, dialect: DialectId): number {
  let count = 0;
  let bad = 0;
  // The head may be cut in the middle of a statement: what is not final is not judged.
  new ScriptReader(dialect).push(text, text.length < HEAD, (statement) => {
    count++;
    if (statement.kind === "unread" || (statement.tree.kind === "create-routine" && statement.tree.problem)) bad++;
  });
  return count === 0 ? 0 : bad / count;
}

const FORMS = {
  backtick: { shown: "`…`", for: { mysql: 3, mariadb: 3, sqlite: 1 } },
  bracket: { shown: "[…]", for: { tsql: 3, jet: 3 } },
  jetDate: { shown: "#date#", for: { jet: 6 } },
  deleteStar: { shown: "DELETE *", for: { jet: 5 } },
  variable: { shown: "@variable", for: { tsql: 2, mysql: 1, mariadb: 1 } },
  declared: { shown: "DECLARE @", for: { tsql: 5 } },
  go: { shown: "GO", for: { tsql: 6 } },
  slash: { shown: "/", for: { plsql: 5 } },
  assign: { shown: ":=", for: { plsql: 2, postgresql: 1, mysql: 1, mariadb: 1 } },
  cast: { shown: "::", for: { postgresql: 4 } },
  dollar: { shown: "$$", for: { postgresql: 5 } },
  meta: { shown: "\\", for: { postgresql: 5 } },
  dot: { shown: ".command", for: { sqlite: 5 } },
  hash: { shown: "# comment", for: { mysql: 3, mariadb: 3 } },
  versioned: { shown: "/*!", for: { mysql: 5, mariadb: 4 } },
  maria: { shown: "MariaDB", for: { mariadb: 8 } },
  value: { shown: '= "…"', for: { jet: 2, mysql: 2, mariadb: 2 } },
  shell: { shown: "PROMPT, SET ECHO, …", for: { plsql: 4 } },
  bang: { shown: "!", for: { jet: 3 } },
} satisfies Record<string, Mark>;

/** Walks over the text outside strings and comments and names every sign of a dialect. */
function scan(text: string, found: (mark: Mark, line: number) => void): void {
  let line = 1;
  let at = 0;
  let before = "";
  let atLineStart = true;
  const skipTo = (close: string, from: number): number => {
    const end = text.indexOf(close, from);
    const stop = end < 0 ? text.length : end + close.length;
    for (let i = text.indexOf("\n", at); i >= 0 && i < stop; i = text.indexOf("\n", i + 1)) line++;
    return stop;
  };
  while (at < text.length) {
    const char = text[at];
    const next = text[at + 1];
    if (char === "\n") {
      line++;
      at++;
      atLineStart = true;
      continue;
    }
    if (char === " " || char === "\t" || char === "\r") {
      at++;
      continue;
    }
    const first = atLineStart;
    atLineStart = false;
    if (first) {
      const rest = text.slice(at, lineStop(text, at)).trim();
      if (/^go(?:[ \t]+\d+)?;?$/i.test(rest)) found(FORMS.go, line);
      else if (rest === "/") found(FORMS.slash, line);
      else if (/^(?:prompt|whenever|spool|set (?:echo|define|serveroutput|feedback|verify|termout))\b/i.test(rest))
        found(FORMS.shell, line);
      else if (char === "." && /^\.[a-z]/i.test(rest)) found(FORMS.dot, line);
      else if (char === "\\" && /^\\[a-z]/i.test(rest)) found(FORMS.meta, line);
    }
    if (char === "-" && next === "-") {
      const stop = lineStop(text, at);
      if (/mariadb/i.test(text.slice(at, stop))) found(FORMS.maria, line);
      at = stop;
      continue;
    }
    if (char === "/" && next === "*") {
      if (text[at + 2] === "!") found(FORMS.versioned, line);
      if (text.startsWith("/*M!", at)) found(FORMS.maria, line);
      at = skipTo("*/", at + 2);
      continue;
    }
    if (char === "'") {
      at = skipTo("'", at + 1);
      before = "";
      continue;
    }
    if (char === '"') {
      if (/[=<>(,]\s?$/.test(text.slice(Math.max(0, at - 2), at))) found(FORMS.value, line);
      at = skipTo('"', at + 1);
      before = "";
      continue;
    }
    if (char === "`") {
      found(FORMS.backtick, line);
      at = skipTo("`", at + 1);
      continue;
    }
    if (char === "[" && /[a-z_ ]/i.test(next ?? "") && !/[\w\])]/.test(text[at - 1] ?? "")) {
      found(FORMS.bracket, line);
      at = skipTo("]", at + 1);
      continue;
    }
    if (char === "#") {
      const close = text.indexOf("#", at + 1);
      if (close > 0 && close - at < 24 && /^#[\d/\-: apm]+#$/i.test(text.slice(at, close + 1)))
        found(FORMS.jetDate, line);
      else if (first) found(FORMS.hash, line);
      at = first ? lineStop(text, at) : at + 1;
      continue;
    }
    if (char === "@" && /[a-z_]/i.test(next ?? "")) found(before === "declare" ? FORMS.declared : FORMS.variable, line);
    if (char === ":" && next === "=") found(FORMS.assign, line);
    if (char === ":" && next === ":") found(FORMS.cast, line);
    if (char === "$" && /^\$\w{0,20}\$/.test(text.slice(at, at + 24))) found(FORMS.dollar, line);
    if (char === "!" && /\w/.test(text[at - 1] ?? "") && /[\w[]/.test(next ?? "")) found(FORMS.bang, line);
    if (char === "*" && before === "delete") found(FORMS.deleteStar, line);
    if (/[a-z_]/i.test(char)) {
      let end = at + 1;
      while (end < text.length && /[\w$]/.test(text[end])) end++;
      before = text.slice(at, end).toLowerCase();
      const mark = WORD_MARKS.get(before);
      if (mark && before !== "go") found(mark, line);
      at = end;
      continue;
    }
    before = "";
    at++;
  }
}

function lineStop(text: string, at: number): number {
  const end = text.indexOf("\n", at);
  return end < 0 ? text.length : end;
}
