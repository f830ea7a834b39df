import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type {
  Assignment,
  DeleteStatement,
  Expr,
  InsertStatement,
  MergeStatement,
  MergeWhen,
  MultiInsertStatement,
  Name,
  OnConflict,
  Query,
  Returning,
  Statement,
  TableSource,
  TruncateStatement,
  UpdateStatement,
  With,
} from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { orderBy } from "./call.ts";
import { expression, expressions } from "./expression.ts";
import { atQuery, limit, query, selectItems, top } from "./query.ts";
import { aliased, checkOption, joined, source, sources, tableSource } from "./source.ts";

/** Takes EXEC … as the source of an INSERT; set by the statement grammar. */
export const execution: { statement: ((p: Parser) => Statement) | null } = { statement: null };

/** RETURNING … [INTO …] or OUTPUT … [INTO …]. */
export function returning(p: Parser): Returning | null {
  if (!p.is(K.RETURNING) && !p.is(K.OUTPUT) && !(p.is(K.RETURN) && p.dialect.syntax.returnClause)) return null;
  const start = p.start;
  p.advance();
  // RETURNING WITH (OLD AS o, NEW AS n)
  if (p.is(K.WITH) && p.peekKind(1) === T.LPAREN) {
    p.advance();
    p.skipParens();
  }
  const node: Returning = { items: [], into: null, start, end: start };
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
export function assignments(p: Parser): Assignment[] {
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
  let target: Expr = { kind: "column", path: name.parts, outer: false, start, end: name.end };
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

function where(p: Parser, node: UpdateStatement | DeleteStatement): void {
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
function changeTail(p: Parser, node: UpdateStatement | DeleteStatement): void {
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
function logErrors(p: Parser): void {
  p.seek(p.pos + 2);
  if (p.accept(K.INTO)) p.name("a table");
  if (p.at(T.LPAREN)) p.skipParens();
  if (p.acceptText("REJECT")) {
    p.expect(K.LIMIT);
    p.advance();
  }
}

/** UPDATE in every dialect's form; WITH, if any, has been read. */
export function update(p: Parser, withClause: With | null): UpdateStatement {
  const start = withClause?.start ?? p.start;
  p.expect(K.UPDATE);
  const node: UpdateStatement = {
    kind: "update",
    with: withClause,
    target: [],
    assignments: [],
    from: [],
    where: null,
    currentOf: null,
    orderBy: [],
    limit: null,
    returning: null,
    ignore: false,
    start,
    end: start,
  };

  if (p.is(K.OR) && p.dialect.syntax.orConflicts) {
    p.advance();
    node.ignore = p.is(K.IGNORE);
    p.advance();
  }
  if (p.dialect.syntax.changeOptions) {
    p.accept(K.LOW_PRIORITY);
    if (p.accept(K.IGNORE)) node.ignore = true;
  }
  if (p.is(K.TOP) && p.dialect.syntax.topInChanges) node.limit = top(p);
  if (p.dialect.syntax.topInChanges && p.is(K.STATISTICS)) p.fail("the name of a table");
  if (p.dialect.syntax.distinctRows) p.accept(K.DISTINCTROW);
  node.target = p.dialect.grammar.joinedUpdate ? sources(p) : [source(p)];
  p.expect(K.SET);
  node.assignments = assignments(p);
  if (p.is(K.OUTPUT)) node.returning = returning(p);
  if (p.accept(K.FROM)) node.from = sources(p);
  where(p, node);
  changeTail(p, node);
  node.end = p.previousEnd;
  return node;
}

/** DELETE in every dialect's form; WITH, if any, has been read. */
export function deletion(p: Parser, withClause: With | null): DeleteStatement {
  const start = withClause?.start ?? p.start;
  p.expect(K.DELETE);
  const node: DeleteStatement = {
    kind: "delete",
    with: withClause,
    named: [],
    from: [],
    using: [],
    where: null,
    currentOf: null,
    orderBy: [],
    limit: null,
    returning: null,
    ignore: false,
    history: null,
    start,
    end: start,
  };

  if (p.dialect.syntax.changeOptions) {
    for (;;) {
      if (p.accept(K.LOW_PRIORITY) || p.accept(K.QUICK)) continue;
      if (p.accept(K.IGNORE)) {
        node.ignore = true;
        continue;
      }
      break;
    }
  }
  if (p.is(K.TOP) && p.dialect.syntax.topInChanges) node.limit = top(p);
  if (p.dialect.syntax.distinctRows && (p.accept(K.DISTINCTROW) || p.accept(K.DISTINCT))) node.ignore = false;
  // DELETE HISTORY FROM berth BEFORE SYSTEM_TIME … (mariadb)
  const history = p.dialect.syntax.deleteHistory && p.isText("HISTORY") && p.nextIs(K.FROM);
  if (history) p.advance();
  if (p.accept(K.FROM)) deleteFrom(p, node);
  else if (p.dialect.syntax.bareDelete) {
    // DELETE vessel, DELETE a, b FROM …, DELETE a.* FROM …, DELETE * FROM …
    if (p.at(T.STAR)) p.advance();
    else if (p.at(T.LPAREN) || p.dialect.syntax.deleteExpressions || p.is(K.TABLE)) {
      node.from = [joined(p)];
    } else {
      do {
        const name = p.name("the name of a table");
        // DELETE Loaf.*, Loaf.BakedOn, Oven.Hot FROM …: the columns only show on what the criteria are (jet).
        const shown = p.dialect.engine.starTargets && name.parts.length > 1 && p.tokens.kinds[p.pos - 1] !== T.STAR;
        if (!shown) node.named.push(name);
      } while (p.acceptKind(T.COMMA));
    }
    if (p.is(K.OUTPUT)) node.returning = returning(p);
    if (p.dialect.syntax.tableHints && p.is(K.WITH) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      p.skipParens();
    }
    if (p.accept(K.FROM)) node.from = sources(p);
    else if (node.named.length === 1) {
      const name = node.named[0];
      node.named = [];
      node.from = [
        {
          kind: "table",
          name,
          alias: null,
          columns: null,
          only: false,
          hints: false,
          start: name.start,
          end: name.end,
        },
      ];
    } else if (node.from.length === 0) p.fail("FROM");
  } else p.fail("FROM");
  if (p.is(K.OUTPUT)) {
    node.returning = returning(p);
    if (p.accept(K.FROM)) {
      retarget(node);
      node.from = sources(p);
    }
  }
  if (p.accept(K.USING)) node.using = sources(p);
  if (history && p.accept(K.BEFORE)) {
    p.expect(K.SYSTEM_TIME);
    if (!p.accept(K.TIMESTAMP)) p.accept(K.TRANSACTION);
    node.history = expression(p);
  }
  where(p, node);
  changeTail(p, node);
  node.end = p.previousEnd;
  return node;
}

/** What follows DELETE FROM. */
function deleteFrom(p: Parser, node: DeleteStatement): void {
  if (p.dialect.syntax.deleteLists) {
    // DELETE FROM a, b USING …: the list names what is deleted.
    node.from = sources(p);
    if (p.is(K.USING)) {
      for (const source of node.from) {
        if (source.kind !== "table") p.fail("the names of tables before USING");
        else node.named.push(source.name);
      }
      p.advance();
      node.from = sources(p);
    }
    return;
  }
  if (p.dialect.syntax.doubleFrom) {
    node.from = p.dialect.syntax.deleteJoins ? sources(p) : [joined(p)];
    // DELETE FROM v FROM vessel v JOIN …: the first FROM names the target.
    if (p.is(K.FROM)) {
      p.advance();
      retarget(node);
      node.from = sources(p);
    }
    return;
  }
  node.from = [joined(p)];
}

/** The table read so far turns out to be the name of the target. */
function retarget(node: DeleteStatement): void {
  const source = node.from[0];
  if (source?.kind === "table") node.named = [source.name];
}

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
  const node: InsertStatement = {
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
  if (limited && node.source && node.source.limit === null) node.source.limit = limited;
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
    return aliased(p, {
      kind: "derived",
      query: inner,
      alias: null,
      columns: null,
      lateral: false,
      start,
      end: p.previousEnd,
    });
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
  const node: TableSource = {
    kind: "table",
    name,
    alias: null,
    columns: null,
    only: false,
    hints: false,
    start,
    end: p.previousEnd,
  };
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

function columnList(p: Parser): Name[] {
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

function insertSource(p: Parser, node: InsertStatement): void {
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
function overrides(p: Parser): boolean {
  if (!p.is(K.OVERRIDING)) return false;
  p.seek(p.pos + 3);
  return true;
}

/** mysql's VALUE (…), (…). */
function valuesAs(p: Parser): Query {
  const start = p.start;
  p.advance();
  const rows: Expr[][] = [];
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

function insertTail(p: Parser, node: InsertStatement): void {
  for (;;) {
    if (!p.at(T.WORD)) return;
    if (p.marked(K.AS) && p.dialect.syntax.rowAliases) {
      // AS new (a, b): names for the inserted row
      p.advance();
      p.ident("an alias");
      if (p.at(T.LPAREN)) p.skipParens();
    } else if (p.marked(K.ON) && p.nextIs(K.CONFLICT)) node.conflicts.push(onConflict(p));
    else if (p.marked(K.ON) && p.nextIs(K.DUPLICATE)) {
      const start = p.start;
      p.seek(p.pos + 2);
      p.expect(K.KEY);
      p.expect(K.UPDATE);
      const list = assignments(p);
      node.conflicts.push({
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
  const node: OnConflict = {
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
      node.target.push(expression(p));
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
      let values: Expr[] | null = null;
      if (p.accept(K.VALUES)) {
        p.expectKind(T.LPAREN, "(");
        values = expressions(p);
        p.expectKind(T.RPAREN, ") or ,");
      }
      if (p.is(K.LOG)) logErrors(p);
      branches.push({ when, target, columns, values });
    } else break;
  }
  if (branches.length === 0) p.fail("INTO");
  const source = query(p);
  return { kind: "multi-insert", branches, source, start, end: p.previousEnd };
}

/** MERGE; WITH, if any, has been read. */
export function merge(p: Parser, withClause: With | null): MergeStatement {
  const start = withClause?.start ?? p.start;
  p.expect(K.MERGE);
  if (p.is(K.TOP)) top(p);
  p.accept(K.INTO);
  const target = joined(p);
  p.expect(K.USING);
  const source = joined(p);
  p.expect(K.ON);
  const on = expression(p);
  const whens: MergeWhen[] = [];
  while (p.is(K.WHEN)) whens.push(mergeWhen(p));
  if (whens.length === 0) p.fail("WHEN MATCHED or WHEN NOT MATCHED");
  let output: Returning | null = null;
  if (p.is(K.OUTPUT) || p.is(K.RETURNING)) output = returning(p);
  if (p.is(K.LOG)) logErrors(p);
  if (p.is(K.OPTION) && p.peekKind(1) === T.LPAREN) {
    p.advance();
    p.skipParens();
  }
  return { kind: "merge", with: withClause, target, source, on, whens, returning: output, start, end: p.previousEnd };
}

function mergeWhen(p: Parser): MergeWhen {
  const start = p.start;
  p.advance();
  let matched: MergeWhen["matched"] = "matched";
  if (p.accept(K.NOT)) {
    p.expect(K.MATCHED);
    matched = "not-matched";
    if (p.accept(K.BY)) {
      if (p.accept(K.SOURCE)) matched = "not-matched-by-source";
      else p.advance();
    }
  } else p.expect(K.MATCHED);
  const condition = p.accept(K.AND) ? expression(p) : null;
  p.expect(K.THEN);
  const node: MergeWhen = {
    matched,
    condition,
    action: "nothing",
    assignments: [],
    columns: null,
    values: null,
    where: null,
    overriding: false,
    deleteWhere: null,
    start,
    end: start,
  };
  if (p.accept(K.UPDATE)) {
    node.action = "update";
    p.expect(K.SET);
    node.assignments = assignments(p);
    if (p.accept(K.WHERE)) node.where = expression(p);
    if (p.accept(K.DELETE)) {
      p.expect(K.WHERE);
      node.deleteWhere = expression(p);
    }
  } else if (p.accept(K.DELETE)) node.action = "delete";
  else if (p.accept(K.INSERT)) {
    node.action = "insert";
    if (p.at(T.LPAREN)) node.columns = columnList(p);
    node.overriding = overrides(p);
    if (p.accept(K.DEFAULT)) p.expect(K.VALUES);
    else {
      p.expect(K.VALUES);
      p.expectKind(T.LPAREN, "(");
      node.values = expressions(p);
      p.expectKind(T.RPAREN, ") or ,");
    }
    if (p.accept(K.WHERE)) node.where = expression(p);
  } else {
    p.expect(K.DO);
    p.expect(K.NOTHING);
  }
  node.end = p.previousEnd;
  return node;
}

/** TRUNCATE [TABLE] …; the current token is TRUNCATE. */
export function truncate(p: Parser): TruncateStatement {
  const start = p.start;
  p.advance();
  p.accept(K.TABLE);
  const targets: TableSource[] = [];
  do {
    const only = p.accept(K.ONLY);
    targets.push(tableSource(p, only));
  } while (p.acceptKind(T.COMMA));
  const node: TruncateStatement = {
    kind: "truncate",
    targets,
    cascade: false,
    restartIdentity: false,
    start,
    end: start,
  };
  // RESTART IDENTITY CASCADE, WITH (PARTITIONS (…)), DROP STORAGE, PURGE MATERIALIZED VIEW LOG
  while (!p.atEnd() && !p.at(T.RPAREN)) {
    if (p.dialect.grammar.bareStatements && !(p.is(K.WITH) && p.peekKind(1) === T.LPAREN) && !p.at(T.LPAREN)) break;
    if (p.is(K.CASCADE)) node.cascade = true;
    else if (p.is(K.IDENTITY)) node.restartIdentity = p.tokens.marks[p.pos - 1] === K.RESTART;
    if (p.at(T.LPAREN)) p.skipParens();
    else if (
      p.is(K.RESTART) ||
      p.is(K.CONTINUE) ||
      p.is(K.IDENTITY) ||
      p.is(K.CASCADE) ||
      p.is(K.RESTRICT) ||
      p.is(K.WITH) ||
      p.is(K.DROP) ||
      p.is(K.STORAGE) ||
      p.is(K.ALL) ||
      p.isText("REUSE") ||
      p.is(K.PRESERVE) ||
      p.is(K.PURGE) ||
      p.is(K.MATERIALIZED) ||
      p.is(K.VIEW) ||
      p.is(K.LOG) ||
      p.is(K.NOWAIT) ||
      p.isText("WAIT") ||
      p.at(T.NUMBER)
    )
      p.advance();
    else p.fail("the end of the statement");
  }
  node.end = p.previousEnd;
  return node;
}
