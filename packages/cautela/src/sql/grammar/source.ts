import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, Expr, Ident, Join, Source, TableSource } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { isOuterMark } from "./call.ts";
import { expression, operand } from "./expression.ts";
import { grow } from "./growing.ts";
import { plainDerived } from "./plain-nodes.ts";
import { atQuery, inner, query, queryRest } from "./query.ts";

/** The sources after FROM, with commas between. */
export function sources(p: Parser): Source[] {
  const first = joined(p);
  if (!p.at(T.COMMA)) return [first];
  const list = [first];
  while (p.acceptKind(T.COMMA)) {
    list.push(joined(p));
    // sqlite takes a comma for JOIN, with its condition.
    if (p.dialect.syntax.commaJoins && (p.is(K.ON) || p.is(K.USING))) commaJoin(p, list);
  }
  return list;
}

function commaJoin(p: Parser, list: Source[]): void {
  const source = list.pop();
  const first = list.pop();
  if (!source || !first) return;
  const join: Building<Join> = {
    type: "inner",
    natural: false,
    source,
    on: null,
    using: null,
    start: source.start,
    end: source.end,
  };
  condition(p, join);
  list.push(joinedTo(p, first, [join]));
}

/** Words that end a source although they could be an alias. */
export function atSourceEnd(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.START:
      return p.nextIs(K.WITH);
    case K.CONNECT:
      return p.nextIs(K.BY);
    case K.BEFORE:
      return p.nextIs(K.SYSTEM_TIME);
    case K.USE:
    case K.FORCE:
    case K.IGNORE:
      return p.dialect.syntax.indexHints && (p.nextIs(K.INDEX) || p.nextIs(K.KEY));
    case K.PARTITION:
      return p.peekKind(1) === T.LPAREN;
    case K.LOCK:
      return p.nextIs(K.IN);
    case K.SEMI:
    case K.ANTI:
    case K.ASOF:
      return p.nextIs(K.JOIN);
    case K.OPTION:
      return p.peekKind(1) === T.LPAREN;
    case K.INDEXED:
      return p.nextIs(K.BY);
    case K.PROCEDURE:
      return p.dialect.syntax.procedureAnalyse;
    case K.AT:
      return p.nextIs(K.TIME) || p.nextIs(K.LOCAL);
    case K.NONE:
      return p.dialect.syntax.wordOperators && (p.isText("EQV") || p.isText("IMP"));
    case K.GLOB:
    case K.REGEXP:
    case K.RLIKE:
    case K.DIV:
    case K.MOD:
    case K.XOR:
    case K.SOUNDS:
    case K.COLLATE:
      return true;
    case K.FROM:
      return true;
    case K.ORDER:
      return true;
    case K.WITHIN:
      return p.nextIs(K.GROUP);
    case K.OVER:
    case K.FILTER:
      return p.peekKind(1) === T.LPAREN;
    default:
      // Without terminators the next statement may follow directly.
      return p.dialect.grammar.bareStatements && p.firstOnLine() && startsBareStatement(p);
  }
}

function startsBareStatement(p: Parser): boolean {
  switch (p.kw) {
    case K.PRINT:
    case K.THROW:
    case K.ENABLE:
    case K.DISABLE:
    case K.MOVE:
      return true;
    default:
      return false;
  }
}

/** One source with all that is joined to it, as one flat list. */
export function joined(p: Parser): Source {
  return joinedTo(p, source(p), null);
}

/** What is joined to a source, after the joins that it may have already. */
function joinedTo(p: Parser, first: Building<Source>, before: Join[] | null): Source {
  let joins = before;
  // Joins that still wait for their ON: `a JOIN b JOIN c ON … ON …`.
  for (;;) {
    const start = p.start;
    const join: Building<Join> | null = joinWord(p);
    if (join === null) {
      if (joins && atCondition(p)) {
        const open = lastOpen(joins);
        if (open) {
          condition(p, open);
          continue;
        }
      }
      break;
    }
    join.start = start;
    join.source = source(p);
    if (joins === null) joins = [join];
    else joins.push(join);
    if (atCondition(p)) condition(p, join);
    join.end = p.previousEnd;
  }
  if (joins === null) return first;
  return { kind: "joined", first, joins, alias: null, columns: null, start: first.start, end: p.previousEnd };
}

