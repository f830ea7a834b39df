import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type {
  Building,
  CreateRoutineStatement,
  CreateViewStatement,
  Ident,
  Span,
  Statement,
  TriggerHead,
} from "../nodes/tree.ts";
import { type Parser, ReadingStopped } from "../reading/parser.ts";
import { batchList } from "./batch.ts";
import { declarationList, nestedRoutine } from "./declarations.ts";
import { readInner, reading } from "./dynamic.ts";
import { expression } from "./expression.ts";
import { grow } from "./growing.ts";
import { ifExists } from "./if-exists.ts";
import { apart } from "./known-text.ts";
import { plainDeclaration } from "./plain-nodes.ts";
import { blockBody, bodyStatement } from "./procedural.ts";
import { query } from "./query.ts";
import { skipRoutine } from "./routine.ts";
import { skipStatement, statementBegins } from "./statement-end.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

/** CREATE VIEW and CREATE MATERIALIZED VIEW starting after VIEW. */
export function createView(
  p: Parser,
  start: number,
  head: { orReplace: boolean; temporary: boolean; materialized: boolean },
): CreateViewStatement {
  const ifNotExists = ifExists(p);
  const name = p.name("the name of a view");
  const node: Building<CreateViewStatement> = {
    kind: "create-view",
    name,
    columns: null,
    query: null,
    orReplace: head.orReplace,
    ifNotExists,
    temporary: head.temporary,
    materialized: head.materialized,
    checkOption: null,
    security: viewSecurity(p),
    algorithm: viewAlgorithm(p),
    readOnly: false,
    start,
    end: start,
  };
  if (p.at(T.LPAREN)) viewColumns(p, node);
  // Options before AS: WITH (…), ON PREBUILT TABLE, BUILD DEFERRED, REFRESH …
  while (!p.is(K.AS)) {
    if (p.atEnd()) p.fail("AS");
    if (p.at(T.LPAREN)) viewOptions(p, node);
    else p.advance();
  }
  p.advance();
  node.query = query(p);
  while (!p.atEnd() && !(p.inSchema && statementBegins(p))) {
    if (p.at(T.BAD)) p.fail("the end of the statement");
    if (p.is(K.CHECK) && p.nextIs(K.OPTION))
      node.checkOption ??= p.tokens.marks[p.pos - 1] === K.LOCAL ? "local" : "cascaded";
    if (p.is(K.READ) && p.nextIs(K.ONLY)) node.readOnly = true;
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  node.end = p.previousEnd;
  return node;
}

/** SQL SECURITY INVOKER among the words before VIEW (mysql). */
function viewSecurity(p: Parser): "definer" | "invoker" | null {
  const at = inHead(p, K.SECURITY);
  return at === null ? null : p.nextIs(K.INVOKER, at + 1) ? "invoker" : "definer";
}

/** ALGORITHM = TEMPTABLE among the words before VIEW (mysql, mariadb). */
function viewAlgorithm(p: Parser): "merge" | "temptable" | null {
  const at = inHead(p, K.ALGORITHM);
  const word = at === null ? "" : p.wordAhead(at + 2).toLowerCase();
  return word === "temptable" || word === "merge" ? word : null;
}

/** Where a word stands between CREATE or ALTER and here, as an offset; null: nowhere. */
function inHead(p: Parser, word: K): number | null {
  for (let at = -2; at > -16 && p.pos + at >= 0; at--) {
    if (p.nextIs(word, at)) return at;
    if (p.nextIs(K.CREATE, at) || p.nextIs(K.ALTER, at)) return null;
  }
  return null;
}

/** WITH (check_option = local, security_invoker = true) (postgresql). */
function viewOptions(p: Parser, node: Building<CreateViewStatement>): void {
  const from = p.start;
  p.skipParens();
  const text = p.slice(from, p.previousEnd).toLowerCase();
  const at = text.indexOf("check_option");
  if (at >= 0) node.checkOption = text.startsWith("local", text.search(/local|cascaded/)) ? "local" : "cascaded";
  if (text.includes("security_invoker"))
    node.security = /security_invoker\s*=\s*(?:false|off|0)/.test(text) ? null : "invoker";
}

/** The column names; plsql allows constraints among them, which do not matter here. */
function viewColumns(p: Parser, node: Building<CreateViewStatement>): void {
  p.advance();
  const columns: Ident[] = [];
  while (!p.at(T.RPAREN)) {
    columns.push(p.label("a column"));
    while (!p.at(T.COMMA) && !p.at(T.RPAREN)) {
      if (p.atEnd()) p.fail(") or ,");
      if (p.at(T.LPAREN)) p.skipParens();
      else p.advance();
    }
    if (!p.acceptKind(T.COMMA)) break;
  }
  p.expectKind(T.RPAREN, ") or ,");
  node.columns = columns;
}

/**
 * CREATE FUNCTION, PROCEDURE, TRIGGER, PACKAGE, EVENT, TYPE starting after that word. A body that
 * cannot be read is passed whole, with the reason: the statement only defines it.
 */
export function createRoutine(p: Parser, start: number, object: string, orReplace: boolean): CreateRoutineStatement {
  const node: Building<CreateRoutineStatement> = {
    kind: "create-routine",
    object,
    name: null,
    orReplace,
    ifNotExists: false,
    language: p.dialect.id,
    arguments: null,
    trigger: null,
    calls: null,
    body: null,
    problem: null,
    start,
    end: start,
  };
  const from = p.pos;
  const depth = p.depth;
  const routine = p.inRoutine;
  try {
    const isBody = (object === "package" || object === "type") && p.isText("BODY");
    if (isBody) p.advance();
    node.ifNotExists = ifExists(p);
    node.name = p.name("a name");
    if (object === "trigger") triggerHead(p, node);
    else if (object === "function" || object === "procedure") node.arguments = argumentsAhead(p);
    if (object === "trigger" && isCompound(p)) apart(p, () => compoundBody(p, node));
    else if (object === "package" && p.dialect.syntax.packagesApart) skipPackage(p);
    else apart(p, () => definitionBody(p, node, isBody));
    if (!p.atEnd()) p.fail("the end of the statement");
  } catch (stopped) {
    if (!(stopped instanceof ReadingStopped)) throw stopped;
    node.problem = stopped.problem;
    node.body = null;
    p.depth = depth;
    p.inRoutine = routine;
    p.seek(from);
    skipRoutine(p);
  }
  node.end = p.previousEnd;
  return node;
}

/** A package of MariaDB, whose routines are written in Oracle's way: taken to its own END. */
function skipPackage(p: Parser): void {
  for (let depth = 0; p.kind !== T.EOF && p.kind !== T.DELIMITER && p.kind !== T.BATCH; ) {
    if (p.at(T.LPAREN)) {
      p.skipParens();
      continue;
    }
    const word = p.at(T.WORD) ? p.kw : K.NONE;
    p.advance();
    if (word === K.BEGIN || word === K.IF || word === K.LOOP || word === K.CASE) depth++;
    else if (word === K.END) {
      if (depth === 0) {
        if (p.atName()) p.advance();
        return;
      }
      depth--;
      if (p.is(K.IF) || p.is(K.LOOP) || p.is(K.CASE)) p.advance();
    }
  }
  p.fail("END");
}

/** The arguments that stand ahead, in parentheses or, in tsql, up to AS; they are read again with the body. */
function argumentsAhead(p: Parser): Span[] | null {
  const from = p.pos;
  const bare = p.dialect.syntax.bodyAfterAs && !p.at(T.LPAREN);
  if (!bare && !p.acceptKind(T.LPAREN)) return null;
  const list: Span[] = [];
  let start = p.start;
  const take = (): void => {
    if (p.pos > from && p.previousEnd > start) list.push({ start, end: p.previousEnd });
  };
  while (!p.atEnd() && !(bare ? p.is(K.AS) || p.is(K.WITH) || p.is(K.FOR) : p.at(T.RPAREN))) {
    if (p.at(T.LPAREN)) p.skipParens();
    else if (p.at(T.COMMA)) {
      take();
      p.advance();
      start = p.start;
    } else p.advance();
  }
  take();
  p.seek(from);
  return bare && list.length === 0 ? null : list;
}

/** COMPOUND TRIGGER: a section for each moment (plsql). */
function isCompound(p: Parser): boolean {
  return p.nextIs(K.TRIGGER) && p.isText("COMPOUND");
}

/** Declarations, and `AFTER EACH ROW IS BEGIN … END AFTER EACH ROW;` for each moment, up to the END of the trigger. */
function compoundBody(p: Parser, node: Building<CreateRoutineStatement>): void {
  const body: Statement[] = [];
  p.seek(p.pos + 2);
  p.inRoutine++;
  while (!p.is(K.END)) {
    if (p.at(T.EOF) || p.at(T.BATCH)) p.fail("END");
    if (!p.is(K.BEFORE) && !p.is(K.AFTER) && !p.is(K.INSTEAD)) {
      p.advance();
      continue;
    }
    while (!p.is(K.BEGIN)) {
      if (p.at(T.EOF) || p.at(T.BATCH)) p.fail("BEGIN");
      p.advance();
    }
    body.push(blockBody(p, p.start, []));
    while (!p.at(T.SEMICOLON)) {
      if (p.atEnd()) p.fail(";");
      p.advance();
    }
    p.advance();
  }
  p.inRoutine--;
  p.advance();
  if (p.atName()) p.advance();
  node.body = body;
}

function definitionBody(p: Parser, node: Building<CreateRoutineStatement>, isBody: boolean): void {
  switch (p.dialect.engine.routineBody) {
    case "quoted":
      postgresBody(p, node);
      break;
    case "batch":
      batchBody(p, node);
      break;
    case "package":
      plsqlBody(p, node, isBody);
      break;
    case "statement":
      // CREATE PROCEDURE name (parameters) AS statement
      if (p.at(T.LPAREN)) p.skipParens();
      else while (!p.is(K.AS) && !p.atEnd()) p.advance();
      p.expect(K.AS);
      node.body = [bodyStatement(p)];
      break;
    case "trigger":
      p.inRoutine++;
      node.body = [blockBody(p, p.start, [])];
      p.inRoutine--;
      break;
    default:
      psmBody(p, node);
  }
}

const TIMINGS: Partial<Record<K, TriggerHead["timing"]>> = {
  [K.BEFORE]: "before",
  [K.AFTER]: "after",
  [K.INSTEAD]: "instead",
};

/** When a trigger fires, on what, and for which rows; up to its body. */
function triggerHead(p: Parser, node: Building<CreateRoutineStatement>): void {
  const head: Building<TriggerHead> = {
    timing: "after",
    events: [],
    columns: null,
    table: null,
    row: p.dialect.syntax.rowTriggers,
    when: null,
  };
  node.trigger = head;
  const begun = (): boolean => {
    if (p.atEnd()) return true;
    if (p.is(K.EXECUTE) || p.is(K.BEGIN) || p.is(K.DECLARE) || p.is(K.CALL) || isCompound(p)) return true;
    if (p.dialect.syntax.bodyAfterAs) return p.is(K.AS);
    return (
      p.dialect.syntax.bodyAfterHead &&
      head.table !== null &&
      p.tokens.marks[p.pos - 1] === K.ROW &&
      !p.is(K.FOLLOWS) &&
      !p.is(K.PRECEDES)
    );
  };
  while (!begun()) {
    const timing = p.at(T.WORD) ? TIMINGS[p.kw as K] : undefined;
    if (timing && head.events.length === 0) head.timing = timing;
    if (p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.TRUNCATE)) {
      head.events.push(p.tokenText().toLowerCase() as TriggerHead["events"][number]);
      p.advance();
      if (p.is(K.OF)) {
        p.advance();
        head.columns ??= [];
        do grow(head.columns, p.label("a column"));
        while (p.acceptKind(T.COMMA));
      }
      continue;
    }
    if (p.is(K.ON) && head.table === null) {
      p.advance();
      if (!p.is(K.DATABASE) && !p.is(K.SCHEMA) && !p.is(K.ALL)) head.table = p.name("the name of a table");
      continue;
    }
    if (p.is(K.ROW) && p.tokens.marks[p.pos - 1] === K.EACH) head.row = true;
    if (p.is(K.WHEN)) {
      p.advance();
      head.when = expression(p);
      continue;
    }
    if ((p.is(K.FOLLOWS) || p.is(K.PRECEDES)) && p.dialect.syntax.bodyAfterHead) {
      p.advance();
      p.name("the name of a trigger");
      return;
    }
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
}

/** PostgreSQL: arguments, AS '…' or a body of its own; LANGUAGE stands before or after it. */
function postgresBody(p: Parser, node: Building<CreateRoutineStatement>): void {
  if (node.object === "trigger") {
    p.expect(K.EXECUTE);
    if (!p.accept(K.FUNCTION)) p.expect(K.PROCEDURE);
    node.calls = p.name("the name of a function");
    p.skipParens();
    return;
  }
  let text: { value: string; offset: number | null; start: number; end: number } | null = null;
  node.language = "";
  while (!p.atEnd()) {
    if (p.is(K.BEGIN) && p.nextIs(K.ATOMIC)) {
      p.inRoutine++;
      node.body = [blockBody(p, p.start, [])];
      p.inRoutine--;
      node.language ||= "sql";
    } else if (p.is(K.RETURN) && p.peekKind(1) !== T.EOF && !p.nextIs(K.NULL)) {
      p.advance();
      expression(p);
      node.body = [];
    } else if (p.is(K.AS) && p.peekKind(1) === T.STRING) {
      p.advance();
      text = quotedBody(p);
    } else if (p.is(K.LANGUAGE)) {
      p.advance();
      if (p.atEnd()) p.fail("the name of a language");
      node.language = p.at(T.STRING) ? stringValue(p).toLowerCase() : p.tokenText().toLowerCase();
      p.advance();
    } else if (p.at(T.LPAREN)) p.skipParens();
    else if (p.at(T.BAD)) p.fail("the end of the statement");
    else p.advance();
  }
  if (text) readQuoted(p, node, text);
}

/** A body in quotes, and where its text begins when it stands in the script one to one. */
export function quotedBody(p: Parser): { value: string; offset: number | null; start: number; end: number } {
  const raw = p.tokenText();
  const start = p.start;
  const value = stringValue(p);
  const plain = raw[0] === "$" ? raw.indexOf("$", 1) + 1 : raw.length === value.length + 2 ? 1 : -1;
  p.advance();
  return { value, offset: plain > 0 ? start + plain : null, start, end: p.previousEnd };
}

/** Reads a quoted body in the language of the routine. */
export function readQuoted(
  p: Parser,
  node: Building<CreateRoutineStatement>,
  text: ReturnType<typeof quotedBody>,
): void {
  if (node.language === "plpgsql") {
    const inner = readInner(p, text.value, text.offset, text, plpgsql);
    node.body = inner.statements;
    node.problem = inner.problem;
  } else if (node.language === "sql" && reading.script) {
    const inner = readInner(p, text.value, text.offset, text, reading.script);
    node.body = inner.statements;
    node.problem = inner.problem;
  }
}

/** The text of a PL/pgSQL body: options, a block, perhaps a semicolon. */
export function plpgsql(p: Parser): Statement[] {
  // #variable_conflict use_column
  while (p.at(T.OPERATOR) && p.tokenText() === "#") p.seek(p.pos + 3);
  p.inRoutine++;
  const node = bodyStatement(p);
  p.inRoutine--;
  p.acceptKind(T.SEMICOLON);
  return [node];
}

/** T-SQL: AS and statements up to the end of the batch. */
function batchBody(p: Parser, node: Building<CreateRoutineStatement>): void {
  let depth = 0;
  while (depth > 0 || !(p.is(K.AS) && !isDefaultAs(p))) {
    if (p.at(T.EOF) || p.at(T.BATCH)) p.fail("AS");
    if (p.at(T.LPAREN)) depth++;
    else if (p.at(T.RPAREN)) depth--;
    p.advance();
  }
  p.advance();
  if (p.is(K.EXTERNAL)) {
    skipStatement(p);
    node.body = [];
    return;
  }
  p.inRoutine++;
  if (p.is(K.RETURN) && (p.peekKind(1) === T.LPAREN || p.nextIs(K.SELECT))) {
    // An inline function: RETURN (SELECT …)
    p.advance();
    const inner = query(p);
    node.body = [{ kind: "select", query: inner, start: inner.start, end: inner.end }];
    p.acceptKind(T.SEMICOLON);
  } else node.body = batchList(p);
  p.inRoutine--;
}

/** `@a AS int`: AS between a parameter and its type. */
function isDefaultAs(p: Parser): boolean {
  return (
    p.tokens.kinds[p.pos - 1] === T.VARIABLE ||
    p.nextIs(K.OWNER) ||
    (p.tokens.marks[p.pos - 1] === K.EXECUTE && p.tokens.kinds[p.pos - 1] === T.WORD) ||
    p.tokens.marks[p.pos - 1] === K.EXEC
  );
}

/** PL/SQL: IS or AS, declarations, BEGIN … END; packages hold routines. */
function plsqlBody(p: Parser, node: Building<CreateRoutineStatement>, isBody: boolean): void {
  p.inRoutine++;
  if (node.object === "trigger") {
    if (p.is(K.CALL)) node.body = [bodyStatement(p)];
    else {
      const declarations = p.accept(K.DECLARE) ? declarationList(p) : [];
      node.body = [blockBody(p, p.start, declarations)];
    }
  } else if (node.object === "type" && !isBody) {
    skipStatement(p);
    node.body = [];
  } else {
    while (!p.is(K.IS) && !p.is(K.AS)) {
      if (p.atEnd()) p.fail("IS or AS");
      if (p.at(T.LPAREN)) p.skipParens();
      else p.advance();
    }
    p.advance();
    if (p.is(K.LANGUAGE) || p.is(K.EXTERNAL)) {
      skipStatement(p);
      node.body = [];
    } else if (node.object === "package" || node.object === "type") packageBody(p, node);
    else {
      const declarations = declarationList(p);
      node.body = [blockBody(p, p.start, declarations)];
    }
  }
  p.inRoutine--;
}

function packageBody(p: Parser, node: Building<CreateRoutineStatement>): void {
  const members: Statement[] = [];
  for (;;) {
    while (p.acceptKind(T.SEMICOLON));
    if (p.is(K.END) || p.is(K.BEGIN)) break;
    if (p.at(T.EOF) || p.at(T.BATCH)) p.fail("END");
    // MEMBER, STATIC, CONSTRUCTOR, MAP, ORDER stand before the routines of a type.
    while (
      p.at(T.WORD) &&
      !p.is(K.FUNCTION) &&
      !p.is(K.PROCEDURE) &&
      /^(?:member|static|constructor|map|order|overriding|final|instantiable|not)$/i.test(p.tokenText())
    )
      p.advance();
    if (p.is(K.FUNCTION) || p.is(K.PROCEDURE)) members.push(nestedRoutine(p));
    else members.push(member(p));
  }
  if (p.is(K.BEGIN)) members.push(blockBody(p, p.start, []));
  else {
    p.expect(K.END);
    if (p.at(T.WORD) || p.at(T.QUOTED)) p.advance();
  }
  node.body = members;
}

/** A type, variable, cursor or announcement of a package. */
function member(p: Parser): Statement {
  const start = p.start;
  skipStatement(p);
  return plainDeclaration(start, p.previousEnd);
}

/** MySQL and MariaDB: characteristics, then one statement. */
function psmBody(p: Parser, node: Building<CreateRoutineStatement>): void {
  if (node.object === "event") {
    while (!p.is(K.DO) || p.tokens.marks[p.pos - 1] === K.ON) {
      if (p.atEnd()) p.fail("DO");
      p.advance();
    }
    p.advance();
  } else if (node.object !== "trigger") {
    if (p.at(T.LPAREN)) p.skipParens();
    if (p.is(K.RETURNS)) {
      p.advance();
      typeName(p);
      if (p.accept(K.COLLATE)) p.advance();
    }
    if (p.isText("SONAME")) {
      skipStatement(p);
      node.body = [];
      return;
    }
    for (;;) {
      if (p.is(K.COMMENT)) p.seek(p.pos + 2);
      else if (p.accept(K.LANGUAGE)) {
        if (!p.atEnd()) p.advance();
      } else if (p.is(K.NOT) && p.nextIs(K.DETERMINISTIC)) p.seek(p.pos + 2);
      else if (p.is(K.DETERMINISTIC)) p.advance();
      else if (p.is(K.CONTAINS) || p.isText("CONTAINS")) p.seek(p.pos + 2);
      else if (p.isText("NO") && p.nextIs(K.SQL)) p.seek(p.pos + 2);
      else if (p.is(K.READS) || p.isText("MODIFIES")) p.seek(p.pos + 3);
      else if (p.is(K.SQL) && p.nextIs(K.SECURITY)) p.seek(p.pos + 3);
      else break;
    }
  }
  node.body = [bodyStatement(p)];
}
