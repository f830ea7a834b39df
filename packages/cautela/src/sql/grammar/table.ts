import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, CreateIndexStatement, CreateTableStatement, Name } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { columnDefinition } from "./column.ts";
import { indexColumns, tableConstraint } from "./constraint.ts";
import { expression } from "./expression.ts";
import { grow } from "./growing.ts";
import { ifExists } from "./if-exists.ts";
import { atQuery, query } from "./query.ts";
import { skipStatement, statementBegins } from "./statement-end.ts";

/** What precedes TABLE in a CREATE statement. */
export interface TableHead {
  /** CREATE FOREIGN TABLE. */
  foreign?: boolean;
  start: number;
  temporary: boolean;
  orReplace: boolean;
}

/** CREATE TABLE from the word TABLE on. */
export function createTable(p: Parser, head: TableHead, virtual: boolean): CreateTableStatement {
  p.expect(K.TABLE);
  const ifNotExists = ifExists(p);
  const name = p.name("the name of a table");
  const last = name.parts[name.parts.length - 1].text;
  const node: Building<CreateTableStatement> = {
    kind: "create-table",
    name,
    temporary: head.temporary || (p.dialect.syntax.hashTemporary && last.startsWith("#")),
    ifNotExists,
    orReplace: head.orReplace,
    columns: [],
    constraints: [],
    query: null,
    columnNames: null,
    withData: true,
    like: [],
    likeIncludes: [],
    partitioned: false,
    inherits: [],
    partitionOf: null,
    virtual,
    foreign: head.foreign ?? false,
    ofType: null,
    options: "",
    start: head.start,
    end: head.start,
  };
  if (virtual) {
    p.expect(K.USING);
    p.ident("a module");
    if (p.at(T.LPAREN)) p.skipParens();
    node.end = p.previousEnd;
    return node;
  }
  if (p.is(K.PARTITION) && p.nextIs(K.OF)) {
    p.seek(p.pos + 2);
    node.partitionOf = p.name("the name of a table");
  } else if (p.is(K.OF) && p.dialect.syntax.typedTables) {
    p.advance();
    node.ofType = p.name("the name of a type");
  } else if (p.accept(K.LIKE)) grow(node.like, p.name("the name of a table"));
  const listed = p.at(T.LPAREN) || node.partitionOf !== null;
  if (p.at(T.LPAREN)) {
    if (atQueryInParens(p)) node.query = query(p);
    else if (isNameList(p)) node.columnNames = p.identList("a column");
    else elements(p, node);
  }
  tableTail(p, node, listed);
  node.end = p.previousEnd;
  return node;
}

function atQueryInParens(p: Parser): boolean {
  let at = 1;
  while (p.peekKind(at) === T.LPAREN && at < 500) at++;
  return (
    p.peekKind(at) === T.WORD &&
    (p.peekMark(at) === K.SELECT || p.peekMark(at) === K.WITH || p.peekMark(at) === K.VALUES)
  );
}

/** `(a, b)` after the table's name: the columns of CREATE TABLE … AS. */
function isNameList(p: Parser): boolean {
  if (p.dialect.syntax.noColumnNames) return false;
  let at = 1;
  for (;;) {
    const kind = p.peekKind(at);
    if (kind !== T.WORD && kind !== T.QUOTED) return false;
    const next = p.peekKind(at + 1);
    if (next === T.RPAREN) {
      at += 2;
      break;
    }
    if (next !== T.COMMA) return false;
    at += 2;
  }
  return (
    p.nextIs(K.AS, at) ||
    p.nextIs(K.WITH, at) ||
    p.nextIs(K.ON, at) ||
    p.nextIs(K.USING, at) ||
    p.nextIs(K.TABLESPACE, at)
  );
}