/** ON or USING of a join, and not the ON of an upsert after INSERT … SELECT. */
function atCondition(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  if (p.kw === K.USING) return true;
  return (
    p.kw === K.ON &&
    !p.nextIs(K.DUPLICATE) &&
    !(p.nextIs(K.CONFLICT) && (p.nextIs(K.DO, 2) || p.peekKind(2) === T.LPAREN))
  );
}

function lastOpen(joins: readonly Join[]): Building<Join> | null {
  for (let i = joins.length - 1; i >= 0; i--) {
    const join = joins[i];
    if (join.on === null && join.using === null && join.type !== "cross" && !join.natural) return join;
  }
  return null;
}

function condition(p: Parser, join: Building<Join>): void {
  if (p.accept(K.ON)) join.on = expression(p);
  else {
    p.advance();
    join.using = p.identList("a column");
    // USING (id) AS shared
    if (p.accept(K.AS)) p.ident("an alias");
  }
  join.end = p.previousEnd;
}

/** Takes the words of a join; null when none stands here. */
function joinWord(p: Parser): Join | null {
  if (!p.at(T.WORD)) return null;
  let type: Join["type"] = "inner";
  let natural = false;
  switch (p.kw) {
    case K.JOIN:
      p.advance();
      break;
    case K.STRAIGHT_JOIN:
      p.advance();
      break;
    case K.INNER:
      p.advance();
      joinHint(p);
      p.expect(K.JOIN);
      break;
    case K.CROSS:
      p.advance();
      if (p.accept(K.APPLY)) type = "apply";
      else {
        p.expect(K.JOIN);
        type = "cross";
      }
      break;
    case K.OUTER:
      if (!p.nextIs(K.APPLY)) return null;
      p.seek(p.pos + 2);
      type = "outer-apply";
      break;
    case K.LEFT:
    case K.RIGHT:
    case K.FULL:
      if (p.peekKind(1) !== T.WORD) return null;
      type = outerType(p.kw);
      p.advance();
      p.accept(K.OUTER);
      joinHint(p);
      p.expect(K.JOIN);
      break;
    case K.NATURAL:
      p.advance();
      natural = true;
      if (p.is(K.LEFT) || p.is(K.RIGHT) || p.is(K.FULL)) {
        type = outerType(p.kw);
        p.advance();
        p.accept(K.OUTER);
      } else if (!p.accept(K.INNER)) p.accept(K.CROSS);
      if (!p.accept(K.STRAIGHT_JOIN)) p.expect(K.JOIN);
      break;
    default:
      return null;
  }
  return { type, natural, source: placeholder, on: null, using: null, start: 0, end: 0 };
}

const placeholder: Building<Source> = { kind: "opaque-source", inner: null, alias: null, start: 0, end: 0 };

function outerType(word: number): Join["type"] {
  return word === K.LEFT ? "left" : word === K.RIGHT ? "right" : "full";
}

/** INNER HASH JOIN, LEFT LOOP JOIN, FULL MERGE JOIN (tsql). */
function joinHint(p: Parser): void {
  if (p.dialect.syntax.joinHints && (p.is(K.HASH) || p.is(K.LOOP) || p.is(K.MERGE) || p.is(K.REMOTE))) p.advance();
}

/** One source, without what is joined to it. */
export function source(p: Parser): Source {
  p.enter();
  const node = plainSource(p);
  p.leave();
  return suffix(p, node);
}

