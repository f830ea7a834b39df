import { compact } from "../../text/own-text.ts";
import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type {
  Building,
  CommonTable,
  Compounded,
  Expr,
  Ident,
  Query,
  QueryBody,
  Select,
  SelectItem,
  Statement,
  Values,
  With,
} from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { orderBy } from "./call.ts";
import { expression, expressions, operand } from "./expression.ts";
import { grow } from "./growing.ts";
import { intoTarget } from "./into.ts";
import { limit, top } from "./limit.ts";
import { atSourceEnd, sources } from "./source.ts";

/** How many rows of a VALUES list of plain literals get a tree; the others are only counted. */
const TREE_ROWS = 64;

/** Reads a statement that stands inside a query: a data-modifying CTE. Set by the statement grammar. */
export const inner: { statement: ((p: Parser) => Statement) | null } = { statement: null };

/** Whether a query begins here (not counting one in parentheses). */
export function atQuery(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.SELECT:
      return true;
    case K.WITH:
      return true;
    case K.VALUES:
      return p.dialect.syntax.valuesFunction
        ? !p.dialect.wordClass[K.VALUES] || p.peekKind(1) !== T.LPAREN || valuesIsQuery(p)
        : // It may be the name of a column (postgresql).
          p.peekKind(1) === T.LPAREN || p.dialect.wordClass[K.VALUES] !== 0;
    case K.TABLE: {
      const next = p.peekKind(1);
      return (next === T.WORD || next === T.QUOTED) && p.dialect.syntax.tableQueries;
    }
    case K.TRANSFORM:
      return p.dialect.syntax.crosstabs;
    default:
      return false;
  }
}

/** In mysql VALUES(column) is a function; VALUES (1, 2), (3, 4) and VALUES ROW(1) are queries. */
function valuesIsQuery(p: Parser): boolean {
  let at = 2;
  let depth = 1;
  while (depth > 0) {
    const kind = p.peekKind(at);
    if (kind === T.LPAREN) depth++;
    else if (kind === T.RPAREN) depth--;
    else if (kind === T.EOF || kind === T.SEMICOLON) return false;
    else if (depth === 1 && kind === T.COMMA) return true;
    at++;
    if (at > 200) return true;
  }
  const first = p.peekKind(2);
  return first === T.NUMBER || first === T.STRING;
}

/** A whole query: WITH, its body, ORDER BY, limits, locks. */
export function query(p: Parser): Query {
  p.enter();
  const start = p.start;
  const withClause = p.is(K.WITH) ? withTables(p) : null;
  if (p.is(K.TRANSFORM) && p.dialect.syntax.crosstabs) {
    // A cross table: TRANSFORM aggregate SELECT … PIVOT column.
    p.advance();
    expression(p);
  }
  const body = bodyTerm(p);
  const result = tail(p, withClause, body, start);
  p.leave();
  return result;
}

/** Goes on with a query whose first part, in parentheses, has been read already. */
export function queryRest(p: Parser, first: Building<QueryBody>, start: number): Query {
  return tail(p, null, first, start);
}

function tail(p: Parser, withClause: With | null, first: Building<QueryBody>, start: number): Query {
  const body = setOperations(p, first);
  const node: Building<Query> = {
    kind: "query",
    with: withClause,
    body,
    orderBy: [],
    limit: null,
    locking: false,
    into: null,
    start,
    end: p.previousEnd,
  };
  for (;;) {
    if (!p.at(T.WORD)) break;
    if (p.marked(K.ORDER)) node.orderBy = orderBy(p);
    else if (p.marked(K.LIMIT) || p.marked(K.OFFSET) || (p.marked(K.FETCH) && isFetchClause(p, node))) {
      if (p.marked(K.LIMIT) && p.dialect.syntax.limitIsName) break;
      node.limit = limit(p, node.limit);
    } else if (p.marked(K.FOR) && !forEndsQuery(p)) node.locking = lockClause(p) || node.locking;
    else if (p.marked(K.LOCK) && p.nextIs(K.IN)) {
      p.seek(p.pos + 2);
      p.expect(K.SHARE);
      p.expect(K.MODE);
      if (!p.accept(K.NOWAIT) && p.accept(K.SKIP)) p.accept(K.LOCKED);
      node.locking = true;
    } else if (p.marked(K.INTO) && (p.dialect.syntax.intoAtEnd || p.inRoutine > 0)) node.into = intoTarget(p);
    else if (p.marked(K.OPTION) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      p.skipParens();
    } else if (p.marked(K.WITH) && p.dialect.syntax.ownerAccess && p.nextIs(K.OWNERACCESS)) p.seek(p.pos + 3);
    else if (p.marked(K.PIVOT) && p.dialect.syntax.crosstabs) {
      p.advance();
      expression(p);
      if (p.is(K.IN)) {
        p.advance();
        p.skipParens();
      }
    } else if (p.marked(K.PROCEDURE) && p.dialect.syntax.procedureAnalyse) {
      // PROCEDURE ANALYSE(…) of old servers.
      p.seek(p.pos + 2);
      if (p.at(T.LPAREN)) p.skipParens();
    } else break;
  }
  node.end = p.previousEnd;
  return node;
}

