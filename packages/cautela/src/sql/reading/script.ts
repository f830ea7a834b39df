import type { Dialect, DialectId } from "../dialects/dialect.ts";
import { dialects, usualDialect } from "../dialects/index.ts";
import { readInner } from "../grammar/dynamic.ts";
import { RIGHTS_OBJECTS } from "../grammar/named-object.ts";
import { topStatement } from "../grammar/statement.ts";
import { startsNext } from "../grammar/statement-end.ts";
import { K } from "../lexer/keywords.ts";
import { Lexer, type LexerState } from "../lexer/lexer.ts";
import { T } from "../lexer/tokens.ts";
import type { Problem, Span, Statement, StatementClass } from "../nodes/tree.ts";
import type { InnerText } from "./inner-text.ts";
import { Parser, ReadingStopped } from "./parser.ts";

/** One statement of a script as it was read. */
export interface ReadStatement extends Span {
  kind: Statement["kind"];
  class: StatementClass;
  tree: Statement;
  /** The comments inside the statement and before it, back to the statement before. */
  comments: Span[];
  /** How the statement ends: `;`, a chosen delimiter, a batch separator, or nothing. */
  terminator: "" | ";" | "delimiter" | "batch";
  /** Rows of inline data after the statement (COPY … FROM STDIN); all of them once the next statement is given out. */
  rows: number;
  /** How often a batch separator runs the batch that ends here: `GO 5`. */
  repeat: number;
  /** The texts in it that are read as well and do not stand in the script sign by sign; what is read of them has places below zero. */
  inner?: readonly InnerText[];
}

const NO_COMMENTS: Span[] = [];

/** Characters of a window; a statement that is longer makes the window grow. */
const WINDOW = 1 << 18;

/**
 * Reads a script piece by piece. Feed it text with {@link push} and take the statements that are
 * complete; memory is bounded by the longest statement or line and not by the script. Wherever the
 * pieces are cut, the statements are those of the whole script.
 *
 * @example
 * const reader = new ScriptReader("sqlite");
 * reader.push("DELETE FROM tide_reading WHERE taken_on < '2025-01-01';\nDEL", false, take);
 * reader.push("ETE FROM berth", true, take); // now both
 */
export class ScriptReader {
  readonly dialect: Dialect;
  readonly #lexer: Lexer;
  readonly #parser: Parser;
  /** Whole lines, from that of the first comment or statement that is not given out yet. */
  #text = "";
  /** The pieces of a line that has not ended yet. */
  #rest: string[] = [];
  /** The offset of `#text` in the script, and its line. */
  #base = 0;
  #line = 1;
  /** The offset in `#text` after the last statement that was given out. */
  #done = 0;
  #window = WINDOW;
  /** No complete statement is looked for before the text is as long as this. */
  #worthwhile = 0;
  /** The last token that was given out. A script begins as a batch does. */
  #before: T = T.BATCH;
  readonly #state: LexerState = { delimiter: ";", conditional: false, inData: false, fresh: true };
  /** Comments before what is no statement; they are read with the next one. */
  #carried: Span[] = [];
  /** The COPY whose rows are being read. */
  #filling: ReadStatement | null = null;

  constructor(dialect: DialectId) {
    this.dialect = dialects[dialect];
    this.#lexer = new Lexer(this.dialect);
    this.#parser = new Parser(this.dialect, this.#lexer.tokens);
  }

