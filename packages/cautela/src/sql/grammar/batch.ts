import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Building, Expr, Ident, Name, Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { columnDefinition } from "./column.ts";
import { tableConstraint } from "./constraint.ts";
import { dynamicStatement } from "./dynamic.ts";
import { expression } from "./expression.ts";
import { conditionally, inBranches, noteDeclared, noteText, noteWritten } from "./known-text.ts";
import { plainDeclaration } from "./plain-nodes.ts";
import { query } from "./query.ts";
import { statement } from "./statement.ts";
import { skipStatement, startsNext } from "./statement-end.ts";
import { typeName } from "./type.ts";

// The control flow of T-SQL batches and procedures ("Control-of-Flow", Transact-SQL reference). Its
// statements follow each other with or without semicolons.

/** Statements up to END, or the end of the batch. */
export function batchList(p: Parser): Statement[] {
  const list: Statement[] = [];
  for (;;) {
    while (p.acceptKind(T.SEMICOLON));
    if (p.at(T.EOF) || p.at(T.BATCH) || p.at(T.DELIMITER) || p.is(K.END)) return list;
    const before = p.pos;
    list.push(batchStatement(p));
    if (p.pos === before) p.fail("a statement");
  }
}

/** One statement of a batch; control flow, or any statement of the script. */
export function batchStatement(p: Parser): Statement {
  p.enter();
  const node = controlFlow(p) ?? statement(p);
  p.leave();
  return node;
}

/** Control flow of T-SQL; null when another statement stands here. */
export function controlFlow(p: Parser): Statement | null {
  const start = p.start;
  if (!p.at(T.WORD)) return null;
  if (p.peekKind(1) === T.COLON && p.kw === K.NONE) {
    // label:
    p.seek(p.pos + 2);
    return { kind: "opaque", verb: "label", object: "", class: "session", name: null, start, end: p.previousEnd };
  }
  switch (p.kw) {
    case K.BEGIN:
      if (p.nextIs(K.TRAN) || p.nextIs(K.TRANSACTION) || p.peekKind(1) === T.SEMICOLON) return null;
      if (/^distributed$/i.test(p.wordAhead(1))) return null;
      return block(p);
    case K.IF:
      return inBranches(p, () => ifStatement(p));
    case K.WHILE: {
      p.advance();
      const condition = expression(p);
      const body = conditionally(p, () => batchStatement(p));
      return { kind: "loop", condition, query: null, body: [body], start, end: p.previousEnd };
    }
    case K.DECLARE:
      return declare(p);
    case K.SET:
      return p.peekKind(1) === T.VARIABLE ? setVariable(p) : null;
    case K.EXEC:
    case K.EXECUTE:
      return exec(p);
    case K.RETURN: {
      p.advance();
      if (!p.atEnd() && !startsNext(p) && !p.is(K.END)) expression(p);
      return { kind: "opaque", verb: "return", object: "", class: "session", name: null, start, end: p.previousEnd };
    }
    case K.PRINT:
      p.advance();
      expression(p);
      return { kind: "opaque", verb: "print", object: "", class: "session", name: null, start, end: p.previousEnd };
    default:
      return isBareCall(p) ? exec(p) : null;
  }
}

/** The first statement of a batch may be a call without EXEC. */
function isBareCall(p: Parser): boolean {
  if (p.kw !== K.NONE && p.peekKind(1) !== T.DOT) return false;
  const before = p.pos === 0 ? p.before : p.tokens.kinds[p.pos - 1];
  if (before !== T.BATCH && before !== T.DIRECTIVE) return false;
  let at = 1;
  while (p.peekKind(at) === T.DOT) at += 2;
  // A lone word may be anything; with an argument after it, it is a call.
  switch (p.peekKind(at)) {
    case T.STRING:
    case T.NUMBER:
    case T.VARIABLE:
      return true;
    case T.EOF:
    case T.SEMICOLON:
    case T.BATCH:
      return at > 1;
    default:
      return false;
  }
}

