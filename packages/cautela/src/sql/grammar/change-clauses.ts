import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Assignment, Building, DeleteStatement, Expr, Name, Returning, UpdateStatement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { orderBy } from "./call.ts";
import { expression } from "./expression.ts";
import { limit } from "./limit.ts";
import { selectItems } from "./query.ts";

// The clauses that UPDATE, DELETE, INSERT and MERGE share.

/** RETURNING … [INTO …] or OUTPUT … [INTO …]. */
export function returning(p: Parser): Returning | null {
  if (!p.is(K.RETURNING) && !p.is(K.OUTPUT) && !(p.is(K.RETURN) && p.dialect.syntax.returnClause)) return null;
  const start = p.start;
  const output = p.is(K.OUTPUT);
  p.advance();
  // RETURNING WITH (OLD AS o, NEW AS n)
  if (p.is(K.WITH) && p.peekKind(1) === T.LPAREN) {
    p.advance();
    p.skipParens();
  }
  const node: Building<Returning> = { items: [], output, into: null, start, end: start };
  node.items = selectItems(p);
  if (p.is(K.BULK)) {
    p.advance();
    p.advance();
  }
  if (p.accept(K.INTO)) {
    const from = p.start;
    if (p.at(T.VARIABLE)) node.into = expression(p);
    else {
      const name = p.name("a table or a variable");
      node.into = { kind: "column", path: name.parts, outer: false, start: from, end: name.end };
    }
    while (p.acceptKind(T.COMMA)) expression(p);
    if (p.at(T.LPAREN)) p.skipParens();
    // OUTPUT … INTO t, then OUTPUT … for the client
    if (p.is(K.OUTPUT)) returning(p);
  }
  node.end = p.previousEnd;
  return node;
}

/** `a = 1, (b, c) = (SELECT …)`. */
export function assignments(p: Parser): readonly Assignment[] {
  const list: Assignment[] = [];
  do {
    const start = p.start;
    let targets: Expr[];
    if (p.at(T.LPAREN)) {
      p.advance();
      targets = [assignmentTarget(p)];
      while (p.acceptKind(T.COMMA)) targets.push(assignmentTarget(p));
      p.expectKind(T.RPAREN, ") or ,");
    } else targets = [assignmentTarget(p)];
    let op = "=";
    if (p.at(T.OPERATOR) && (p.marked(Op.EQ) || p.marked(Op.ASSIGN))) p.advance();
    else if (p.isOp(Op.PLUS_EQ)) {
      op = p.tokenText();
      p.advance();
    } else if (p.at(T.LPAREN) && p.dialect.syntax.columnMethods) {
      // column.WRITE(…), column.modify(…)
      p.skipParens();
      const [target] = targets;
      // What is called is a method of the column before it.
      if (target.kind === "column" && target.path.length > 1) targets = [{ ...target, path: target.path.slice(0, -1) }];
      list.push({ targets, value: { kind: "opaque", start, end: p.previousEnd }, op, start, end: p.previousEnd });
      continue;
    } else p.fail("=");
    let value = expression(p);
    // @variable = column = expression (tsql)
    if (p.dialect.syntax.chainedAssignment && p.isOp(Op.EQ)) {
      p.advance();
      value = expression(p);
    }
    list.push({ targets, value, op, start, end: p.previousEnd });
  } while (p.acceptKind(T.COMMA));
  return compact(list);
}

function assignmentTarget(p: Parser): Expr {
  const start = p.start;
  if (p.at(T.VARIABLE)) {
    const name = p.tokenText();
    p.advance();
    // SET @old = fee = 12: the column after the variable is what is written.
    if (p.isOp(Op.EQ) && p.dialect.syntax.chainedAssignment && p.peekKind(1) !== T.NUMBER) {
      const next = p.peekKind(2);
      if ((p.peekKind(1) === T.WORD || p.peekKind(1) === T.QUOTED) && next === T.OPERATOR && p.peekMark(2) === Op.EQ) {
        p.advance();
        return assignmentTarget(p);
      }
    }
    return { kind: "variable", name, start, end: p.previousEnd };
  }
  if (p.dialect.syntax.objectRows && p.is(K.VALUE) && p.peekKind(1) === T.LPAREN) {
    // SET VALUE(alias) = object (plsql): the whole row of an object table.
    p.advance();
    p.skipParens();
    return { kind: "opaque", start, end: p.previousEnd };
  }
  const name = assignedName(p);
  let target: Building<Expr> = { kind: "column", path: name.parts, outer: false, start, end: name.end };
  while (p.at(T.LBRACKET) || p.at(T.DOT)) {
    if (p.acceptKind(T.DOT)) {
      p.label("a field");
    } else {
      p.advance();
      while (!p.acceptKind(T.RBRACKET)) {
        if (p.at(T.COLON)) p.advance();
        else expression(p);
        if (p.at(T.EOF)) p.fail("]");
      }
    }
    target = { kind: "compound", what: "subscript", operands: [target], name: "", start, end: p.previousEnd };
  }
  return target;
}

/** A column that is assigned; in sqlite and postgresql more words may name one than a table. */
function assignedName(p: Parser): Name {
  if (p.dialect.syntax.fieldPaths) {
    const start = p.start;
    const first = p.label("a column");
    const parts = [first];
    while (p.at(T.DOT) || p.isOp(Op.NOT)) {
      p.advance();
      parts.push(p.label("a column"));
    }
    return { kind: "name", parts, link: null, start, end: p.previousEnd };
  }
  return p.name("a column");
}

export function where(p: Parser, node: Building<UpdateStatement | DeleteStatement>): void {
  if (!p.accept(K.WHERE)) return;
  if (p.is(K.CURRENT) && p.nextIs(K.OF)) {
    p.seek(p.pos + 2);
    p.accept(K.GLOBAL);
    node.currentOf = p.at(T.VARIABLE) ? p.label("a cursor") : p.ident("a cursor");
    return;
  }
  node.where = expression(p);
}

/** ORDER BY, LIMIT, RETURNING, OPTION in any order after WHERE. */
export function changeTail(p: Parser, node: Building<UpdateStatement | DeleteStatement>): void {
  for (;;) {
    if (!p.at(T.WORD)) break;
    if (p.marked(K.ORDER)) node.orderBy = orderBy(p);
    else if ((p.marked(K.LIMIT) || p.marked(K.OFFSET)) && !p.dialect.syntax.limitIsName)
      node.limit = limit(p, node.limit);
    else if (p.marked(K.RETURNING) || (p.marked(K.RETURN) && p.dialect.syntax.returnClause && p.inRoutine > 0))
      node.returning = returning(p);
    else if (p.marked(K.OPTION) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      p.skipParens();
    } else if (p.marked(K.LOG) && p.nextIs(K.ERRORS)) logErrors(p);
    else break;
  }
}

/** LOG ERRORS [INTO table] [(tag)] [REJECT LIMIT n] (plsql). */
export function logErrors(p: Parser): void {
  p.seek(p.pos + 2);
  if (p.accept(K.INTO)) p.name("a table");
  if (p.at(T.LPAREN)) p.skipParens();
  if (p.acceptText("REJECT")) {
    p.expect(K.LIMIT);
    p.advance();
  }
}