  /** The text that statements given out by the last {@link push} lie in, its offset and the number of its first line. */
  get buffer(): { text: string; base: number; line: number } {
    return { text: this.#text, base: this.#base, line: this.#line };
  }

  /** The offset in the script after what has been given out. */
  get next(): number {
    return this.#base + this.#done;
  }

  /**
   * Takes the next part of the script and hands each complete statement to `take`.
   * The ranges are offsets into the whole script.
   */
  push(part: string, final: boolean, take: (statement: ReadStatement) => void): void {
    // Whole lines only: what a client program makes of a line shows at its end.
    const lines = final ? part.length : part.lastIndexOf("\n") + 1;
    if (lines === 0 && !final) {
      this.#rest.push(part);
      return;
    }
    this.#drop();
    this.#text += this.#rest.join("") + part.slice(0, lines);
    this.#rest = lines < part.length ? [part.slice(lines)] : [];
    const text = this.#text;
    if (!final && text.length < this.#worthwhile) return;
    for (;;) {
      if (this.#done >= text.length) break;
      this.#lexer.rewind(this.#state);
      const until = Math.min(text.length, this.#done + this.#window);
      const scanned = this.#lexer.scan(text, this.#done, until, final);
      const last = final && scanned >= text.length;
      const before = this.#done;
      this.#statements(text, last, take);
      if (this.#done > before) {
        const { inData, tokens } = this.#lexer;
        this.#state.conditional = this.#lexer.conditionalAt(this.#done);
        this.#state.inData = inData && tokens.ends[tokens.count - 1] <= this.#done;
        if (this.#state.inData) this.#done = scanned;
      }
      if (last) {
        this.#done = text.length;
        break;
      }
      if (this.#done > before) this.#window = WINDOW;
      else if (until < text.length) this.#window *= 2;
      else break;
    }
    this.#worthwhile = this.#done + (text.length - this.#done) * 1.5;
  }

  /** Lets go of the lines before the first comment or character that is not given out yet. */
  #drop(): void {
    const first = this.#carried.length > 0 ? this.#carried[0].start - this.#base : this.#done;
    const until = first === 0 ? 0 : this.#text.lastIndexOf("\n", first - 1) + 1;
    if (until === 0) return;
    for (let at = this.#text.indexOf("\n"); at >= 0 && at < until; at = this.#text.indexOf("\n", at + 1)) this.#line++;
    this.#text = this.#text.slice(until);
    this.#base += until;
    this.#done -= until;
    this.#worthwhile -= until;
  }

  /** The comments after the last statement, once the whole script is read. */
  readonly trailing: Span[] = [];

  /**
   * Reads the statements of the current window; the last one stays when it may go on after it. What stands between
   * statements (terminators, client lines, delimiters, comments) is told apart in one loop, and shares its state.
   */
  #statements(text: string, last: boolean, take: (statement: ReadStatement) => void): void {
    const p = this.#parser;
    const { tokens } = this.#lexer;
    p.reset(text, this.#base, this.#before);
    let comment = 0;
    while (!p.at(T.EOF)) {
      if (p.at(T.SEMICOLON) || p.at(T.DELIMITER) || p.at(T.BATCH) || p.at(T.DATA)) {
        const start = p.start;
        const kind = p.kind;
        if (kind === T.DATA && this.#filling) this.#filling.rows += dataRows(p);
        p.advance();
        if (kind === T.BATCH || kind === T.DELIMITER) {
          // A separator with nothing before it still does something: it runs the last statement again.
          take(separator(p, start, kind));
        }
        this.#done = p.previousEnd - this.#base;
        this.#state.fresh = true;
        this.#before = tokens.kinds[p.pos - 1];
        continue;
      }
      if (p.at(T.DIRECTIVE)) {
        const start = p.start;
        const words = p.tokenText();
        p.advance();
        if (/^delimiter[ \t]/i.test(words) && p.dialect.lexical.client === "mysql-client") {
          this.#state.delimiter = words.slice(10).trim().split(/[ \t]/, 1)[0];
        }
        const tree: Statement = clientCopy(p, words, start) ?? {
          kind: "directive",
          text: words,
          start,
          end: p.previousEnd,
        };
        take({
          kind: tree.kind,
          class: classOf(tree),
          tree,
          comments: [],
          terminator: "",
          rows: 0,
          repeat: 1,
          start,
          end: p.previousEnd,
        });
        this.#done = p.previousEnd - this.#base;
        this.#state.fresh = true;
        this.#before = tokens.kinds[p.pos - 1];
        continue;
      }
      const at = p.pos;
      p.inner.take();
      const tree = this.#one(last);
      const inner = p.inner.take();
      if (tree === null) break;
      // Never stand still, whatever the grammar did.
      if (p.pos === at) p.advance();
      let terminator: ReadStatement["terminator"] = "";
      let repeat = 1;
      let rows = 0;
      if (p.at(T.SEMICOLON)) terminator = ";";
      else if (p.at(T.DELIMITER)) terminator = "delimiter";
      else if (p.at(T.BATCH)) {
        terminator = "batch";
        repeat = batchCount(p.tokenText());
      }
      // What a semicolon ends may go on with ELSE, say: the grammar looked for it.
      if (!last && p.touchedEnd) break;
      let comments: Span[] = this.#carried.length > 0 ? this.#carried : NO_COMMENTS;
      if (comments !== NO_COMMENTS) this.#carried = [];
      while (comment < tokens.commentCount && tokens.commentStarts[comment] + this.#base < tree.end) {
        if (comments === NO_COMMENTS) comments = [];
        comments.push({
          start: tokens.commentStarts[comment] + this.#base,
          end: tokens.commentEnds[comment] + this.#base,
        });
        comment++;
      }
      if (terminator !== "") {
        p.advance();
        while (p.at(T.DATA)) {
          rows += dataRows(p);
          p.advance();
        }
      }
      const read: ReadStatement = {
        kind: tree.kind,
        class: classOf(tree),
        tree,
        comments,
        terminator,
        rows,
        repeat,
        start: tree.start,
        end: tree.end,
      };
      if (inner) read.inner = inner;
      this.#filling = read;
      take(read);
      this.#done = (terminator === "" ? tree.end : p.previousEnd) - this.#base;
      this.#state.fresh = terminator !== "" || (endsWithLine(p, at) && !p.slice(tree.start, tree.end).includes("\n"));
      this.#before = tokens.kinds[p.pos - 1];
    }
    // The comments after the last statement of a window are read again; those before it belong to the next one.
    const done = last ? text.length : this.#done;
    for (; comment < tokens.commentCount && tokens.commentStarts[comment] < done; comment++)
      this.#carried.push({
        start: tokens.commentStarts[comment] + this.#base,
        end: tokens.commentEnds[comment] + this.#base,
      });
    if (last) this.trailing.push(...this.#carried);
  }

  /** One statement; null when it may go on after the window. */
  #one(last: boolean): Statement | null {
    const p = this.#parser;
    const start = p.start;
    const first = p.pos;
    p.depth = 0;
    p.inRoutine = 0;
    p.inSchema = false;
    p.touchedEnd = false;
    try {
      const tree = topStatement(p);
      if (!p.atEnd() && !this.dialect.grammar.bareStatements && !p.at(T.DIRECTIVE) && !endsWithLine(p, first)) {
        p.fail("the end of the statement");
      }
      if (!p.atEnd() && this.dialect.grammar.bareStatements && !p.at(T.DIRECTIVE) && !startsNext(p) && !canStart(p)) {
        p.fail("the end of the statement");
      }
      if (isCutOff(p, tree, first)) p.fail("the rest of the statement");
      return tree;
    } catch (stopped) {
      if (!(stopped instanceof ReadingStopped)) throw stopped;
      if (p.at(T.EOF) && !last) return null;
      const routine = isRoutineHead(p, first);
      recover(p, first, routine);
      if (p.at(T.EOF) && !last) return null;
      return { kind: "unread", problem: stopped.problem, start, end: Math.max(p.previousEnd, start) };
    }
  }
}

/** Words with which no statement ends. */
const OPEN_ENDED: ReadonlySet<number> = new Set([
  K.NOT,
  K.CONSTRAINT,
  K.WITH,
  K.WHERE,
  K.FROM,
  K.INTO,
  K.USING,
  K.JOIN,
  K.UNION,
  K.EXCEPT,
  K.INTERSECT,
  K.BETWEEN,
  K.AND,
  K.OR,
  K.BY,
  K.AS,
  K.IS,
  K.CREATE,
  K.ALTER,
  K.DROP,
  K.GRANT,
  K.REVOKE,
]);

/** Whether a statement that was read ends in the middle: `ADD tag int NOT`, `LANGUAGE` without a name. */
function isCutOff(p: Parser, tree: Statement, first: number): boolean {
  const last = p.pos - 1;
  if (p.tokens.kinds[last] !== T.WORD) return false;
  const word = p.tokens.marks[last];
  const reserved = (p.dialect.wordClass[word] & 1) !== 0;
  // FLASHBACK TABLE t TO BEFORE DROP
  const before = word === K.DROP && p.tokens.marks[last - 1] === K.BEFORE;
  if (OPEN_ENDED.has(word) && !before && (reserved || last === first)) return true;
  switch (tree.kind) {
    case "create-routine":
      return (
        (word === K.LANGUAGE && tree.body === null) || (word === K.ON && tree.trigger !== null && !tree.trigger.table)
      );
    case "create-index":
      return word === K.ON;
    case "create-table":
      return word === K.WITH;
    case "alter-table":
      return p.tokens.marks[last - 1] === K.CONSTRAINT && p.tokens.marks[last - 2] === K.ADD;
    case "drop":
      return tree.names.length === 0 && (word === K.TABLE || word === K.VIEW || word === K.INDEX || word === K.SCHEMA);
    case "opaque":
      return tree.verb !== "" && (word === K.GRANT || word === K.REVOKE || (word === K.IS && tree.verb === "comment"));
    default:
      return false;
  }
}

/** EXEC in Oracle's shell is one line and needs no terminator. */
function endsWithLine(p: Parser, first: number): boolean {
  if (!p.dialect.syntax.shellLines || p.tokens.kinds[first] !== T.WORD) return false;
  const word = p.tokens.marks[first];
  return (word === K.EXEC || word === K.EXECUTE) && p.firstOnLine();
}

/** `\\copy berth from 'file'`: the client's own COPY, which fills the table all the same (postgresql). */
function clientCopy(p: Parser, words: string, start: number): Statement | null {
  if (p.dialect.lexical.client !== "psql" || !/^\\copy\s/i.test(words)) return null;
  // The backslash is blanked, so that every place stays where it is.
  const text = ` ${words.slice(1)}`;
  const { statements } = readInner(p, text, start, { start, end: start + text.length }, (inner) => {
    const tree = topStatement(inner);
    return [tree];
  });
  const tree = statements?.[0];
  return tree?.kind === "copy" ? { ...tree, start } : null;
}

/** The lines of inline data in the current token, without the one that ends it. */
function dataRows(p: Parser): number {
  const { starts, ends } = p.tokens;
  let count = 0;
  for (let at = p.text.indexOf("\n", starts[p.pos]); at >= 0 && at < ends[p.pos]; at = p.text.indexOf("\n", at + 1)) {
    if (p.text[at - 1] !== "." || p.text[at - 2] !== "\\" || (at > 2 && p.text[at - 3] !== "\n")) count++;
  }
  return count;
}

function separator(p: Parser, start: number, kind: T): ReadStatement {
  const text = p.slice(start, p.previousEnd);
  const tree: Statement = { kind: "directive", text, start, end: p.previousEnd };
  return {
    kind: "directive",
    class: "client",
    tree,
    comments: [],
    terminator: kind === T.BATCH ? "batch" : "delimiter",
    rows: 0,
    repeat: batchCount(text),
    start,
    end: p.previousEnd,
  };
}

function batchCount(text: string): number {
  const count = /^go[ \t]+(\d+)/i.exec(text);
  return count ? Number(count[1]) : 1;
}

/** A word that begins a statement in a dialect without terminators, beyond those of the grammar. */
function canStart(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  return (
    p.marked(K.ENABLE) || p.marked(K.DISABLE) || p.marked(K.MOVE) || p.marked(K.SHUTDOWN) || p.marked(K.RECONFIGURE)
  );
}

/** Whether the statement defines code, so that the words inside it are no statements of the script. */
function isRoutineHead(p: Parser, first: number): boolean {
  const { kinds, marks, count } = p.tokens;
  const head = marks[first];
  if (kinds[first] !== T.WORD) return false;
  if (head === K.BEGIN || head === K.DECLARE || head === K.DO) return true;
  if (head !== K.CREATE && head !== K.ALTER) return false;
  for (let i = first + 1; i < Math.min(count, first + 16); i++) {
    if (kinds[i] !== T.WORD) continue;
    switch (marks[i]) {
      case K.FUNCTION:
      case K.PROCEDURE:
      case K.PROC:
      case K.TRIGGER:
      case K.PACKAGE:
      case K.EVENT:
      case K.TYPE:
        return true;
      case K.TABLE:
      case K.VIEW:
      case K.INDEX:
        return false;
      default:
    }
  }
  return false;
}

/** Moves to where the next statement begins after one that could not be read. */
function recover(p: Parser, first: number, routine: boolean): void {
  if (routine) {
    skipBody(p, first);
    return;
  }
  // After a string that never closes nothing of the statement can be trusted.
  const broken = p.at(T.BAD);
  const stopped = p.pos;
  p.seek(first + 1);
  while (!p.atEnd() || p.pos < stopped) {
    if (p.at(T.EOF)) return;
    if (p.at(T.WORD) && (beginsLine(p) || (broken && p.pos > stopped && startsNext(p))) && p.firstOnLine()) return;
    if (p.at(T.DIRECTIVE)) return;
    p.advance();
  }
}

/** Words that begin a statement and hardly ever stand first on a line inside another one. */
function beginsLine(p: Parser): boolean {
  switch (p.kw) {
    case K.INSERT:
    case K.DELETE:
    case K.MERGE:
    case K.CREATE:
    case K.ALTER:
    case K.DROP:
    case K.TRUNCATE:
    case K.COMMIT:
    case K.ROLLBACK:
    case K.GRANT:
    case K.REVOKE:
      return p.peekKind(1) === T.WORD || p.peekKind(1) === T.QUOTED || p.peekKind(1) === T.SEMICOLON;
    case K.UPDATE:
      return (p.peekKind(1) === T.WORD || p.peekKind(1) === T.QUOTED) && !p.nextIs(K.SET);
    case K.BEGIN:
      return p.peekKind(1) === T.SEMICOLON || p.nextIs(K.TRANSACTION) || p.nextIs(K.TRAN);
    default:
      return false;
  }
}

/** Takes a body that could not be read, BEGIN counted against END, up to its end. */
function skipBody(p: Parser, first: number): void {
  p.seek(first);
  let depth = 0;
  while (!p.at(T.EOF) && !p.at(T.BATCH) && !p.at(T.DELIMITER)) {
    if (p.at(T.WORD)) {
      if ((p.marked(K.BEGIN) && p.pos > first) || p.marked(K.CASE)) depth++;
      else if (
        p.marked(K.END) &&
        depth > 0 &&
        !(p.nextIs(K.IF) || p.nextIs(K.LOOP) || p.nextIs(K.WHILE) || p.nextIs(K.REPEAT))
      )
        depth--;
    } else if (p.at(T.SEMICOLON) && depth === 0 && !p.dialect.syntax.semicolonsInside) return;
    p.advance();
  }
}

/** What a statement does, by its tree. */
export function classOf(tree: Statement): StatementClass {
  switch (tree.kind) {
    case "select":
      return tree.query.with?.tables.some((table) => isChange(table.body.kind))
        ? "rows"
        : selectsInto(tree)
          ? "structure"
          : "reads";
    case "insert":
    case "multi-insert":
    case "update":
    case "delete":
    case "merge":
    case "truncate":
      return "rows";
    case "create-table":
    case "create-index":
    case "alter-table":
    case "create-view":
    case "create-routine":
    case "create-rule":
    case "create-type":
    case "create-schema":
    case "create-synonym":
    case "comment":
    case "alter-trigger":
    case "rename":
    case "set-counter":
      return "structure";
    case "setting":
      return "session";
    case "block":
    case "if":
    case "loop":
    case "call-statement":
    case "dynamic":
      return "code";
    case "assign":
    case "declare":
      return "session";
    case "copy":
      return tree.direction === "in" ? "rows" : "reads";
    case "transaction":
      return "transaction";
    case "drop":
      return RIGHTS_OBJECTS.has(tree.object) ? "rights" : "structure";
    case "opaque":
      return tree.class;
    case "directive":
      return "client";
    case "unread":
      return "unread";
  }
}

function isChange(kind: string): boolean {
  return kind === "insert" || kind === "update" || kind === "delete" || kind === "merge";
}

function selectsInto(tree: Statement & { kind: "select" }): boolean {
  const { body } = tree.query;
  return body.kind === "select" && body.into?.what === "table";
}

/** A script as {@link readScript} gives it. */
export interface Script {
  dialect: DialectId;
  text: string;
  statements: ReadStatement[];
  /** Why statements could not be read, in the order of the script. */
  problems: (Problem & { statement: number })[];
}

/**
 * Reads a whole script. Never throws for what a script holds: a statement that cannot be read is in
 * the result as `unread`, with what was expected and where.
 *
 * @param text the script
 * @param options.dialect its language; `postgresql` if left out
 *
 * @example
 * readScript("DELETE FROM berth;", { dialect: "sqlite" }).statements[0].kind // "delete"
 */
export function readScript(text: string, options: { dialect?: DialectId } = {}): Script {
  const dialect = options.dialect ?? usualDialect;
  const statements: ReadStatement[] = [];
  const problems: Script["problems"] = [];
  new ScriptReader(dialect).push(text, true, (read) => {
    if (read.tree.kind === "unread") problems.push({ ...read.tree.problem, statement: statements.length });
    statements.push(read);
  });
  return { dialect, text, statements, problems };
}
