import { foldName } from "../../catalog/names.ts";
import type { Parsed } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { readText } from "../../sql/grammar/dynamic.ts";
import type { Expr, IfStatement, Name, Node, OpaqueStatement, Statement } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { cutFrom } from "../../sql/reading/inner-text.ts";
import type { Slice } from "../../text/slice.ts";
import { calledName } from "../conditions/constants.ts";

/** A condition under which a piece of code runs; `condition: null` where it cannot be told (loops, handlers). */
export interface Guard {
  condition: Expr | null;
  holds: boolean;
}

/**
 * What a body does, as far as its text says: names are not looked up yet, conditions not decided. `many`: it
 * may happen several times in one run of the body, in a loop or once for each row of a query.
 */
export interface CodeEffects {
  /** Statements that change rows, or read through functions that may. */
  statements: { statement: Statement; guards: readonly Guard[]; many: boolean }[];
  /** Columns of the new row that it assigns, folded, what they are given, and the text of it in small letters without blanks. */
  rewrites: { column: string; value: RewrittenBy; form: string; guards: readonly Guard[] }[];
  /** Places where it refuses the change, or drops the row without a word. */
  stops: { what: "refuses" | "swallows"; message: string; guards: readonly Guard[] }[];
  /** Routines that it calls. A procedure is called for its effects; a function may have none. */
  calls: { name: Name; procedure: boolean; guards: readonly Guard[]; many: boolean }[];
  /** What is put together while it runs, or could not be read. */
  opaque: { why: string; guards: readonly Guard[] }[];
}

/** `stamp`: the time or the user; `tidy`: a function of its own new value alone, so what is tidy stays as it is. */
export type RewrittenBy = "stamp" | "tidy" | "other";

const UNTOLD: Guard = { condition: null, holds: true };

const read = new WeakMap<Parsed<readonly Statement[]>, CodeEffects>();

/** What a body does, read once. */
export function effectsOf(parsed: Parsed<readonly Statement[]>, dialect: Dialect): CodeEffects {
  const known = read.get(parsed);
  if (known) return known;
  const made = codeEffects(parsed, dialect);
  read.set(parsed, made);
  return made;
}

/** Reads what a body does. */
export function codeEffects({ tree, text, inner }: Parsed<readonly Statement[]>, dialect: Dialect): CodeEffects {
  const effects: CodeEffects = { statements: [], rewrites: [], stops: [], calls: [], opaque: [] };
  const own: Slice = (start, end) => text.slice(start, end);
  new Reader(effects, inner ? cutFrom(inner, own) : own, dialect).list(tree, []);
  return effects;
}

class Reader {
  readonly #effects: CodeEffects;
  readonly #cut: Slice;
  readonly #dialect: Dialect;
  #loops = 0;

  constructor(effects: CodeEffects, cut: Slice, dialect: Dialect) {
    this.#effects = effects;
    this.#cut = cut;
    this.#dialect = dialect;
  }

