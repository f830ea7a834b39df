import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type {
  Building,
  Expr,
  InsertStatement,
  MultiInsertStatement,
  Name,
  OnConflict,
  Query,
  Statement,
  With,
} from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { assignments, logErrors, returning } from "./change-clauses.ts";
import { expression, expressions } from "./expression.ts";
import { grow } from "./growing.ts";
import { top } from "./limit.ts";
import { plainDerived, plainTable } from "./plain-nodes.ts";
import { atQuery, query } from "./query.ts";
import { aliased, checkOption, tableSource } from "./source.ts";

/** Takes EXEC … as the source of an INSERT; set by the statement grammar. */
export const execution: { statement: ((p: Parser) => Statement) | null } = { statement: null };

/** INSERT and REPLACE; WITH, if any, has been read. */
export function insert(p: Parser, withClause: With | null): InsertStatement | MultiInsertStatement {
  const start = withClause?.start ?? p.start;

  const mysql = p.dialect.syntax.changeOptions;
  let replace = p.is(K.REPLACE);
  let ignore = false;
  p.advance();
  if (p.dialect.syntax.multiInsert && (p.is(K.ALL) || p.is(K.FIRST) || p.is(K.WHEN))) return multiInsert(p, start);
  if (p.is(K.OR) && p.dialect.syntax.orConflicts) {
    p.advance();
    if (p.is(K.REPLACE)) replace = true;
    else if (p.is(K.IGNORE)) ignore = true;
    p.advance();
  }
  if (mysql) {
    while (p.is(K.LOW_PRIORITY) || p.is(K.DELAYED) || p.is(K.HIGH_PRIORITY)) p.advance();
    if (p.accept(K.IGNORE)) ignore = true;
  }
  const limited = p.is(K.TOP) && p.dialect.syntax.topInChanges ? top(p) : null;

  if (!p.accept(K.INTO) && !p.dialect.syntax.insertWithoutInto) p.fail("INTO");
  if (p.is(K.TABLE) && !mysql) p.advance();
  const node: Building<InsertStatement> = {
    kind: "insert",
    with: withClause,
    replace,
    ignore,
    target: insertTarget(p),
    columns: null,
    set: null,
    source: null,
    defaults: false,
    overriding: false,
    where: null,
    exec: null,
    conflicts: [],
    returning: null,
    start,
    end: start,
  };
  if (p.at(T.LPAREN) && !startsQuery(p)) node.columns = columnList(p);
  node.overriding = overrides(p);
  if (p.is(K.OUTPUT)) node.returning = returning(p);
  insertSource(p, node);
  if (limited && node.source && node.source.limit === null) node.source = { ...node.source, limit: limited };
  insertTail(p, node);
  node.end = p.previousEnd;
  return node;
}

function insertTarget(p: Parser): InsertStatement["target"] {
  const start = p.start;
  if (p.at(T.LPAREN)) {
    // INSERT INTO (SELECT …) VALUES … (plsql)
    p.advance();
    const inner = query(p);
    checkOption(p);
    p.expectKind(T.RPAREN, ")");
    return aliased(p, plainDerived(inner, false, start, p.previousEnd));
  }
  if (
    p.is(K.OPENQUERY) ||
    p.is(K.OPENROWSET) ||
    p.is(K.OPENDATASOURCE) ||
    (p.is(K.FUNCTION) && p.peekKind(1) === T.WORD)
  ) {
    p.advance();
    p.skipParens();
    const call = { kind: "opaque" as const, start, end: p.previousEnd };
    return { kind: "function", call, alias: null, columns: null, lateral: false, start, end: p.previousEnd };
  }
  const name = p.at(T.VARIABLE)
    ? { kind: "name" as const, parts: [p.label("a table")], link: null, start, end: p.previousEnd }
    : p.name("the name of a table");
  const node = plainTable(name, start, p.previousEnd);
  if (p.is(K.PARTITION) && p.peekKind(1) === T.LPAREN) {
    p.advance();
    p.skipParens();
  }
  if (p.is(K.WITH) && p.peekKind(1) === T.LPAREN && p.dialect.syntax.tableHints) {
    p.advance();
    p.skipParens();
  }
  if (p.is(K.IN) && p.dialect.syntax.otherFiles) {
    // INTO log IN 'other.mdb'
    p.advance();
    p.advance();
  }
  if (p.accept(K.AS)) node.alias = p.ident("an alias");
  else if (p.dialect.syntax.aliasAfterInto && p.atBareAlias() && !p.is(K.VALUES)) node.alias = p.anyIdent();
  else if (p.dialect.syntax.bareInsertAlias && p.at(T.WORD) && p.marked(K.NONE)) node.alias = p.anyIdent();
  node.end = p.previousEnd;
  return node;
}

