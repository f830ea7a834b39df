import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Assignment, Building, CallStatement, Expr, Ident, Query, Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { declaration, declarationList } from "./declarations.ts";
import { dynamicStatement } from "./dynamic.ts";
import { expression, expressions, operand } from "./expression.ts";
import { conditionally, inBranches, noteText, noteWritten } from "./known-text.ts";
import { execute, prepare } from "./prepared.ts";
import { atQuery, query, queryRest, select } from "./query.ts";
import { statement } from "./statement.ts";
import { skipStatement } from "./statement-end.ts";

// The procedural languages that share BEGIN … END, IF … THEN … END IF and loops: PL/pgSQL (manual,
// chapter 43), SQL/PSM as MySQL and MariaDB have it, and PL/SQL (Language Reference). T-SQL, whose
// statements need no terminators, is in `batch.ts`.

/** Statements up to a word that ends their list; that word is not taken. */
export function bodyList(p: Parser): Statement[] {
  const list: Statement[] = [];
  for (;;) {
    while (p.acceptKind(T.SEMICOLON));
    if (p.at(T.EOF) || p.at(T.DELIMITER) || p.at(T.BATCH) || endsList(p)) return list;
    const before = p.pos;
    list.push(bodyStatement(p));
    if (!p.acceptKind(T.SEMICOLON) && !endsList(p) && !p.atEnd()) p.fail(";");
    if (p.pos === before) p.advance();
  }
}

function endsList(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.END:
    case K.ELSE:
    case K.ELSIF:
    case K.ELSEIF:
    case K.UNTIL:
      return true;
    case K.EXCEPTION:
      return p.nextIs(K.WHEN);
    case K.WHEN:
      return true;
    default:
      return false;
  }
}

/** One statement of a body, without its terminator. */
export function bodyStatement(p: Parser): Statement {
  p.enter();
  p.inRoutine++;
  const node = labelled(p);
  p.inRoutine--;
  p.leave();
  return node;
}

function labelled(p: Parser): Statement {
  const start = p.start;
  // <<label>> (PL/pgSQL, PL/SQL) or label: (SQL/PSM)
  while (isAngleLabel(p)) {
    while (!closesLabel(p)) p.advance();
    p.advance();
    if (p.isOp(Op.GT)) p.advance();
  }
  if ((p.at(T.WORD) || p.at(T.QUOTED)) && p.peekKind(1) === T.COLON) p.seek(p.pos + 2);
  const node: Building<Statement> = unlabelled(p);
  node.start = start;
  if (node.kind === "call-statement" || node.kind === "opaque") noteWritten(p, node);
  return node;
}

function isAngleLabel(p: Parser): boolean {
  return p.at(T.OPERATOR) && p.tokenText() === "<<";
}

function closesLabel(p: Parser): boolean {
  if (p.atEnd()) p.fail(">>");
  return p.at(T.OPERATOR) && (p.tokenText() === ">>" || p.isOp(Op.SHIFT_RIGHT));
}

function unlabelled(p: Parser): Statement {
  const start = p.start;
  if (!p.at(T.WORD)) return assignmentOrCall(p, start);
  switch (p.kw) {
    case K.BEGIN:
    case K.DECLARE:
      if (p.is(K.DECLARE) && p.dialect.syntax.declareStatements) return declaration(p);
      return block(p);
    case K.IF:
      return inBranches(p, () => ifStatement(p));
    case K.CASE:
      return inBranches(p, () => caseStatement(p));
    case K.LOOP:
    case K.WHILE:
    case K.FOR:
    case K.FORALL:
    case K.REPEAT:
      return conditionally(p, () => loop(p));
    case K.SET:
      if (p.dialect.syntax.declareStatements) return setStatement(p);
      break;
    case K.NULL:
      p.advance();
      return quiet("null", start, p);
    case K.EXECUTE:
      return execute(p);
    case K.PREPARE:
      if (p.dialect.syntax.declareStatements) return prepare(p);
      break;
    case K.CALL:
      return callStatement(p);
    case K.RETURN:
      return returnStatement(p);
    case K.OPEN:
      return openStatement(p);
    case K.EXIT:
    case K.CONTINUE:
    case K.LEAVE:
    case K.ITERATE:
    case K.GOTO:
    case K.RAISE:
    case K.SIGNAL:
    case K.RESIGNAL:
    case K.FETCH:
    case K.MOVE:
    case K.CLOSE:
    case K.GET:
    case K.PIPE:
      return tail(p, p.tokenText().toLowerCase());
    default:
  }
  if (p.isText("FOREACH")) return conditionally(p, () => loop(p));
  if (p.isText("PERFORM")) return perform(p);
  if (p.isText("ASSERT")) return tail(p, "assert");
  if (isAssignment(p)) return assignmentOrCall(p, start);
  if (p.dialect.syntax.callsByName && p.kw === K.NONE) return assignmentOrCall(p, start);
  if (p.dialect.syntax.callsByName && !isChange(p) && isCallHead(p)) return assignmentOrCall(p, start);
  return statement(p);
}