function plainSource(p: Parser): Source {
  const start = p.start;
  let lateral = false;
  if (p.is(K.LATERAL) && (p.peekKind(1) === T.LPAREN || p.peekKind(1) === T.WORD || p.peekKind(1) === T.QUOTED)) {
    p.advance();
    lateral = true;
  }
  if (p.at(T.LPAREN)) return parenthesisedSource(p, start, lateral);
  if (p.is(K.ROWS) && p.nextIs(K.FROM)) {
    p.seek(p.pos + 2);
    p.skipParens();
    const call = { kind: "opaque" as const, start, end: p.previousEnd };
    if (p.accept(K.WITH)) p.accept(K.ORDINALITY);
    const node = { kind: "function" as const, call, alias: null, columns: null, lateral, start, end: p.previousEnd };
    return aliased(p, node);
  }
  if (p.at(T.VARIABLE)) {
    // A table variable (tsql).
    const name = p.tokenText();
    const from = p.start;
    if (p.peekKind(1) !== T.DOT) {
      p.advance();
      const ident: Building<Ident> = { text: name, quoted: false, hole: false, start: from, end: p.previousEnd };
      const node: Building<TableSource> = {
        kind: "table",
        name: { kind: "name", parts: [ident], link: null, start: from, end: p.previousEnd },
        alias: null,
        columns: null,
        only: false,
        hints: false,
        start,
        end: p.previousEnd,
      };
      return aliased(p, node);
    }
    const call = expression(p);
    return aliased(p, { kind: "function", call, alias: null, columns: null, lateral, start, end: p.previousEnd });
  }
  if (p.at(T.LBRACE)) {
    // {oj a LEFT JOIN b ON …}
    p.advance();
    p.label("a word");
    const node = joined(p);
    p.expectKind(T.RBRACE, "}");
    return node;
  }
  const only = p.is(K.ONLY) && p.dialect.syntax.onlyTables;
  if (only) {
    p.advance();
    if (p.at(T.LPAREN)) {
      p.advance();
      const node = tableSource(p, true);
      p.expectKind(T.RPAREN, ")");
      return aliased(p, node);
    }
  }
  if (isFunctionSource(p)) {
    const call = callSource(p);
    if (p.is(K.WITH) && p.nextIs(K.ORDINALITY)) p.seek(p.pos + 2);
    if (p.is(K.WITH) && p.peekKind(1) === T.LPAREN) {
      // OPENJSON(@j) WITH (…)
      p.advance();
      p.skipParens();
    }
    return aliased(p, { kind: "function", call, alias: null, columns: null, lateral, start, end: p.previousEnd });
  }
  return aliased(p, tableSource(p, only));
}

/** Whether a call and not a table stands here: a name followed by a parenthesis. */
function isFunctionSource(p: Parser): boolean {
  if (!p.at(T.WORD) && !p.at(T.QUOTED)) return false;
  let at = 1;
  while (p.peekKind(at) === T.DOT) at += 2;
  if (p.is(K.COLLATION) && p.nextIs(K.FOR)) return true;
  if (p.peekKind(at) !== T.LPAREN) {
    return at === 1 && p.at(T.WORD) && isBareFunctionSource(p);
  }
  // tsql: `FROM vessel (NOLOCK)` is a table with an old-style hint.
  if (p.dialect.syntax.tableHints && isTableHint(p, at + 1)) return false;
  return true;
}

const TABLE_HINTS =
  /^(?:holdlock|index|nolock|paglock|readcommitted|readpast|readuncommitted|rowlock|tablock|tablockx|updlock|xlock)$/i;

function isTableHint(p: Parser, ahead: number): boolean {
  if (p.peekKind(ahead) !== T.WORD) return false;
  const at = p.pos + ahead;
  return TABLE_HINTS.test(p.text.slice(p.tokens.starts[at], p.tokens.ends[at]));
}

function isBareFunctionSource(p: Parser): boolean {
  return (
    p.dialect.syntax.wordFunctions &&
    (p.marked(K.CURRENT_DATE) ||
      p.marked(K.CURRENT_TIMESTAMP) ||
      p.marked(K.CURRENT_TIME) ||
      p.marked(K.LOCALTIME) ||
      p.marked(K.LOCALTIMESTAMP) ||
      p.marked(K.CURRENT_USER) ||
      p.marked(K.SESSION_USER) ||
      p.marked(K.USER) ||
      p.marked(K.CURRENT_CATALOG) ||
      p.marked(K.CURRENT_ROLE) ||
      p.marked(K.SYSTEM_USER) ||
      p.marked(K.CURRENT_SCHEMA))
  );
}