/** Whether the parenthesis at the current token opens a query and not a list of columns. */
function startsQuery(p: Parser): boolean {
  let at = 1;
  while (p.peekKind(at) === T.LPAREN && at < 500) at++;
  if (p.peekKind(at) !== T.WORD) return false;
  const word = p.peekMark(at);
  return word === K.SELECT || word === K.WITH || (word === K.VALUES && p.peekKind(at + 1) === T.LPAREN);
}

export function columnList(p: Parser): readonly Name[] {
  p.advance();
  const list: Name[] = [];
  if (p.acceptKind(T.RPAREN)) return list;
  do {
    const start = p.start;
    const name: Name =
      p.at(T.WORD) || p.at(T.STRING) || p.at(T.QUOTED) || p.at(T.VARIABLE) ? labelled(p, start) : p.name("a column");
    // A subfield or an element: point.x, berths[1].code
    while (p.at(T.LBRACKET) || p.at(T.DOT)) {
      if (p.acceptKind(T.DOT)) {
        p.label("a field");
        continue;
      }
      while (!p.acceptKind(T.RBRACKET)) {
        if (p.at(T.EOF)) p.fail("]");
        p.advance();
      }
    }
    list.push(name);
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.RPAREN, ") or ,");
  return compact(list);
}

function labelled(p: Parser, start: number): Name {
  const parts = [p.label("a column")];
  while (p.acceptKind(T.DOT)) parts.push(p.label("a column"));
  return { kind: "name", parts, link: null, start, end: p.previousEnd };
}

function insertSource(p: Parser, node: Building<InsertStatement>): void {
  if (p.accept(K.DEFAULT)) {
    p.expect(K.VALUES);
    node.defaults = true;
    return;
  }
  if (p.dialect.syntax.changeOptions) {
    if (p.accept(K.SET)) {
      node.set = assignments(p);
      return;
    }
    // VALUE is VALUES; an empty pair of parentheses inserts defaults.
    if (p.is(K.VALUE) && p.peekKind(1) === T.LPAREN) {
      node.source = valuesAs(p);
      return;
    }
  }
  if (p.is(K.EXEC) || p.is(K.EXECUTE)) {
    if (execution.statement === null) p.fail("VALUES or SELECT");
    node.exec = execution.statement(p);
    return;
  }
  if (p.is(K.VALUES) && p.dialect.syntax.recordValues && p.peekKind(1) !== T.LPAREN) {
    // VALUES record
    const start = p.start;
    p.advance();
    const record = expression(p);
    node.source = wrap({
      kind: "values",
      rows: [[record]],
      rowCount: 1,
      narrowest: 0,
      widest: 0,
      start,
      end: p.previousEnd,
    });
    return;
  }
  if (p.is(K.VALUES)) {
    node.source = query(p);
    return;
  }
  if (atQuery(p) || p.at(T.LPAREN)) {
    node.source = query(p);
    return;
  }
  p.fail("VALUES or SELECT");
}

function wrap(body: Query["body"]): Query {
  return {
    kind: "query",
    with: null,
    body,
    orderBy: [],
    limit: null,
    locking: false,
    into: null,
    start: body.start,
    end: body.end,
  };
}

/** OVERRIDING SYSTEM VALUE, OVERRIDING USER VALUE (postgresql). */
export function overrides(p: Parser): boolean {
  if (!p.is(K.OVERRIDING)) return false;
  p.seek(p.pos + 3);
  return true;
}

/** mysql's VALUE (…), (…). */
function valuesAs(p: Parser): Query {
  const start = p.start;
  p.advance();
  const rows: (readonly Expr[])[] = [];
  do {
    p.expectKind(T.LPAREN, "(");
    rows.push(p.at(T.RPAREN) ? [] : expressions(p));
    p.expectKind(T.RPAREN, ") or ,");
  } while (p.acceptKind(T.COMMA));
  const widths = rows.map((row) => row.length);
  return wrap({
    kind: "values",
    rows,
    rowCount: rows.length,
    narrowest: Math.min(...widths),
    widest: Math.max(...widths),
    start,
    end: p.previousEnd,
  });
}