/** The options after the parentheses, and AS query. What they say is not needed; they are kept as text. */
function tableTail(p: Parser, node: Building<CreateTableStatement>, listed: boolean): void {
  const from = p.start;
  for (;;) {
    if (p.atEnd()) break;
    if (
      p.is(K.AS) &&
      p.dialect.syntax.asAfterStorage &&
      p.tokens.kinds[p.pos - 1] === T.WORD &&
      /^store$/i.test(p.wordAhead(-1))
    ) {
      // LOB (note) STORE AS …
      p.advance();
      continue;
    }
    if (p.is(K.AS) && /^(?:node|edge)$/i.test(p.wordAhead(1))) {
      // A table of a graph (tsql).
      p.seek(p.pos + 2);
      continue;
    }
    if (p.is(K.FOR) && p.nextIs(K.VALUES)) {
      // The bounds of a partition: IN (…), FROM (…) TO (…), WITH (…).
      p.seek(p.pos + 2);
      while (p.is(K.IN) || p.is(K.FROM) || p.is(K.TO) || p.is(K.WITH)) {
        p.advance();
        p.skipParens();
      }
      continue;
    }
    if (p.is(K.PARTITION) && p.nextIs(K.BY)) node.partitioned = true;
    if (p.is(K.INHERITS)) {
      p.advance();
      p.expectKind(T.LPAREN, "(");
      if (!p.at(T.RPAREN)) {
        do grow(node.inherits, p.name("the name of a table"));
        while (p.acceptKind(T.COMMA));
      }
      p.expectKind(T.RPAREN, ") or ,");
      continue;
    }
    if (
      p.is(K.AS) ||
      (startsTail(p) && !p.dialect.grammar.bareStatements) ||
      ((p.is(K.IGNORE) || p.is(K.REPLACE)) && p.dialect.syntax.conflictsInSelect)
    ) {
      p.accept(K.IGNORE);
      p.accept(K.REPLACE);
      p.accept(K.AS);
      if (p.is(K.EXECUTE)) {
        skipStatement(p);
        break;
      }
      node.query = query(p);
      if (p.is(K.WITH)) {
        p.advance();
        node.withData = !p.acceptText("NO");
        p.acceptText("DATA");
      }
      continue;
    }
    if (p.at(T.LPAREN) && node.query === null && atQueryInParens(p)) {
      node.query = query(p);
      continue;
    }
    if (p.at(T.LPAREN) && !listed && node.columns.length === 0 && node.like.length === 0) {
      elements(p, node);
      continue;
    }
    if (p.at(T.BAD)) p.fail("the end of the statement");
    if (statementBegins(p)) break;
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  if (p.previousEnd > from) node.options = p.slice(from, p.previousEnd);
}

/** Whether the query of CREATE TABLE … AS begins here, and not WITH (options), WITH SYSTEM VERSIONING. */
function startsTail(p: Parser): boolean {
  if (!atQuery(p)) return false;
  if (!p.is(K.WITH)) return true;
  return p.nextIs(K.RECURSIVE) || p.nextIs(K.AS, 2) || (p.peekKind(1) !== T.LPAREN && p.peekKind(2) === T.LPAREN);
}

function elements(p: Parser, node: Building<CreateTableStatement>): void {
  p.advance();
  if (p.acceptKind(T.RPAREN)) return;
  do {
    if (p.at(T.RPAREN)) break;
    const constraint = tableConstraint(p);
    if (constraint) {
      if (constraint !== "skipped") grow(node.constraints, constraint);
      // sqlite takes constraints without commas between them.
      while (p.at(T.WORD) && p.dialect.syntax.commalessConstraints && !p.marked(K.NONE)) {
        const next = tableConstraint(p);
        if (!next || next === "skipped") break;
        grow(node.constraints, next);
      }
    } else if (p.is(K.LIKE)) {
      p.advance();
      grow(node.like, p.name("the name of a table"));
      while (p.isText("INCLUDING") || p.isText("EXCLUDING")) {
        const including = p.isText("INCLUDING");
        p.advance();
        const what = p.tokenText().toLowerCase();
        p.advance();
        if (including) grow(node.likeIncludes, what);
        else grow(node.likeIncludes, `-${what}`);
      }
    } else {
      const column = columnDefinition(p);
      grow(node.columns, column);
      while (p.at(T.WORD) && p.dialect.syntax.commalessConstraints) {
        const next = tableConstraint(p);
        if (!next || next === "skipped") break;
        grow(node.constraints, next);
      }
    }
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.RPAREN, ") or ,");
}

/** CREATE INDEX from after the words before INDEX; the current token is INDEX. */
export function createIndex(p: Parser, start: number, unique: boolean): CreateIndexStatement {
  p.expect(K.INDEX);
  p.accept(K.CONCURRENTLY);
  const ifNotExists = ifExists(p);
  let name: Name | null = null;
  if (!p.is(K.ON)) name = p.name("the name of an index");
  // USING btree before ON (mysql)
  if (p.accept(K.USING)) p.advance();
  p.expect(K.ON);
  p.accept(K.ONLY);
  if (p.is(K.CLUSTER)) p.advance();
  const table = p.name("the name of a table");
  const node: Building<CreateIndexStatement> = {
    kind: "create-index",
    name,
    unique,
    ifNotExists,
    table,
    columns: [],
    inexact: false,
    where: null,
    start,
    end: start,
  };
  if (p.atBareAlias() && p.at(T.WORD) && p.marked(K.NONE)) p.advance();
  if (p.accept(K.USING)) p.ident("an access method");
  if (p.at(T.LPAREN)) indexColumns(p, node);
  while (!p.atEnd()) {
    if (p.is(K.WHERE)) {
      p.advance();
      node.where = expression(p);
    } else if (p.at(T.BAD)) p.fail("the end of the statement");
    else if (statementBegins(p)) break;
    else if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  node.end = p.previousEnd;
  return node;
}