/** A call in FROM. The column lists of JSON_TABLE, XMLTABLE and OPENROWSET are no arguments. */
function callSource(p: Parser): Expr {
  const start = p.start;
  switch (p.kw) {
    case K.JSON_TABLE:
    case K.XMLTABLE:
    case K.OPENROWSET:
    case K.OPENQUERY:
    case K.OPENXML:
    case K.TABLE:
    case K.CAST:
    case K.CONTAINSTABLE:
    case K.FREETEXTTABLE:
      if (p.at(T.WORD) && !p.marked(K.TABLE) && !p.marked(K.CAST)) {
        p.advance();
        p.skipParens();
        return { kind: "opaque", start, end: p.previousEnd };
      }
      if (p.at(T.WORD) && p.marked(K.TABLE)) {
        // TABLE(collection) (plsql)
        p.advance();
        p.expectKind(T.LPAREN, "(");
        let call: Expr;
        if (atQuery(p)) {
          const from = p.start;
          const rows = query(p);
          call = { kind: "subquery", query: rows, start: from, end: p.previousEnd };
        } else call = expression(p);
        p.expectKind(T.RPAREN, ")");
        if (isOuterMark(p)) p.seek(p.pos + 3);
        else if (p.at(T.LPAREN)) p.skipParens();
        return call;
      }
      break;
    default:
  }
  return expression(p);
}

function parenthesisedSource(p: Parser, start: number, lateral: boolean): Source {
  p.advance();
  if (atQuery(p) && !(p.is(K.TABLE) && !p.dialect.syntax.tableInParentheses)) {
    const body = query(p);
    checkOption(p);
    p.expectKind(T.RPAREN, ")");
    return aliased(p, plainDerived(body, lateral, start, p.previousEnd));
  }
  if (p.at(T.WORD) && (p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.MERGE)) && inner.statement) {
    // A change whose OUTPUT rows are the source (tsql).
    const body = inner.statement(p);
    p.expectKind(T.RPAREN, ")");
    return aliased(p, plainDerived(body, lateral, start, p.previousEnd));
  }
  let node: Building<Source> = joined(p);
  // (a, b): a list of tables in parentheses (mysql).
  while (p.at(T.COMMA)) {
    const from = p.start;
    p.advance();
    const next = joined(p);
    const join: Building<Join> = {
      type: "cross",
      natural: false,
      source: next,
      on: null,
      using: null,
      start: from,
      end: next.end,
    };
    if (node.kind === "joined") grow(node.joins, join);
    else
      node = {
        kind: "joined",
        first: node,
        joins: [join],
        alias: null,
        columns: null,
        start: node.start,
        end: next.end,
      };
    node.end = next.end;
  }
  if (node.kind === "derived" && node.alias === null && isTail(p)) {
    // ((SELECT …) UNION SELECT …)
    if (node.query.kind === "query") {
      const whole = queryRest(p, node.query, node.start);
      p.expectKind(T.RPAREN, ")");
      return aliased(p, plainDerived(whole, lateral, start, p.previousEnd));
    }
  }
  p.expectKind(T.RPAREN, ")");
  node.start = start;
  node.end = p.previousEnd;
  return aliased(p, node);
}

/** WITH CHECK OPTION and WITH READ ONLY of an inline view (plsql). */
export function checkOption(p: Parser): void {
  if (!p.is(K.WITH) || !p.dialect.syntax.inlineViewOptions) return;
  if (p.nextIs(K.CHECK)) p.seek(p.pos + 3);
  else if (p.nextIs(K.READ)) p.seek(p.pos + 3);
  else return;
  if (p.accept(K.CONSTRAINT)) p.ident("a constraint");
}

