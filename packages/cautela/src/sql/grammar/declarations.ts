import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { expression } from "./expression.ts";
import { noteDeclared } from "./known-text.ts";
import { plainDeclaration } from "./plain-nodes.ts";
import { assignedValue, blockBody, bodyStatement } from "./procedural.ts";
import { atQuery, query } from "./query.ts";
import { skipStatement } from "./statement-end.ts";
import { typeName } from "./type.ts";

/** The declarations of PL/pgSQL and PL/SQL, up to BEGIN. */
export function declarationList(p: Parser): Statement[] {
  const list: Statement[] = [];
  for (;;) {
    while (p.acceptKind(T.SEMICOLON));
    if (p.is(K.BEGIN) || p.is(K.END) || p.at(T.EOF) || p.at(T.BATCH)) return list;
    p.accept(K.DECLARE);
    if (p.is(K.BEGIN)) return list;
    list.push(oneDeclaration(p));
    if (!p.acceptKind(T.SEMICOLON) && !p.is(K.BEGIN)) p.fail(";");
  }
}

function oneDeclaration(p: Parser): Statement {
  const start = p.start;
  if (p.is(K.PROCEDURE) || p.is(K.FUNCTION)) return nestedRoutine(p);
  const node = plainDeclaration(start);
  if (p.is(K.CURSOR) && p.dialect.syntax.callsByName) {
    p.advance();
    node.name = p.label("a cursor");
    if (p.at(T.LPAREN)) p.skipParens();
    while (!p.is(K.IS) && !p.atEnd()) p.advance();
    if (p.accept(K.IS)) node.query = query(p);
    node.end = p.previousEnd;
    return node;
  }
  if (p.is(K.PRAGMA) || p.is(K.TYPE) || p.is(K.SUBTYPE)) {
    skipStatement(p);
    node.end = p.previousEnd;
    return node;
  }
  node.name = p.label("the name of a variable");
  if (p.is(K.NO)) p.advance();
  if (p.accept(K.SCROLL) || p.is(K.CURSOR)) {
    // name CURSOR [(args)] FOR query (PL/pgSQL)
    p.accept(K.CURSOR);
    if (p.at(T.LPAREN)) p.skipParens();
    if (!p.accept(K.FOR)) p.expect(K.IS);
    node.query = query(p);
    node.end = p.previousEnd;
    return node;
  }
  p.accept(K.CONSTANT);
  if (p.isText("ALIAS") || p.is(K.EXCEPTION)) {
    skipStatement(p);
    node.end = p.previousEnd;
    return node;
  }
  node.type = typeName(p);
  if (p.accept(K.COLLATE)) p.name("a collation");
  if (p.is(K.INDEX)) skipToValue(p);
  if (p.accept(K.NOT)) p.expect(K.NULL);
  if (p.isOp(Op.ASSIGN) || p.isOp(Op.EQ) || p.is(K.DEFAULT)) {
    p.advance();
    node.value = assignedValue(p);
  }
  noteDeclared(p, node.name.text, node.value);
  node.end = p.previousEnd;
  return node;
}

function skipToValue(p: Parser): void {
  while (!p.atEnd() && !p.isOp(Op.ASSIGN)) p.advance();
}

/** A procedure or function inside a declaration or a package body. */
export function nestedRoutine(p: Parser): Statement {
  const start = p.start;
  const object = p.tokenText().toLowerCase();
  p.advance();
  const name = p.name("the name of a routine");
  if (p.at(T.LPAREN)) p.skipParens();
  const base = {
    kind: "create-routine" as const,
    object,
    name,
    orReplace: false,
    ifNotExists: false,
    language: "plsql",
    arguments: null,
    trigger: null,
    calls: null,
    problem: null,
    start,
  };
  while (!p.is(K.IS) && !p.is(K.AS)) {
    // Only announced: its body follows later.
    if (p.atEnd()) return { ...base, body: null, end: p.previousEnd };
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  p.advance();
  if (p.is(K.LANGUAGE) || p.is(K.EXTERNAL)) {
    skipStatement(p);
    return { ...base, body: null, end: p.previousEnd };
  }
  const declarations = declarationList(p);
  const body = blockBody(p, p.start, declarations);
  return { ...base, body: [body], end: p.previousEnd };
}

/** DECLARE as MySQL has it: variables, conditions, cursors, handlers. */
export function declaration(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const node = plainDeclaration(start);
  if (p.is(K.CONTINUE) || p.is(K.EXIT) || p.isText("UNDO")) {
    p.advance();
    p.expect(K.HANDLER);
    p.expect(K.FOR);
    // Conditions: SQLSTATE '…', NOT FOUND, SQLEXCEPTION, names and numbers.
    for (;;) {
      if (p.is(K.NOT) || p.is(K.SQLSTATE)) {
        p.advance();
        if (p.is(K.VALUE)) p.advance();
      }
      p.advance();
      if (!p.acceptKind(T.COMMA)) break;
    }
    node.handler = bodyStatement(p);
    node.end = p.previousEnd;
    return node;
  }
  node.name = p.label("a name");
  if (p.is(K.CONDITION)) {
    skipStatement(p);
    node.end = p.previousEnd;
    return node;
  }
  if (p.accept(K.CURSOR)) {
    if (p.at(T.LPAREN)) p.skipParens();
    p.expect(K.FOR);
    if (atQuery(p) || p.at(T.LPAREN)) node.query = query(p);
    else p.advance();
    node.end = p.previousEnd;
    return node;
  }
  while (p.acceptKind(T.COMMA)) p.label("a name");
  if (p.is(K.ROW) || p.is(K.TYPE)) {
    // ROW TYPE OF cursor, TYPE OF column (mariadb); ROW (a int, b text)
    while (!p.atEnd() && !p.is(K.DEFAULT)) {
      if (p.at(T.LPAREN)) p.skipParens();
      else p.advance();
    }
  } else {
    node.type = typeName(p);
    while (!p.atEnd() && !p.is(K.DEFAULT) && !p.isOp(Op.ASSIGN)) p.advance();
  }
  if (p.accept(K.DEFAULT) || p.acceptOp(Op.ASSIGN)) node.value = expression(p);
  noteDeclared(p, node.name.text, node.value);
  node.end = p.previousEnd;
  return node;
}