/** BEGIN … END, BEGIN TRY … END TRY BEGIN CATCH … END CATCH. */
function block(p: Parser): Statement {
  const start = p.start;
  p.advance();
  if (p.accept(K.TRY)) {
    const body = batchList(p);
    p.expect(K.END);
    p.expect(K.TRY);
    p.acceptKind(T.SEMICOLON);
    p.expect(K.BEGIN);
    p.expect(K.CATCH);
    const handler = batchList(p);
    p.expect(K.END);
    p.expect(K.CATCH);
    return {
      kind: "block",
      declarations: [],
      body,
      handlers: [{ when: "catch", body: handler }],
      start,
      end: p.previousEnd,
    };
  }
  // BEGIN ATOMIC WITH (…) of natively compiled procedures
  if (p.accept(K.ATOMIC) && p.accept(K.WITH)) p.skipParens();
  const body = batchList(p);
  p.expect(K.END);
  return { kind: "block", declarations: [], body, handlers: [], start, end: p.previousEnd };
}

function ifStatement(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const condition = expression(p);
  const branches: { condition: Expr | null; body: Statement[] }[] = [];
  p.acceptKind(T.SEMICOLON);
  branches.push({ condition, body: [batchStatement(p)] });
  // A semicolon may stand before ELSE.
  if (p.at(T.SEMICOLON) && p.nextIs(K.ELSE)) p.advance();
  if (p.accept(K.ELSE)) branches.push({ condition: null, body: [batchStatement(p)] });
  return { kind: "if", branches, start, end: p.previousEnd };
}

/** DECLARE @a int = 1, @b TABLE (…); DECLARE c CURSOR FOR query. */
function declare(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const node = plainDeclaration(start);
  if (!p.at(T.VARIABLE)) {
    node.name = p.label("a cursor");
    while (!p.is(K.FOR)) {
      if (p.atEnd()) p.fail("FOR");
      p.advance();
    }
    p.advance();
    node.query = query(p);
    // FOR UPDATE OF columns, FOR READ ONLY
    if (p.accept(K.OF)) {
      do p.name("a column");
      while (p.acceptKind(T.COMMA));
    } else p.accept(K.ONLY);
    node.end = p.previousEnd;
    return node;
  }
  do {
    if (node.name) node.before = [...node.before, node.name];
    node.name = p.label("a variable");
    p.accept(K.AS);
    if (p.accept(K.TABLE)) {
      p.expectKind(T.LPAREN, "(");
      do if (!tableConstraint(p)) columnDefinition(p);
      while (p.acceptKind(T.COMMA));
      p.expectKind(T.RPAREN, ") or ,");
    } else if (p.accept(K.CURSOR)) {
      // A cursor variable.
    } else node.type = typeName(p);
    node.value = p.acceptOp(Op.EQ) ? expression(p) : null;
    noteDeclared(p, node.name.text, node.value);
  } while (p.acceptKind(T.COMMA));
  node.end = p.previousEnd;
  return node;
}

/** SET @a = expression, SET @a += 1, SET @c = CURSOR FOR query. */
function setVariable(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const from = p.start;
  const name = p.tokenText();
  p.advance();
  const target: Building<Expr> = { kind: "variable", name, start: from, end: p.previousEnd };
  if (p.at(T.DOT)) {
    skipStatement(p);
    return { kind: "assign", assignments: [], start, end: p.previousEnd };
  }
  const op = p.tokenText();
  if (!p.acceptOp(Op.EQ) && !p.acceptOp(Op.PLUS_EQ)) p.fail("=");
  if (p.is(K.CURSOR)) {
    skipStatement(p);
    return { kind: "assign", assignments: [], start, end: p.previousEnd };
  }
  const value = expression(p);
  noteText(p, target, value, op);
  return {
    kind: "assign",
    assignments: [{ targets: [target], value, op, start: from, end: p.previousEnd }],
    start,
    end: p.previousEnd,
  };
}