function isTail(p: Parser): boolean {
  return (
    p.is(K.UNION) ||
    p.is(K.EXCEPT) ||
    p.is(K.INTERSECT) ||
    p.is(K.MINUS) ||
    p.is(K.ORDER) ||
    p.is(K.LIMIT) ||
    p.is(K.OFFSET) ||
    p.is(K.FETCH)
  );
}

/** A table by its name, without an alias. */
export function tableSource(p: Parser, only: boolean): TableSource {
  const start = p.start;
  const name = p.name("the name of a table");
  // PostgreSQL's trailing star: FROM vessel *
  if (p.at(T.STAR) && p.dialect.syntax.descendantStar) p.advance();
  return { kind: "table", name, alias: null, columns: null, only, hints: false, start, end: p.previousEnd };
}

/** The alias and the column names after a source. */
export function aliased<S extends Building<Source>>(p: Parser, node: S): S {
  hints(p, node);
  if (p.at(T.WORD) && p.marked(K.AS)) {
    p.advance();
    if (p.at(T.LPAREN)) {
      // AS (a integer, b text): the columns of a record
      p.skipParens();
      node.end = p.previousEnd;
      return node;
    }
    // AS OF …: a query into the past
    if (p.is(K.OF)) {
      p.advance();
      p.advance();
      expression(p);
      if (p.atBareAlias() && !atSourceEnd(p)) node.alias = p.anyIdent();
    } else node.alias = p.at(T.STRING) || p.at(T.WORD) ? p.label("an alias") : p.ident("an alias");
  } else if (p.atBareAlias() && !atSourceEnd(p)) node.alias = p.anyIdent();
  else if (p.at(T.STRING) && p.dialect.syntax.stringTableAliases) node.alias = p.anyIdent();
  if (p.at(T.LPAREN) && node.alias !== null && "columns" in node) aliasColumns(p, node);
  hints(p, node);
  node.end = p.previousEnd;
  return node;
}

function aliasColumns(p: Parser, node: Building<Source>): void {
  // mysql: INSERT INTO t AS new (a, b); tsql: t AS x (NOLOCK)
  if (p.dialect.syntax.tableHints && isTableHint(p, 1)) {
    p.skipParens();
    return;
  }
  let at = 1;
  while (p.peekKind(at) === T.WORD || p.peekKind(at) === T.QUOTED || p.peekKind(at) === T.COMMA) {
    const pair = p.peekKind(at) !== T.COMMA && p.peekKind(at + 1) !== T.COMMA && p.peekKind(at + 1) !== T.RPAREN;
    if (pair) {
      // A list with types: the columns of a record.
      p.skipParens();
      return;
    }
    at++;
  }
  if ("columns" in node) node.columns = p.identList("a column");
}