function quiet(verb: string, start: number, p: Parser): Statement {
  return { kind: "opaque", verb, object: "", class: "session", name: null, start, end: p.previousEnd };
}

/** A statement of the language whose text after its first word does not matter here. */
function tail(p: Parser, verb: string): Statement {
  const start = p.start;
  skipStatement(p);
  return quiet(verb, start, p);
}

/** Whether `name := …` or `name.field = …` begins here. */
function isAssignment(p: Parser): boolean {
  let at = 1;
  for (;;) {
    const kind = p.peekKind(at);
    if (kind === T.DOT) at += 2;
    else if (kind === T.LBRACKET) {
      let depth = 0;
      do {
        const next = p.peekKind(at);
        if (next === T.LBRACKET) depth++;
        else if (next === T.RBRACKET) depth--;
        else if (next === T.EOF || next === T.SEMICOLON) return false;
        at++;
      } while (depth > 0);
    } else break;
  }
  if (p.peekKind(at) !== T.OPERATOR) return false;
  const mark = p.peekMark(at);
  return mark === Op.ASSIGN || (mark === Op.EQ && p.dialect.syntax.equalsAssigns);
}

/** A bare call such as `dbms_output.put_line(…)`, its name being a word of the language as well. */
function isCallHead(p: Parser): boolean {
  const next = p.peekKind(1);
  if (next !== T.DOT && next !== T.LPAREN) return false;
  return !p.is(K.SELECT) && !p.is(K.VALUES);
}

function assignmentOrCall(p: Parser, start: number): Statement {
  const target = operand(p);
  if (p.isOp(Op.ASSIGN) || p.isOp(Op.EQ)) {
    p.advance();
    const value = assignedValue(p);
    noteText(p, target, value);
    const assignment: Building<Assignment> = { targets: [target], value, op: "=", start, end: p.previousEnd };
    return { kind: "assign", assignments: [assignment], start, end: p.previousEnd };
  }
  const node: Building<CallStatement> = { kind: "call-statement", name: null, args: [], start, end: p.previousEnd };
  if (target.kind === "call") {
    node.name = target.name;
    node.args = target.args;
  } else if (target.kind === "column") {
    node.name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
  } else if (target.kind === "binary")
    return { ...node, kind: "opaque", verb: "", object: "", class: "code", name: null };
  else p.fail("a statement");
  return node;
}

/** The right side of an assignment; in PL/pgSQL it may go on like a query: `n := count(*) FROM berth`. */
export function assignedValue(p: Parser): Expr {
  const value = expression(p);
  if (!p.atEnd() && p.dialect.syntax.equalsAssigns) {
    skipStatement(p);
    return { kind: "opaque", start: value.start, end: p.previousEnd };
  }
  return value;
}

/** [DECLARE …] BEGIN … [EXCEPTION …] END. */
export function block(p: Parser): Statement {
  const start = p.start;
  const declarations: Statement[] = [];
  if (p.accept(K.DECLARE)) declarations.push(...declarationList(p));
  return blockBody(p, start, declarations);
}

/** From BEGIN on. */
export function blockBody(p: Parser, start: number, declarations: Statement[]): Statement {
  p.expect(K.BEGIN);
  if (p.is(K.NOT)) {
    p.advance();
    p.expect(K.ATOMIC);
  } else p.accept(K.ATOMIC);
  const body = bodyList(p);
  const handlers: { when: string; body: Statement[] }[] = [];
  if (p.accept(K.EXCEPTION)) {
    while (p.accept(K.WHEN)) {
      const from = p.start;
      while (!p.is(K.THEN)) {
        if (p.atEnd()) p.fail("THEN");
        p.advance();
      }
      const when = p.slice(from, p.previousEnd);
      p.advance();
      handlers.push({ when, body: bodyList(p) });
    }
  }
  endOf(p, null);
  return { kind: "block", declarations, body, handlers, start, end: p.previousEnd };
}