/** FETCH FIRST … ROWS, and not the FETCH statement that follows a query without a terminator. */
function isFetchClause(p: Parser, node: Building<Query>): boolean {
  // T-SQL has it only after OFFSET; by itself it is the statement that reads a cursor.
  if (p.dialect.grammar.bareStatements && (!node.limit?.offset || node.limit.count)) return false;
  return p.nextIs(K.FIRST) || p.nextIs(K.NEXT);
}

/** In PL/SQL and PL/pgSQL a query may stand before words that begin with FOR; here none does. */
function forEndsQuery(p: Parser): boolean {
  if (p.dialect.syntax.forXml) return !(p.nextIs(K.UPDATE) || p.peekKind(1) === T.WORD) || p.nextIs(K.SELECT);
  return p.dialect.syntax.noLockingReads;
}

function lockClause(p: Parser): boolean {
  p.advance();
  if (p.dialect.syntax.forXml) {
    // FOR XML PATH('…'), ROOT; FOR JSON AUTO; FOR BROWSE
    p.advance();
    for (;;) {
      if (p.at(T.LPAREN)) p.skipParens();
      else if (p.at(T.COMMA)) p.advance();
      else if (
        p.at(T.WORD) &&
        /^(?:path|auto|raw|explicit|root|type|elements|xsinil|absent|include_null_values|without_array_wrapper|base64|binary|xmldata|xmlschema)$/i.test(
          p.tokenText(),
        )
      )
        p.advance();
      else return false;
    }
  }
  if (p.accept(K.READ)) {
    p.accept(K.ONLY);
    return false;
  }
  if (p.acceptText("NO")) {
    p.expect(K.KEY);
    p.expect(K.UPDATE);
  } else if (p.accept(K.KEY)) p.expect(K.SHARE);
  else if (!p.accept(K.UPDATE) && !p.accept(K.SHARE)) {
    if (p.accept(K.SYSTEM_TIME)) return false;
    p.fail("UPDATE or SHARE");
  }
  if (p.accept(K.OF)) {
    do p.name("a table");
    while (p.acceptKind(T.COMMA));
  }
  if (!p.accept(K.NOWAIT) && (p.is(K.SKIP) || p.isText("WAIT"))) {
    if (p.accept(K.SKIP)) p.accept(K.LOCKED);
    else {
      p.advance();
      p.advance();
    }
  }
  return true;
}

/** WITH and its tables; the current token is WITH. */
export function withTables(p: Parser): With {
  const start = p.start;
  p.advance();
  const recursive = p.accept(K.RECURSIVE);
  const tables: CommonTable[] = [];
  // Oracle's inline functions stand before the tables.
  while ((p.is(K.FUNCTION) || p.is(K.PROCEDURE)) && p.dialect.syntax.functionsInWith) {
    while (!p.is(K.END)) {
      if (p.at(T.EOF)) p.fail("END");
      p.advance();
    }
    while (!p.at(T.SEMICOLON)) {
      if (p.at(T.EOF)) p.fail(";");
      p.advance();
    }
    p.advance();
    if (p.is(K.SELECT)) return { recursive, tables, start, end: p.previousEnd };
  }
  if (p.is(K.XMLNAMESPACES)) {
    p.advance();
    p.skipParens();
    if (!p.acceptKind(T.COMMA)) return { recursive, tables, start, end: p.previousEnd };
  }
  do {
    const from = p.start;
    const name = p.ident("the name of a common table expression");
    const columns = p.at(T.LPAREN) ? p.identList("a column") : null;
    p.expect(K.AS);
    if (p.accept(K.NOT)) p.expect(K.MATERIALIZED);
    else p.accept(K.MATERIALIZED);
    p.expectKind(T.LPAREN, "(");
    let body: Statement | Query;
    if (isChangeWord(p) && inner.statement) body = inner.statement(p);
    else if (p.is(K.WITH) && inner.statement) {
      // A WITH of its own, before a query or before a change.
      const own = inner.statement(p);
      body = own.kind === "select" ? own.query : own;
    } else {
      body = query(p);
      // WITH … INSERT inside the parentheses.
      if (isChangeWord(p) && inner.statement) body = inner.statement(p);
    }
    p.expectKind(T.RPAREN, ")");
    if (p.is(K.SEARCH)) {
      p.advance();
      p.advance();
      p.expect(K.FIRST);
      p.expect(K.BY);
      orderItems(p);
      p.expect(K.SET);
      p.ident("a column");
    }
    if (p.is(K.CYCLE)) {
      p.advance();
      do p.ident("a column");
      while (p.acceptKind(T.COMMA));
      if (p.accept(K.SET)) {
        p.ident("a column");
        if (p.accept(K.TO)) {
          operand(p);
          p.expect(K.DEFAULT);
          operand(p);
        }
      }
      if (p.accept(K.USING)) p.ident("a column");
      else p.accept(K.RESTRICT);
    }
    tables.push({ name, columns, body, start: from, end: p.previousEnd });
  } while (p.acceptKind(T.COMMA));
  return { recursive, tables, start, end: p.previousEnd };
}