/** Hints, partitions, samples: what follows a table and does not change its meaning here. */
function hints(p: Parser, node: Building<Source>): void {
  for (;;) {
    if (p.at(T.WORD)) {
      switch (p.kw) {
        case K.WITH:
          if (p.peekKind(1) !== T.LPAREN || !p.dialect.syntax.tableHints) return;
          p.advance();
          p.skipParens();
          break;
        case K.USE:
        case K.FORCE:
        case K.IGNORE:
          if (!p.dialect.syntax.indexHints || !(p.nextIs(K.INDEX) || p.nextIs(K.KEY))) return;
          p.seek(p.pos + 2);
          if (p.accept(K.FOR)) {
            if (p.accept(K.ORDER) || p.accept(K.GROUP)) p.expect(K.BY);
            else p.expect(K.JOIN);
          }
          p.skipParens();
          while (p.at(T.COMMA) && (p.nextIs(K.USE) || p.nextIs(K.FORCE) || p.nextIs(K.IGNORE))) p.advance();
          break;
        case K.INDEXED:
          if (!p.nextIs(K.BY) || !p.dialect.syntax.indexedBy) return;
          p.seek(p.pos + 2);
          p.ident("an index");
          break;
        case K.NOT:
          if (!p.nextIs(K.INDEXED)) return;
          p.seek(p.pos + 2);
          break;
        case K.PARTITION:
        case K.SUBPARTITION:
          if (p.nextIs(K.BY) && p.dialect.syntax.flashback) {
            // A partitioned outer join (plsql).
            p.seek(p.pos + 2);
            if (p.at(T.LPAREN)) p.skipParens();
            else expression(p);
            break;
          }
          if (p.peekKind(1) !== T.LPAREN && !p.nextIs(K.FOR)) return;
          p.advance();
          p.accept(K.FOR);
          p.skipParens();
          break;
        case K.TABLESAMPLE:
          p.advance();
          if (!p.at(T.LPAREN)) p.name("a sampling method");
          p.skipParens();
          if (p.is(K.PERCENT) || p.is(K.ROWS)) p.advance();
          if (p.accept(K.REPEATABLE)) p.skipParens();
          break;
        case K.SAMPLE:
          if (!p.dialect.syntax.sampledTables) return;
          p.advance();
          p.acceptText("BLOCK");
          p.skipParens();
          if (p.accept(K.SEED)) p.skipParens();
          break;
        case K.FOR:
          if (!p.nextIs(K.SYSTEM_TIME)) {
            if (p.dialect.syntax.portions && p.nextIs(K.PORTION)) {
              p.seek(p.pos + 2);
              p.expect(K.OF);
              p.ident("a period");
              p.expect(K.FROM);
              expression(p);
              p.expect(K.TO);
              expression(p);
              break;
            }
            return;
          }
          p.seek(p.pos + 2);
          systemTime(p);
          break;
        case K.VERSIONS:
          if (!p.dialect.syntax.flashback || !p.nextIs(K.BETWEEN)) return;
          p.seek(p.pos + 3);
          expression(p);
          break;
        default:
          return;
      }
      if (node.kind === "table") node.hints = true;
    } else if (p.at(T.LPAREN) && p.dialect.syntax.tableHints && node.kind === "table") {
      if (!isTableHint(p, 1)) return;
      p.skipParens();
      node.hints = true;
    } else return;
  }
}

/** FOR SYSTEM_TIME AS OF …, BETWEEN … AND …, FROM … TO …, ALL. */
function systemTime(p: Parser): void {
  if (p.accept(K.ALL)) return;
  if (p.accept(K.AS)) {
    p.expect(K.OF);
    p.accept(K.TIMESTAMP);
    p.accept(K.TRANSACTION);
    expression(p);
  } else if (p.accept(K.BETWEEN)) {
    if (!p.accept(K.TIMESTAMP)) p.accept(K.TRANSACTION);
    operand(p);
    p.expect(K.AND);
    if (!p.accept(K.TIMESTAMP)) p.accept(K.TRANSACTION);
    operand(p);
  } else if (p.accept(K.FROM)) {
    p.accept(K.TIMESTAMP);
    expression(p);
    p.expect(K.TO);
    p.accept(K.TIMESTAMP);
    expression(p);
  } else if (p.acceptText("CONTAINED")) {
    p.expect(K.IN);
    p.skipParens();
  } else p.fail("AS OF, BETWEEN, FROM or ALL");
}

/** PIVOT, UNPIVOT and MATCH_RECOGNIZE after a source: kept as text, the source inside kept. */
function suffix(p: Parser, node: Building<Source>): Source {
  let result = node;
  while (
    p.at(T.WORD) &&
    (p.marked(K.PIVOT) || p.marked(K.UNPIVOT) || p.marked(K.MATCH_RECOGNIZE)) &&
    !p.dialect.syntax.pivotIsName
  ) {
    if (!p.dialect.syntax.pivots) break;
    p.advance();
    if (p.is(K.XMLFOREST)) p.advance();
    if ((p.is(K.NULLS) || p.acceptText("INCLUDE") || p.acceptText("EXCLUDE")) && p.is(K.NULLS)) p.advance();
    p.skipParens();
    result = aliased(p, { kind: "opaque-source", inner: result, alias: null, start: node.start, end: p.previousEnd });
  }
  return result;
}