/** END [word] [label]. */
function endOf(p: Parser, word: K | null): void {
  p.expect(K.END);
  if (word !== null) p.expect(word);
  if ((p.at(T.WORD) || p.at(T.QUOTED)) && !p.atEnd()) {
    p.advance();
    while (p.acceptKind(T.DOT)) p.advance();
  }
}

function ifStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const branches: { condition: Expr | null; body: Statement[] }[] = [];
  const first = condition(p, K.THEN);
  p.expect(K.THEN);
  branches.push({ condition: first, body: bodyList(p) });
  for (;;) {
    if (p.accept(K.ELSIF) || p.accept(K.ELSEIF)) {
      const next = condition(p, K.THEN);
      p.expect(K.THEN);
      branches.push({ condition: next, body: bodyList(p) });
    } else if (p.accept(K.ELSE)) branches.push({ condition: null, body: bodyList(p) });
    else break;
  }
  endOf(p, K.IF);
  return { kind: "if", branches, start, end: p.previousEnd };
}

function caseStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  if (!p.is(K.WHEN)) expression(p);
  const branches: { condition: Expr | null; body: Statement[] }[] = [];
  while (p.accept(K.WHEN)) {
    const conditions = expressions(p);
    p.expect(K.THEN);
    branches.push({ condition: conditions[0], body: bodyList(p) });
  }
  if (p.accept(K.ELSE)) branches.push({ condition: null, body: bodyList(p) });
  endOf(p, K.CASE);
  return { kind: "if", branches, start, end: p.previousEnd };
}

function loop(p: Parser): Statement {
  const start = p.start;
  let test: Expr | null = null;
  let source: Query | null = null;
  const word = p.kw;
  const foreach = p.isText("FOREACH");
  p.advance();
  if (word === K.WHILE) test = expression(p);
  else if (word === K.FORALL) {
    // FORALL i IN 1..n [SAVE EXCEPTIONS] one statement
    p.label("a variable");
    p.expect(K.IN);
    range(p);
    if (p.accept(K.SAVE)) p.advance();
    return { kind: "loop", condition: test, query: null, body: [bodyStatement(p)], start, end: p.previousEnd };
  } else if (word === K.REPEAT) {
    const body = bodyList(p);
    p.expect(K.UNTIL);
    test = expression(p);
    endOf(p, K.REPEAT);
    return { kind: "loop", condition: test, query: null, body, start, end: p.previousEnd };
  } else if (word === K.FOR || foreach) source = forHead(p);
  const closing = p.accept(K.DO) ? (word === K.WHILE ? K.WHILE : K.FOR) : K.LOOP;
  if (closing === K.LOOP && word !== K.LOOP) p.expect(K.LOOP);
  const body = bodyList(p);
  endOf(p, closing);
  return { kind: "loop", condition: test, query: source, body, start, end: p.previousEnd };
}

/** What stands between FOR and LOOP or DO; gives the query whose rows are walked through. */
function forHead(p: Parser): Query | null {
  do p.name("a variable");
  while (p.acceptKind(T.COMMA));
  if (p.isText("SLICE")) {
    p.advance();
    p.advance();
  }
  p.expect(K.IN);
  p.accept(K.REVERSE);
  if (p.is(K.EXECUTE) || p.is(K.EXPLAIN)) {
    while (!p.is(K.LOOP)) {
      if (p.atEnd()) p.fail("LOOP");
      p.advance();
    }
    return null;
  }
  if (p.accept(K.ARRAY)) {
    expression(p);
    return null;
  }
  if (atQuery(p)) return query(p);
  if (isChange(p)) {
    statement(p);
    return null;
  }
  return range(p);
}

function isChange(p: Parser): boolean {
  return p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.MERGE);
}

/** `1..10 [BY 2]`, a cursor, or a query in parentheses. */
function range(p: Parser): Query | null {
  const low = expression(p);
  if (p.at(T.DOT)) {
    p.advance();
    if (p.at(T.DOT)) p.advance();
    operand(p);
    if (p.accept(K.BY)) operand(p);
    return null;
  }
  if (p.at(T.NUMBER)) operand(p);
  return low.kind === "subquery" ? low.query : null;
}

/** SET a = 1, NEW.b = 2, @c = 3 in a body; the settings of a session otherwise. */
export function setStatement(p: Parser): Statement {
  const start = p.start;
  const next = p.peekKind(1);
  const assigns = next === T.VARIABLE || next === T.WORD || next === T.QUOTED;
  if (!assigns || !hasAssignment(p)) return statement(p);
  p.advance();
  const assignments: Assignment[] = [];
  do {
    const from = p.start;
    const target = operandTarget(p);
    if (!p.acceptOp(Op.ASSIGN)) {
      if (!p.acceptOp(Op.EQ)) p.fail("=");
    }
    const value = settingValue(p);
    noteText(p, target, value);
    assignments.push({ targets: [target], value, op: "=", start: from, end: p.previousEnd });
  } while (p.acceptKind(T.COMMA));
  return { kind: "assign", assignments, start, end: p.previousEnd };
}