/** EXEC procedure arguments; EXEC ('text' + @more); EXEC @result = procedure. */
function exec(p: Parser): Statement {
  const start = p.start;
  if (p.is(K.EXEC) || p.is(K.EXECUTE)) p.advance();
  if (p.is(K.AS)) {
    // EXECUTE AS USER = 'x': whose rights count from here on.
    skipStatement(p);
    return { kind: "opaque", verb: "execute", object: "as", class: "session", name: null, start, end: p.previousEnd };
  }
  if (p.at(T.LPAREN)) {
    p.advance();
    const text = expression(p);
    while (p.acceptKind(T.COMMA)) expression(p);
    p.expectKind(T.RPAREN, ")");
    if (p.accept(K.AS)) {
      p.advance();
      if (p.acceptOp(Op.EQ)) p.advance();
    }
    if (p.is(K.AT)) {
      p.advance();
      p.name("a server");
    }
    return dynamicStatement(p, text, start);
  }
  if (p.at(T.VARIABLE) && p.peekKind(1) === T.OPERATOR && p.peekMark(1) === Op.EQ) p.seek(p.pos + 2);
  const name = p.name("the name of a procedure");
  const args: Expr[] = [];
  if (!p.atEnd() && !startsArgumentEnd(p)) {
    do args.push(argument(p));
    while (p.acceptKind(T.COMMA));
  }
  if (p.is(K.WITH) && (p.nextIs(K.RECOMPILE) || p.nextIs(K.RESULT))) skipStatement(p);
  // sp_executesql runs its first argument.
  if (/^sp_executesql$/i.test(name.parts[name.parts.length - 1].text) && args.length > 0) {
    return dynamicStatement(p, args[0], start);
  }
  const renamed = /^sp_rename$/i.test(name.parts[name.parts.length - 1].text)
    ? renamedBy(args, start, p.previousEnd)
    : null;
  const node: Statement = renamed ?? { kind: "call-statement", name, args, start, end: p.previousEnd };
  noteWritten(p, node);
  return node;
}

/** Four parts of 128 characters, in brackets. */
const LONGEST_NAME = 600;

/**
 * EXEC sp_rename 'schema.table.column', 'name', 'COLUMN' as the DDL that it is; null where its arguments are not constant, or
 * it is about something else (Transact-SQL reference, "sp_rename"). The new name is taken as it stands, without quotes.
 */
function renamedBy(args: readonly Expr[], start: number, end: number): Statement | null {
  const texts = args.map((one) => (one.kind === "literal" && one.type === "string" ? one.value : null));
  const [from, to, kind = "OBJECT"] = texts;
  if (!from || !to || kind === null || args.length > 3 || from.length > LONGEST_NAME) return null;
  const parts = from.match(/\[(?:[^\]]|\]\])*\]|"[^"]*"|[^.]+/g) ?? [];
  const idents = parts.map((part): Ident => {
    const text = /^[["]/.test(part) ? part.slice(1, -1).replaceAll("]]", "]") : part;
    return { text, quoted: text !== part, hole: false, start: args[0].start, end: args[0].end };
  });
  const last = idents[idents.length - 1];
  const nameOf = (list: readonly Ident[], { start: first, end: after }: Expr): Name => ({
    kind: "name",
    parts: list,
    link: null,
    start: first,
    end: after,
  });
  const own: Ident = { text: to, quoted: true, hole: false, start: args[1].start, end: args[1].end };
  switch (kind.toUpperCase()) {
    case "COLUMN": {
      if (idents.length < 2) return null;
      const action = { what: "rename-column" as const, name: last, to: own, ifExists: false, start, end };
      const name = nameOf(idents.slice(0, -1), args[0]);
      return { kind: "alter-table", name, ifExists: false, ignore: false, actions: [action], start, end };
    }
    case "INDEX": {
      if (idents.length < 2) return null;
      const renames = [{ from: nameOf([last], args[0]), to: nameOf([own], args[1]) }];
      const table = nameOf(idents.slice(0, -1), args[0]);
      return { kind: "rename", object: "index", renames, schema: false, table, start, end };
    }
    case "OBJECT": {
      const renames = [{ from: nameOf(idents, args[0]), to: nameOf([own], args[1]) }];
      return { kind: "rename", object: "table", renames, schema: false, table: null, start, end };
    }
    default:
      return null;
  }
}

function startsArgumentEnd(p: Parser): boolean {
  return startsNext(p) || (p.at(T.WORD) && p.kw !== K.NONE && p.firstOnLine() && (p.dialect.wordClass[p.kw] & 1) !== 0);
}

function argument(p: Parser): Expr {
  if (p.at(T.VARIABLE) && p.peekKind(1) === T.OPERATOR && p.peekMark(1) === Op.EQ) p.seek(p.pos + 2);
  const value = expression(p);
  if (!p.accept(K.OUTPUT)) p.accept(K.OUT);
  return value;
}
