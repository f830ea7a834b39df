import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type {
  Building,
  DeleteStatement,
  TableSource,
  TruncateStatement,
  UpdateStatement,
  With,
} from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { assignments, changeTail, returning, where } from "./change-clauses.ts";
import { expression } from "./expression.ts";
import { grow } from "./growing.ts";
import { top } from "./limit.ts";
import { plainTable } from "./plain-nodes.ts";
import { joined, source, sources, tableSource } from "./source.ts";

/** UPDATE in every dialect's form; WITH, if any, has been read. */
export function update(p: Parser, withClause: With | null): UpdateStatement {
  const start = withClause?.start ?? p.start;
  p.expect(K.UPDATE);
  const node: Building<UpdateStatement> = {
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
    replaces: false,
    start,
    end: start,
  };

  if (p.is(K.OR) && p.dialect.syntax.orConflicts) {
    p.advance();
    node.ignore = p.is(K.IGNORE);
    node.replaces = p.is(K.REPLACE);
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
  const node: Building<DeleteStatement> = {
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
    distinctRows: false,
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
  if (p.dialect.syntax.distinctRows && (p.accept(K.DISTINCTROW) || p.accept(K.DISTINCT))) node.distinctRows = true;
  // DELETE HISTORY FROM berth BEFORE SYSTEM_TIME … (mariadb)
  const history = p.dialect.syntax.deleteHistory && p.isText("HISTORY") && p.nextIs(K.FROM);
  if (history) p.advance();
  if (p.accept(K.FROM)) deleteFrom(p, node);
  else if (p.dialect.syntax.bareDelete) {
    // DELETE vessel, DELETE a, b FROM …, DELETE a.* FROM …, DELETE * FROM …
    if (p.at(T.STAR)) p.advance();
    else if (
      p.at(T.LPAREN) ||
      p.dialect.syntax.deleteExpressions ||
      p.is(K.TABLE) ||
      p.is(K.OPENQUERY) ||
      p.is(K.OPENROWSET)
    ) {
      node.from = [joined(p)];
    } else {
      do {
        const name = p.name("the name of a table");
        // DELETE Loaf.*, Loaf.BakedOn, Oven.Hot FROM …: the columns only show on what the criteria are (jet).
        const shown = p.dialect.engine.starTargets && name.parts.length > 1 && p.tokens.kinds[p.pos - 1] !== T.STAR;
        if (!shown) grow(node.named, name);
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
      node.from = [plainTable(name)];
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
function deleteFrom(p: Parser, node: Building<DeleteStatement>): void {
  if (p.dialect.syntax.deleteLists) {
    // DELETE FROM a, b USING …: the list names what is deleted.
    node.from = sources(p);
    if (p.is(K.USING)) {
      for (const source of node.from) {
        if (source.kind !== "table") p.fail("the names of tables before USING");
        else grow(node.named, source.name);
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
function retarget(node: Building<DeleteStatement>): void {
  const source = node.from[0];
  if (source?.kind === "table") node.named = [source.name];
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
  const node: Building<TruncateStatement> = {
    kind: "truncate",
    targets,
    cascade: false,
    partitions: false,
    restartIdentity: false,
    start,
    end: start,
  };
  // RESTART IDENTITY CASCADE, WITH (PARTITIONS (…)), DROP STORAGE, PURGE MATERIALIZED VIEW LOG
  while (!p.atEnd() && !p.at(T.RPAREN)) {
    if (p.dialect.grammar.bareStatements && !(p.is(K.WITH) && p.peekKind(1) === T.LPAREN) && !p.at(T.LPAREN)) break;
    if (p.is(K.CASCADE)) node.cascade = true;
    else if (p.is(K.IDENTITY)) node.restartIdentity = p.tokens.marks[p.pos - 1] === K.RESTART;
    if (p.at(T.LPAREN)) {
      if (/^partitions$/i.test(p.wordAhead(1))) node.partitions = true;
      p.skipParens();
    } else if (
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