function orderItems(p: Parser): void {
  do {
    p.name("a column");
    if (!p.accept(K.ASC)) p.accept(K.DESC);
    if (p.accept(K.NULLS)) p.advance();
  } while (p.acceptKind(T.COMMA));
}

function isChangeWord(p: Parser): boolean {
  return p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.MERGE) || (p.is(K.REPLACE) && p.nextIs(K.INTO));
}

/** The set operation at the current token, without taking it. */
function setOperation(p: Parser): "union" | "intersect" | "except" | null {
  if (!p.at(T.WORD)) return null;
  switch (p.kw) {
    case K.UNION:
      return "union";
    case K.INTERSECT:
      return "intersect";
    case K.EXCEPT:
      return "except";
    case K.MINUS:
      return p.dialect.syntax.minusOperation ? "except" : null;
    default:
      return null;
  }
}

function setOperations(p: Parser, first: Building<QueryBody>): QueryBody {
  const op = setOperation(p);
  if (op === null) return first;
  const node: Building<Compounded> = { kind: "compounded", first, rest: [], start: first.start, end: first.end };
  for (let next: ReturnType<typeof setOperation> = op; next; next = setOperation(p)) {
    p.advance();
    const all = p.accept(K.ALL);
    if (!all) p.accept(K.DISTINCT);
    const body = bodyTerm(p);
    node.rest.push({ op: next, all, body });
    node.end = body.end;
  }
  return node;
}

function bodyTerm(p: Parser): QueryBody {
  switch (p.kind) {
    case T.LPAREN: {
      const start = p.start;
      p.enter();
      p.advance();
      const body: Building<Query> = query(p);
      p.expectKind(T.RPAREN, ")");
      p.leave();
      body.start = start;
      body.end = p.previousEnd;
      return body;
    }
    case T.WORD:
      switch (p.kw) {
        case K.SELECT:
          return select(p);
        case K.VALUES:
          return values(p);
        case K.TABLE: {
          const start = p.start;
          p.advance();
          p.accept(K.ONLY);
          const name = p.name("a table");
          return { kind: "table-query", name, start, end: name.end };
        }
        case K.WITH:
          return query(p);
        default:
      }
      break;
    default:
  }
  return p.fail("SELECT");
}

/** VALUES (…), (…). Long lists of plain literals are counted, not built. */
export function values(p: Parser): Values {
  const start = p.start;
  p.advance();
  const rows: (readonly Expr[])[] = [];
  let rowCount = 0;
  let narrowest = Number.POSITIVE_INFINITY;
  let widest = 0;
  do {
    p.accept(K.ROW);
    if (!p.at(T.LPAREN)) {
      if (p.at(T.HOLE)) {
        rows.push([expression(p)]);
        rowCount++;
        continue;
      }
      // VALUES without rows, one bare expression (jet, templates).
      p.fail("(");
    }
    let width = rowCount >= TREE_ROWS ? skipLiteralRow(p) : -1;
    if (width < 0) {
      p.advance();
      const row = p.at(T.RPAREN) ? [] : expressions(p);
      p.expectKind(T.RPAREN, ") or ,");
      rows.push(row);
      width = row.length;
    }
    rowCount++;
    if (width < narrowest) narrowest = width;
    if (width > widest) widest = width;
  } while (p.acceptKind(T.COMMA));
  if (rowCount === 0 || narrowest === Number.POSITIVE_INFINITY) narrowest = 0;
  return { kind: "values", rows, rowCount, narrowest, widest, start, end: p.previousEnd };
}

