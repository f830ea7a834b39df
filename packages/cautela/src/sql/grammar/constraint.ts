import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, ForeignKeyClause, Ident, TableConstraint } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { passClauseWord, passIndexAttributes } from "./clause-word.ts";
import { expression, operand } from "./expression.ts";
import { grow } from "./growing.ts";
import { ifExists } from "./if-exists.ts";
import { statementBegins } from "./statement-end.ts";

// PRIMARY KEY, UNIQUE, FOREIGN KEY, CHECK and EXCLUDE, of a table and of a column.

/** A constraint of the whole table, a case for each kind (hence its length); null when a column stands here. */
export function tableConstraint(p: Parser): TableConstraint | "skipped" | null {
  if (!p.at(T.WORD)) return null;
  const start = p.start;
  const mysql = p.dialect.syntax.inlineKeys;
  let name: Ident | null = null;
  const from = p.pos;
  if (p.is(K.CONSTRAINT)) {
    p.advance();
    if (!p.is(K.PRIMARY) && !p.is(K.UNIQUE) && !p.is(K.FOREIGN) && !p.is(K.CHECK)) {
      ifExists(p);
      name = p.label("a name");
      if (p.at(T.DOT)) {
        p.advance();
        name = p.label("a name");
      }
    } else if (p.is(K.CHECK) && p.peekKind(1) !== T.LPAREN) name = p.label("a name");
  }
  const node: Building<TableConstraint> = {
    kind: "check",
    name,
    columns: [],
    inexact: false,
    unchecked: false,
    references: null,
    check: null,
    where: null,
    start,
    end: start,
  };
  switch (p.kw) {
    case K.PRIMARY:
      if (!p.nextIs(K.KEY)) break;
      p.seek(p.pos + 2);
      node.kind = "primary";
      keyColumns(p, node);
      constraintTail(p, node);
      return node;
    case K.UNIQUE:
      if (p.peekKind(1) !== T.LPAREN && p.peekKind(1) !== T.WORD && p.peekKind(1) !== T.QUOTED) break;
      p.advance();
      node.kind = "unique";
      keyColumns(p, node);
      constraintTail(p, node);
      return node;
    case K.FOREIGN:
      if (!p.nextIs(K.KEY)) break;
      p.seek(p.pos + 2);
      node.kind = "foreign";
      ifExists(p);
      if (!p.at(T.LPAREN)) {
        const index = p.label("a name");
        node.name ??= index;
      }
      node.columns = foreignColumns(p);
      node.references = references(p);
      constraintTail(p, node);
      return node;
    case K.CHECK:
      // CHECK NOT FOR REPLICATION (…) (tsql)
      if (p.dialect.syntax.replicationOptions && p.nextIs(K.NOT) && p.nextIs(K.FOR, 2)) p.seek(p.pos + 3);
      if (p.peekKind(1) !== T.LPAREN) break;
      p.advance();
      p.advance();
      node.check = expression(p);
      p.expectKind(T.RPAREN, ")");
      constraintTail(p, node);
      return node;
    case K.EXCLUDE:
      if (!p.dialect.syntax.exclusions) break;
      p.advance();
      node.kind = "exclude";
      if (p.accept(K.USING)) p.ident("an access method");
      p.skipParens();
      constraintTail(p, node);
      return node;
    case K.INDEX:
    case K.KEY:
    case K.FULLTEXT:
    case K.SPATIAL:
      if (!mysql && !p.dialect.syntax.inlineIndexes) break;
      if (p.marked(K.KEY) && p.peekKind(1) !== T.LPAREN && p.peekKind(1) !== T.WORD && p.peekKind(1) !== T.QUOTED)
        break;
      p.advance();
      if (!p.accept(K.INDEX)) p.accept(K.KEY);
      node.kind = "index";
      keyColumns(p, node);
      constraintTail(p, node);
      return node;
    case K.PERIOD:
      if (!p.nextIs(K.FOR)) break;
      while (!p.at(T.COMMA) && !p.at(T.RPAREN)) {
        if (p.at(T.LPAREN)) p.skipParens();
        else if (p.atEnd()) p.fail(") or ,");
        else p.advance();
      }
      return "skipped";
    default:
  }
  if (name !== null || p.pos !== from) {
    if (p.is(K.NOT) && p.nextIs(K.NULL)) {
      // A named NOT NULL as a table constraint.
      constraintTail(p, node);
      return "skipped";
    }
    if (p.is(K.DEFAULT)) {
      // CONSTRAINT name DEFAULT 0 FOR column (tsql)
      p.advance();
      operand(p);
      constraintTail(p, node);
      return "skipped";
    }
    if (name !== null && (p.at(T.COMMA) || p.at(T.RPAREN) || p.isText("CONNECTION") || p.is(K.NOT))) {
      constraintTail(p, node);
      return "skipped";
    }
    p.fail("PRIMARY KEY, UNIQUE, FOREIGN KEY or CHECK");
  }
  return null;
}

/** The columns of a key; the words before the parenthesis (its name, its kind) are passed. */
function keyColumns(p: Parser, node: Building<TableConstraint>): void {
  while (!p.at(T.LPAREN)) {
    if (p.atEnd() || p.at(T.COMMA) || p.at(T.RPAREN)) {
      // UNIQUE USING INDEX name
      if (p.tokens.marks[p.pos - 2] === K.INDEX || p.tokens.kinds[p.pos - 1] === T.WORD) return;
      p.fail("(");
    }
    if (p.is(K.USING) && p.nextIs(K.INDEX)) {
      p.seek(p.pos + 3);
      node.inexact = true;
      return;
    }
    if (node.name === null && (p.at(T.QUOTED) || (p.at(T.WORD) && p.marked(K.NONE)))) node.name = p.anyIdent();
    else p.advance();
  }
  indexColumns(p, node);
}