  /** Statements in order. After an IF whose branch leaves, the rest runs only where it was not taken. */
  list(statements: readonly Statement[], guards: readonly Guard[]): void {
    let current = guards;
    for (const statement of statements) {
      this.#one(statement, current);
      if (statement.kind === "if") {
        for (const { condition, body } of statement.branches)
          if (condition && this.#leaves(body)) current = [...current, { condition, holds: false }];
      }
    }
  }

  /** Whether a list of statements ends by leaving the body. */
  #leaves(body: readonly Statement[]): boolean {
    const last = body[body.length - 1];
    if (!last) return false;
    if (last.kind === "block") return this.#leaves(last.body);
    if (last.kind === "if")
      return last.branches.some(({ condition }) => !condition) && last.branches.every((one) => this.#leaves(one.body));
    return /^(?:return|raise|signal|throw|leave)\b/i.test(this.#slice(last));
  }

  #one(statement: Statement, guards: readonly Guard[]): void {
    const { statements, opaque } = this.#effects;
    switch (statement.kind) {
      case "block":
        this.list(statement.declarations, [...guards, UNTOLD]);
        this.list(statement.body, guards);
        for (const handler of statement.handlers) this.list(handler.body, [...guards, UNTOLD]);
        return;
      case "if":
        this.#branches(statement, guards);
        return;
      case "loop":
        this.#loops++;
        this.list(statement.body, [...guards, UNTOLD]);
        this.#loops--;
        this.#calls(statement.query, guards);
        return;
      case "declare":
        if (statement.handler) this.list([statement.handler], [...guards, UNTOLD]);
        return;
      case "dynamic":
        if (statement.body) this.list(statement.body, guards);
        else {
          const head = statement.text ? changeOfHead(statement.text, this.#dialect) : null;
          if (head) statements.push({ statement: head, guards, many: this.#loops > 0 });
          opaque.push({ why: "it runs SQL that is put together while it runs", guards });
        }
        return;
      case "call-statement":
        this.#called(statement.name, statement, guards);
        return;
      case "assign":
        for (const { targets, value } of statement.assignments)
          for (const target of targets) this.#rewrite(target, rewrittenBy(target, value), guards, value);
        this.#calls(statement, guards);
        return;
      case "select": {
        const { body } = statement.query;
        const into = statement.query.into ?? (body.kind === "select" ? body.into : null);
        if (into?.what === "variables") for (const target of into.targets) this.#rewrite(target, "other", guards);
        statements.push({ statement, guards, many: this.#loops > 0 });
        this.#calls(statement, guards);
        return;
      }
      case "transaction":
        if (statement.action === "rollback" && this.#dialect.engine.rollbackInTriggers)
          this.#stop("refuses", "it rolls the transaction back", guards);
        return;
      case "opaque":
        this.#opaque(statement, guards);
        return;
      case "unread":
        opaque.push({ why: "a part of it could not be read", guards });
        return;
      default:
        statements.push({ statement, guards, many: this.#loops > 0 });
        this.#calls(statement, guards);
    }
  }

  #branches(statement: IfStatement, guards: readonly Guard[]): void {
    let not: readonly Guard[] = [];
    for (const { condition, body } of statement.branches) {
      const own = condition ? [...guards, ...not, { condition, holds: true }] : [...guards, ...not];
      this.list(body, own);
      if (!condition) continue;
      not = [...not, { condition, holds: false }];
      this.#calls(condition, guards);
    }
  }

  /** NEW.column := …, SET NEW.column = …, SELECT … INTO NEW.column. */
  #rewrite(target: Expr, value: RewrittenBy, guards: readonly Guard[], given: Expr | null = null): void {
    if (target.kind !== "column") return;
    // NEW := filled(NEW)
    if (target.path.length === 1 && target.path[0].text.toLowerCase() === "new")
      this.#effects.opaque.push({ why: "it gives the whole row other values", guards });
    if (target.path.length !== 2) return;
    if (target.path[0].text.toLowerCase() !== "new") return;
    const form = given ? this.#slice(given).replace(/\s/g, "").toLowerCase() : "";
    this.#effects.rewrites.push({ column: foldName(target.path[1], this.#dialect), value, form, guards });
  }

  #called(name: Name | null, statement: Statement, guards: readonly Guard[]): void {
    if (!name) return;
    const returns = /^return\b/i.test(this.#slice(statement));
    if (/^raise_application_error$/i.test(name.parts[name.parts.length - 1].text))
      this.#stop("refuses", quotedIn(this.#slice(statement)), guards);
    else this.#effects.calls.push({ name, procedure: !returns, guards, many: this.#loops > 0 });
    this.#calls(statement, guards);
  }

  /** Functions among the expressions of a statement. */
  #calls(node: Statement | Expr | Extract<Statement, { kind: "loop" }>["query"], guards: readonly Guard[]): void {
    if (!node) return;
    const rows = readsRows(node);
    walk(node, (one) => {
      if (one.kind !== "call") return undefined;
      const { parts } = one.name;
      const last = parts[parts.length - 1].text;
      // SQLite's RAISE(ABORT, '…') and RAISE(IGNORE).
      if (this.#dialect.engine.raiseFunction && /^raise$/i.test(last)) {
        const [kind] = one.args;
        const ignores = kind?.kind === "column" && /^ignore$/i.test(kind.path[0].text);
        this.#stop(ignores ? "swallows" : "refuses", quotedIn(this.#slice(one)), withWhere(node, guards));
      } else this.#effects.calls.push({ name: one.name, procedure: false, guards, many: this.#loops > 0 || rows });
      return undefined;
    });
  }

  #opaque(statement: OpaqueStatement, guards: readonly Guard[]): void {
    const text = this.#slice(statement);
    switch (statement.verb) {
      case "raise":
        if (!/^raise\s+(?:debug|log|info|notice|warning)\b/i.test(text)) this.#stop("refuses", quotedIn(text), guards);
        return;
      case "signal":
        // SQLSTATE '01…' is a warning.
        if (!/^signal\s+sqlstate\s+(?:value\s+)?'01/i.test(text)) this.#stop("refuses", messageOf(text), guards);
        return;
      case "resignal":
      case "throw":
      case "assert":
        this.#stop("refuses", quotedIn(text), guards);
        return;
      case "raiserror": {
        const severity = /,\s*(\d+)\s*,/.exec(text)?.[1];
        if (severity === undefined || Number(severity) > 10) this.#stop("refuses", quotedIn(text), guards);
        return;
      }
      case "return":
        if (/^return\s+null\b/i.test(text)) this.#stop("swallows", "it returns NULL", guards);
        return;
      default:
        if (statement.class === "code")
          this.#effects.opaque.push({ why: `what ${statement.verb} runs is not read`, guards });
    }
  }

  #stop(what: "refuses" | "swallows", message: string, guards: readonly Guard[]): void {
    this.#effects.stops.push({ what, message, guards });
  }

  #slice({ start, end }: { start: number; end: number }): string {
    return this.#cut(start, end);
  }
}

const CLOCK =
  /^(?:now|current_timestamp|current_date|current_time|localtimestamp|clock_timestamp|statement_timestamp|sysdate|systimestamp|getdate|sysdatetime|getutcdate|utc_timestamp|current_user|session_user|user|suser_sname)$/i;

function rewrittenBy(target: Expr, value: Expr): RewrittenBy {
  if (isStamp(value)) return "stamp";
  if (target.kind !== "column") return "other";
  const own = target.path.map(({ text }) => text.toLowerCase()).join(".");
  let tidy = false;
  let other = false;
  walk(value, (node) => {
    if (node.kind === "column") {
      if (node.path.map(({ text }) => text.toLowerCase()).join(".") === own) tidy = true;
      else other = true;
    } else if (node.kind === "binary" || node.kind === "query" || node.kind === "variable") other = true;
    return undefined;
  });
  return tidy && !other ? "tidy" : "other";
}

/** The time, or who is at work: what audit columns are filled with. */
function isStamp(value: Expr): boolean {
  if (value.kind === "call") return CLOCK.test(value.name.parts[value.name.parts.length - 1].text);
  if (value.kind === "column") return value.path.length === 1 && CLOCK.test(value.path[0].text);
  return value.kind === "cast" && isStamp(value.operand);
}

/** Whether an expression in a piece of code is worked out once for each row of a table. */
export function readsRows(node: Node): boolean {
  let found = false;
  walk(node, (one) => {
    if (one.kind === "table" || one.kind === "table-query" || one.kind === "function") found = true;
    if (one.kind === "values" && one.rowCount > 1) found = true;
    return found ? false : undefined;
  });
  return found;
}

/** SELECT RAISE(…) WHERE condition: the filter is the condition under which it raises. */
function withWhere(node: { kind: string }, guards: readonly Guard[]): readonly Guard[] {
  if (node.kind !== "select" || !("query" in node)) return guards;
  const { body } = (node as Extract<Statement, { kind: "select" }>).query;
  return body.kind === "select" && body.where ? [...guards, { condition: body.where, holds: true }] : guards;
}

/** The first string of a piece of source: the words that the user will read. */
function quotedIn(text: string): string {
  return /'((?:[^']|'')*)'/.exec(text)?.[1].replaceAll("''", "'") ?? "";
}

function messageOf(text: string): string {
  const at = text.toLowerCase().indexOf("message_text");
  return at < 0 ? "" : quotedIn(text.slice(at));
}

/** What dynamic SQL changes where the constant text it begins with says so: `'DELETE FROM log WHERE ' || condition`. */
function changeOfHead(text: Expr, dialect: Dialect): Statement | null {
  let head = text;
  while (
    head.kind === "binary" ||
    (head.kind === "call" && /^(?:concat|format)$/i.test(calledName(head)) && head.args[0])
  )
    head = head.kind === "binary" ? head.left : head.args[0];
  if (head.kind !== "literal" || head.type !== "string") return null;
  const found =
    /^\s{0,99}(insert\s{1,9}into|delete\s{1,9}from|update|truncate\s{1,9}table|truncate)\s{1,9}([\w."`]{1,200})(?:\s{0,9}\(|\s{1,9}set\s{1,9}([\w"`]{1,100})\s{0,9}=|\s|$)/i.exec(
      head.value,
    );
  if (!found || (found[0].length === head.value.length && !/[\s(=]$/.test(found[0]) && head !== text)) return null;
  const [, verb, table, column] = found;
  const [first] = verb.toLowerCase();
  // Which rows, and which values, is not known: a condition on nothing that is known stands for it.
  const sql =
    first === "i"
      ? `INSERT INTO ${table} SELECT * FROM ${table}`
      : first === "t"
        ? `TRUNCATE TABLE ${table}`
        : first === "d"
          ? `DELETE FROM ${table} WHERE chosen_later = 1`
          : column === undefined
            ? ""
            : `UPDATE ${table} SET ${column} = NULL WHERE chosen_later = 1`;
  return sql === "" ? null : (readText(dialect, sql)?.[0] ?? null);
}

/** `inserted` and `deleted` are no tables (tsql). */
export function isPseudo(name: string): boolean {
  return /^(?:inserted|deleted)$/i.test(name);
}