/** Skips a row that holds nothing but literals; returns its width, or -1 with nothing taken. */
function skipLiteralRow(p: Parser): number {
  const { kinds, marks, count } = p.tokens;
  let at = p.pos + 1;
  let width = 0;
  for (;;) {
    if (at >= count) return -1;
    if (kinds[at] === T.OPERATOR && (marks[at] === Op.MINUS || marks[at] === Op.PLUS)) at++;
    const kind = kinds[at];
    if (kind === T.WORD) {
      const word = marks[at];
      if (word !== K.NULL && word !== K.TRUE && word !== K.FALSE && word !== K.DEFAULT) {
        // _binary '…' in dumps
        if (word !== K.NONE || kinds[at + 1] !== T.STRING) return -1;
        at++;
      }
    } else if (kind !== T.NUMBER && kind !== T.STRING) return -1;
    width++;
    at++;
    if (at >= count) return -1;
    if (kinds[at] === T.RPAREN) {
      p.seek(at + 1);
      return width;
    }
    if (kinds[at] !== T.COMMA) return -1;
    at++;
  }
}

/** SELECT and its clauses; the current token is SELECT, or PERFORM in its place. */
export function select(p: Parser): Select {
  const start = p.start;
  p.advance();
  const node: Building<Select> = {
    kind: "select",
    distinct: false,
    distinctOn: null,
    top: null,
    items: [],
    into: null,
    from: [],
    where: null,
    groupBy: [],
    having: null,
    connectBy: null,
    qualify: null,
    windows: false,
    start,
    end: start,
  };
  selectModifiers(p, node);
  if (!(p.is(K.FROM) || p.is(K.INTO) || p.is(K.WHERE) || setOperation(p) !== null) && !p.atEnd() && !p.at(T.RPAREN))
    node.items = selectItems(p);
  else if (!p.dialect.syntax.emptySelectList && !p.is(K.INTO)) p.fail("an expression");
  if (p.is(K.BULK) && !p.dialect.grammar.bareStatements) {
    p.advance();
    p.expectKind(T.WORD, "COLLECT");
  }
  if (p.is(K.INTO)) {
    node.into = intoTarget(p);
    // PL/pgSQL takes INTO before the items as well.
    if (p.inRoutine > 0 && node.items.length === 0 && !p.is(K.FROM) && !p.atEnd()) node.items = selectItems(p);
  }
  if (p.accept(K.FROM)) {
    node.from = sources(p);
    // FROM vessel IN 'other.mdb' (jet)
    if (p.is(K.IN) && p.dialect.syntax.otherFiles && p.peekKind(1) === T.STRING) p.seek(p.pos + 2);
    if (p.is(K.INTO) && !p.dialect.syntax.intoAtEnd) node.into = intoTarget(p);
  }
  selectClauses(p, node);
  node.end = p.previousEnd;
  return node;
}

function selectModifiers(p: Parser, node: Building<Select>): void {
  for (;;) {
    if (!p.at(T.WORD)) return;
    switch (p.kw) {
      case K.ALL:
        p.advance();
        continue;
      case K.DISTINCT:
      case K.DISTINCTROW:
        node.distinct = true;
        p.advance();
        if (p.is(K.ON) && p.dialect.syntax.distinctOn) {
          p.advance();
          p.expectKind(T.LPAREN, "(");
          node.distinctOn = expressions(p);
          p.expectKind(T.RPAREN, ") or ,");
        }
        continue;
      case K.UNIQUE:
        if (!p.dialect.syntax.selectUnique) return;
        node.distinct = true;
        p.advance();
        continue;
      case K.TOP:
        if (!p.dialect.syntax.topClause) return;
        node.top = top(p);
        continue;
      case K.HIGH_PRIORITY:
      case K.STRAIGHT_JOIN:
      case K.SQL_SMALL_RESULT:
      case K.SQL_BIG_RESULT:
      case K.SQL_BUFFER_RESULT:
      case K.SQL_CACHE:
      case K.SQL_NO_CACHE:
      case K.SQL_CALC_FOUND_ROWS:
        if (!p.dialect.syntax.selectOptions) return;
        p.advance();
        continue;
      default:
        return;
    }
  }
}