/** (a, b DESC, lower(c), d(10)): plain columns by name; anything else makes the key inexact. */
export function indexColumns(p: Parser, node: { readonly columns: readonly Ident[]; inexact: boolean }): void {
  p.advance();
  do {
    if ((p.at(T.WORD) || p.at(T.QUOTED)) && isColumnPart(p.peekKind(1))) {
      grow(node.columns, p.anyIdent());
    } else {
      const expr = operand(p);
      if (expr.kind === "column") grow(node.columns, expr.path[expr.path.length - 1]);
      else {
        node.inexact = true;
        // A prefix, name(10), is still a part of that column.
        if (expr.kind === "call" && expr.name.parts.length === 1) grow(node.columns, expr.name.parts[0]);
      }
    }
    // Collation, operator class and its options, order.
    while (!p.at(T.COMMA) && !p.at(T.RPAREN)) {
      if (p.is(K.WITHOUT) && p.isText("WITHOUT")) node.inexact = true;
      if (p.at(T.LPAREN)) p.skipParens();
      else if (p.atEnd() || p.at(T.BAD)) p.fail(") or ,");
      else p.advance();
    }
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.RPAREN, ")");
}

function isColumnPart(next: T): boolean {
  return next === T.COMMA || next === T.RPAREN || next === T.WORD;
}

function foreignColumns(p: Parser): Ident[] {
  const list: Ident[] = [];
  p.expectKind(T.LPAREN, "(");
  do {
    p.accept(K.PERIOD);
    list.push(p.label("a column"));
    if (p.at(T.LPAREN)) p.skipParens();
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.RPAREN, ") or ,");
  return list;
}

/** REFERENCES table (columns) and its actions. */
export function references(p: Parser): ForeignKeyClause {
  const start = p.start;
  p.expect(K.REFERENCES);
  const table = p.name("the name of a table");
  const node: Building<ForeignKeyClause> = {
    table,
    columns: null,
    onDelete: null,
    onUpdate: null,
    match: null,
    deferrable: false,
    initiallyDeferred: false,
    start,
    end: start,
  };
  if (p.at(T.LPAREN)) node.columns = foreignColumns(p);
  for (;;) {
    if (p.is(K.ON) && (p.nextIs(K.DELETE) || p.nextIs(K.UPDATE))) {
      const onDelete = p.nextIs(K.DELETE);
      p.seek(p.pos + 2);
      const action = referenceAction(p);
      if (onDelete) node.onDelete = action;
      else node.onUpdate = action;
    } else if (p.is(K.MATCH)) {
      p.advance();
      node.match = p.tokenText().toLowerCase();
      p.advance();
    } else if (!deferral(p, node)) break;
  }
  node.end = p.previousEnd;
  return node;
}

function deferral(p: Parser, node: Building<ForeignKeyClause>): boolean {
  if (p.is(K.NOT) && p.nextIs(K.DEFERRABLE)) {
    p.seek(p.pos + 2);
    return true;
  }
  if (p.accept(K.DEFERRABLE)) {
    node.deferrable = true;
    return true;
  }
  if (p.is(K.INITIALLY)) {
    p.advance();
    node.initiallyDeferred = p.is(K.DEFERRED);
    p.advance();
    return true;
  }
  return false;
}

function referenceAction(p: Parser): string {
  if (p.accept(K.SET)) {
    const what = p.tokenText().toLowerCase();
    p.advance();
    if (p.at(T.LPAREN)) p.skipParens();
    return `set ${what}`;
  }
  if (p.acceptText("NO")) {
    p.expect(K.ACTION);
    return "no action";
  }
  if (p.accept(K.CASCADE)) return "cascade";
  if (p.accept(K.RESTRICT)) return "restrict";
  return p.fail("CASCADE, RESTRICT, SET NULL, SET DEFAULT or NO ACTION");
}

/** What may follow a constraint up to the next element: NOT VALID, ENABLE, ON CONFLICT, WITH (…). */
function constraintTail(p: Parser, node: Building<TableConstraint>): void {
  while (!p.at(T.COMMA) && !p.at(T.RPAREN) && !p.atEnd()) {
    if (p.at(T.BAD)) p.fail(") or ,");
    if (statementBegins(p)) break;
    // sqlite: the next constraint may follow without a comma.
    if (p.dialect.syntax.commalessConstraints && startsConstraint(p)) break;
    if (p.is(K.WHERE)) {
      p.advance();
      node.where = expression(p);
    } else if (node.references && deferral(p, node.references)) continue;
    else if (p.at(T.LPAREN)) p.skipParens();
    else if (p.accept(K.NOT)) node.unchecked ||= p.isText("VALID") || p.isText("ENFORCED");
    else if (p.is(K.USING) && p.nextIs(K.INDEX)) passIndexAttributes(p);
    else {
      node.unchecked ||= p.isText("NOVALIDATE");
      passClauseWord(p);
    }
  }
  node.end = p.previousEnd;
}

function startsConstraint(p: Parser): boolean {
  return p.is(K.CONSTRAINT) || p.is(K.PRIMARY) || p.is(K.UNIQUE) || p.is(K.FOREIGN) || p.is(K.CHECK);
}