function insertTail(p: Parser, node: Building<InsertStatement>): void {
  for (;;) {
    if (!p.at(T.WORD)) return;
    if (p.marked(K.AS) && p.dialect.syntax.rowAliases) {
      // AS new (a, b): names for the inserted row
      p.advance();
      p.ident("an alias");
      if (p.at(T.LPAREN)) p.skipParens();
    } else if (p.marked(K.ON) && p.nextIs(K.CONFLICT)) grow(node.conflicts, onConflict(p));
    else if (p.marked(K.ON) && p.nextIs(K.DUPLICATE)) {
      const start = p.start;
      p.seek(p.pos + 2);
      p.expect(K.KEY);
      p.expect(K.UPDATE);
      const list = assignments(p);
      grow(node.conflicts, {
        action: "update",
        target: [],
        targetWhere: null,
        constraint: null,
        assignments: list,
        where: null,
        start,
        end: p.previousEnd,
      });
    } else if (p.marked(K.RETURNING) || (p.marked(K.RETURN) && p.dialect.syntax.returnClause && p.inRoutine > 0))
      node.returning = returning(p);
    else if (p.marked(K.LOG) && p.nextIs(K.ERRORS)) logErrors(p);
    else if (p.marked(K.WHERE) && p.dialect.syntax.filteredInsert) {
      // INSERT INTO berth (tags.Value) VALUES ('deep') WHERE berth_id = 3 (jet)
      p.advance();
      node.where = expression(p);
    } else if (p.marked(K.OPTION) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      p.skipParens();
    } else return;
  }
}

/** ON CONFLICT [target] DO NOTHING | DO UPDATE SET … */
function onConflict(p: Parser): OnConflict {
  const start = p.start;
  p.seek(p.pos + 2);
  const node: Building<OnConflict> = {
    action: "nothing",
    target: [],
    targetWhere: null,
    constraint: null,
    assignments: [],
    where: null,
    start,
    end: start,
  };
  if (p.accept(K.ON)) {
    p.expect(K.CONSTRAINT);
    node.constraint = p.ident("a constraint");
  } else if (p.acceptKind(T.LPAREN)) {
    do {
      grow(node.target, expression(p));
      if (p.at(T.WORD) && p.marked(K.NONE)) p.name("an operator class");
      if (!p.accept(K.ASC)) p.accept(K.DESC);
    } while (p.acceptKind(T.COMMA));
    p.expectKind(T.RPAREN, ") or ,");
    if (p.accept(K.WHERE)) node.targetWhere = expression(p);
  }
  p.expect(K.DO);
  if (!p.accept(K.NOTHING)) {
    p.expect(K.UPDATE);
    p.expect(K.SET);
    node.action = "update";
    node.assignments = assignments(p);
    if (p.accept(K.WHERE)) node.where = expression(p);
  }
  node.end = p.previousEnd;
  return node;
}

/** INSERT ALL | FIRST … (plsql); the current token is ALL, FIRST or WHEN. */
function multiInsert(p: Parser, start: number): MultiInsertStatement {
  if (!p.accept(K.ALL)) p.accept(K.FIRST);
  const branches: MultiInsertStatement["branches"] = [];
  let when: Expr | null = null;
  for (;;) {
    if (p.accept(K.WHEN)) {
      when = expression(p);
      p.expect(K.THEN);
    } else if (p.accept(K.ELSE)) when = null;
    else if (p.accept(K.INTO)) {
      const target = tableSource(p, false);
      const columns = p.at(T.LPAREN) ? columnList(p) : null;
      let values: readonly Expr[] | null = null;
      if (p.accept(K.VALUES)) {
        p.expectKind(T.LPAREN, "(");
        values = expressions(p);
        p.expectKind(T.RPAREN, ") or ,");
      }
      if (p.is(K.LOG)) logErrors(p);
      grow(branches, { when, target, columns, values });
    } else break;
  }
  if (branches.length === 0) p.fail("INTO");
  const source = query(p);
  return { kind: "multi-insert", branches, source, start, end: p.previousEnd };
}