/** The items of a select list or of RETURNING. */
export function selectItems(p: Parser): readonly SelectItem[] {
  const items: SelectItem[] = [];
  do {
    const start = p.start;
    // `alias = expression` (tsql)
    const bareAssign =
      p.dialect.syntax.aliasEquals &&
      p.peekKind(1) === T.OPERATOR &&
      p.peekMark(1) === Op.EQ &&
      (p.at(T.WORD) || p.at(T.QUOTED) || p.at(T.STRING));
    if (bareAssign) {
      const alias = p.label("an alias");
      p.advance();
      items.push({ expr: expression(p), alias, start, end: p.previousEnd });
      continue;
    }
    let expr = expression(p);
    if (p.at(T.OPERATOR) && p.marked(Op.PLUS_EQ) && expr.kind === "variable") {
      p.advance();
      expr = { kind: "binary", op: "+=", left: expr, right: expression(p), start, end: p.previousEnd };
    }
    let alias: Ident | null = null;
    if (p.accept(K.AS)) {
      if (p.at(T.LPAREN)) p.skipParens();
      else alias = p.label("an alias");
    } else if (p.atBareAlias() || (p.at(T.STRING) && p.dialect.syntax.stringAliases)) {
      if (!atSourceEnd(p)) alias = p.anyIdent();
    } else if (p.at(T.WORD) && isColumnLabel(p)) alias = p.anyIdent();
    items.push({ expr, alias, start, end: p.previousEnd });
  } while (p.acceptKind(T.COMMA));
  return compact(items);
}

/** PostgreSQL takes nearly every word as a bare column label (manual, appendix C). */
function isColumnLabel(p: Parser): boolean {
  if (!p.dialect.syntax.bareLabels || (p.inRoutine > 0 && p.marked(K.LOOP))) return false;
  switch (p.kw) {
    case K.ARRAY:
    case K.AS:
    case K.CREATE:
    case K.EXCEPT:
    case K.FETCH:
    case K.FOR:
    case K.FROM:
    case K.GRANT:
    case K.GROUP:
    case K.HAVING:
    case K.INTERSECT:
    case K.INTO:
    case K.LIMIT:
    case K.OFFSET:
    case K.ON:
    case K.ORDER:
    case K.RETURNING:
    case K.TO:
    case K.UNION:
    case K.WHERE:
    case K.WINDOW:
    case K.WITH:
    case K.OVERLAPS:
    case K.NOTNULL:
    case K.ISNULL:
      return false;
    default:
      return true;
  }
}

function selectClauses(p: Parser, node: Building<Select>): void {
  for (;;) {
    if (!p.at(T.WORD)) return;
    switch (p.kw) {
      case K.WHERE:
        p.advance();
        node.where = expression(p);
        continue;
      case K.START:
        if (!p.nextIs(K.WITH)) return;
        p.seek(p.pos + 2);
        expression(p);
        continue;
      case K.CONNECT:
        if (!p.nextIs(K.BY)) return;
        p.seek(p.pos + 2);
        p.accept(K.NOCYCLE);
        node.connectBy = expression(p);
        continue;
      case K.GROUP:
        p.advance();
        p.expect(K.BY);
        if (p.is(K.ALL) || p.is(K.DISTINCT)) {
          p.advance();
          if (p.atEnd() || p.is(K.ORDER) || p.is(K.HAVING)) continue;
        }
        groupItems(p, node.groupBy);
        continue;
      case K.HAVING:
        p.advance();
        node.having = expression(p);
        continue;
      case K.QUALIFY:
        p.advance();
        node.qualify = expression(p);
        continue;
      case K.WINDOW:
        p.advance();
        do {
          p.ident("the name of a window");
          p.expect(K.AS);
          p.skipParens();
        } while (p.acceptKind(T.COMMA));
        node.windows = true;
        continue;
      case K.MODEL:
        if (!p.dialect.syntax.modelClause) return;
        while (!p.atEnd() && !p.at(T.RPAREN) && !p.is(K.ORDER)) {
          if (p.at(T.LPAREN)) p.skipParens();
          else p.advance();
        }
        continue;
      default:
        return;
    }
  }
}

function groupItems(p: Parser, items: readonly Expr[]): void {
  do {
    const start = p.start;
    if (p.is(K.GROUPING) && p.nextIs(K.SETS)) {
      p.seek(p.pos + 2);
      p.skipParens();
      grow(items, { kind: "opaque", start, end: p.previousEnd });
    } else {
      grow(items, expression(p));
      // mysql's GROUP BY a DESC
      if (p.dialect.syntax.groupDirections && !p.accept(K.DESC)) p.accept(K.ASC);
    }
  } while (p.acceptKind(T.COMMA));
  if (p.is(K.WITH) && (p.nextIs(K.ROLLUP) || p.nextIs(K.CUBE))) p.seek(p.pos + 2);
}