function settingValue(p: Parser): Expr {
  const start = p.start;
  // SET sql_mode = DEFAULT, SET x = ON
  if ((p.is(K.ON) || p.is(K.BINARY) || p.is(K.ALL)) && (p.peekKind(1) === T.SEMICOLON || p.peekKind(1) === T.COMMA)) {
    p.advance();
    return { kind: "opaque", start, end: p.previousEnd };
  }
  return expression(p);
}

function operandTarget(p: Parser): Expr {
  const start = p.start;
  if (p.at(T.VARIABLE)) {
    const name = p.tokenText();
    p.advance();
    while (p.acceptKind(T.DOT)) p.label("a name");
    return { kind: "variable", name, start, end: p.previousEnd };
  }
  // SET @a = 1, GLOBAL b = 2: settings of the server between variables
  if ((p.is(K.GLOBAL) || p.is(K.SESSION) || p.is(K.LOCAL) || p.is(K.PERSIST)) && p.peekKind(1) === T.WORD) p.advance();
  const path: Ident[] = [p.label("a variable")];
  while (p.acceptKind(T.DOT)) path.push(p.label("a name"));
  return { kind: "column", path, outer: false, start, end: p.previousEnd };
}

function hasAssignment(p: Parser): boolean {
  let at = 2;
  while (p.peekKind(at) === T.DOT) at += 2;
  return p.peekKind(at) === T.OPERATOR && (p.peekMark(at) === Op.EQ || p.peekMark(at) === Op.ASSIGN);
}

/** CALL name(arguments). */
export function callStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const target = operand(p);
  const node: Building<CallStatement> = { kind: "call-statement", name: null, args: [], start, end: p.previousEnd };
  if (target.kind === "call") {
    node.name = target.name;
    node.args = target.args;
  } else if (target.kind === "column") {
    node.name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
  }
  if (p.accept(K.INTO)) operand(p);
  node.end = p.previousEnd;
  return node;
}

/** PERFORM …: a SELECT whose rows are thrown away. */
function perform(p: Parser): Statement {
  const start = p.start;
  const inner = queryRest(p, select(p), start);
  return { kind: "select", query: inner, start, end: inner.end };
}

/** The condition of IF and WHILE; in PL/pgSQL it may go on like a query: `IF count(*) = 0 FROM berth THEN`. */
function condition(p: Parser, end: K): Expr {
  const value = expression(p);
  if (p.is(end) || !p.dialect.syntax.equalsAssigns || !p.is(K.FROM)) return value;
  while (!p.is(end)) {
    if (p.atEnd()) p.fail("THEN");
    p.advance();
  }
  return { kind: "opaque", start: value.start, end: p.previousEnd };
}

/** RETURN, RETURN QUERY query, RETURN QUERY EXECUTE text, RETURN NEXT. */
function returnStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  if (p.accept(K.QUERY)) {
    if (p.is(K.EXECUTE)) return { ...execute(p), start };
    if (atQuery(p) || p.at(T.LPAREN)) {
      const inner = query(p);
      return { kind: "select", query: inner, start, end: inner.end };
    }
    return statement(p);
  }
  if (!p.atEnd()) {
    p.accept(K.NEXT);
    if (!p.atEnd()) {
      const value = assignedValue(p);
      if (value.kind === "call")
        return { kind: "call-statement", name: value.name, args: value.args, start, end: p.previousEnd };
    }
  }
  return quiet("return", start, p);
}

/** OPEN cursor [FOR query | FOR EXECUTE text]. */
function openStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  operand(p);
  if (p.is(K.NO)) p.advance();
  p.accept(K.SCROLL);
  if (p.accept(K.FOR)) {
    if (p.is(K.EXECUTE)) return { ...execute(p), start };
    if (atQuery(p)) {
      const inner = query(p);
      if (!p.atEnd()) skipStatement(p);
      return { kind: "select", query: inner, start, end: p.previousEnd };
    }
    const text = expression(p);
    if (!p.atEnd()) skipStatement(p);
    return dynamicStatement(p, text, start);
  }
  if (!p.atEnd()) skipStatement(p);
  return quiet("open", start, p);
}
