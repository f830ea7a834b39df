import { K } from "../keywords.ts";
import type { Parser } from "../parser.ts";
import { T } from "../tokens.ts";
import type {
  ColumnDefinition,
  CreateIndexStatement,
  CreateTableStatement,
  ForeignKeyClause,
  Ident,
  Name,
  TableConstraint,
} from "../tree.ts";
import { expression, operand } from "./expression.ts";
import { atQuery, query } from "./query.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

/** What precedes TABLE in a CREATE statement. */
export interface TableHead {
  /** CREATE FOREIGN TABLE. */
  foreign?: boolean;
  start: number;
  temporary: boolean;
  orReplace: boolean;
}

/** IF [NOT] EXISTS. */
export function ifExists(p: Parser): boolean {
  if (!p.is(K.IF)) return false;
  if (p.nextIs(K.EXISTS)) {
    p.seek(p.pos + 2);
    return true;
  }
  if (p.nextIs(K.NOT) && p.nextIs(K.EXISTS, 2)) {
    p.seek(p.pos + 3);
    return true;
  }
  return false;
}

/** CREATE TABLE from the word TABLE on. */
export function createTable(p: Parser, head: TableHead, virtual: boolean): CreateTableStatement {
  p.expect(K.TABLE);
  const ifNotExists = ifExists(p);
  const name = p.name("the name of a table");
  const last = name.parts[name.parts.length - 1].text;
  const node: CreateTableStatement = {
    kind: "create-table",
    name,
    temporary: head.temporary || (p.dialect.id === "tsql" && last.startsWith("#")),
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
  } else if (p.is(K.OF) && p.dialect.id === "postgresql") {
    p.advance();
    node.ofType = p.name("the name of a type");
  } else if (p.accept(K.LIKE)) node.like.push(p.name("the name of a table"));
  if (p.at(T.LPAREN)) {
    if (atQueryInParens(p)) node.query = query(p);
    else if (isNameList(p)) node.columnNames = p.identList("a column");
    else elements(p, node);
  }
  tableTail(p, node);
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

/** `(a, b)` behind the table's name: the columns of CREATE TABLE … AS. */
function isNameList(p: Parser): boolean {
  if (p.dialect.id === "sqlite") return false;
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

/** The options behind the parentheses, and AS query. What they say is not needed; they are kept as text. */
function tableTail(p: Parser, node: CreateTableStatement): void {
  const from = p.start;
  for (;;) {
    if (p.atEnd()) break;
    if (
      p.is(K.AS) &&
      p.dialect.id === "plsql" &&
      p.tokens.kinds[p.pos - 1] === T.WORD &&
      /^store$/i.test(p.wordAhead(-1))
    ) {
      // LOB (note) STORE AS …
      p.advance();
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
        do node.inherits.push(p.name("the name of a table"));
        while (p.acceptKind(T.COMMA));
      }
      p.expectKind(T.RPAREN, ") or ,");
      continue;
    }
    if (
      p.is(K.AS) ||
      (startsTail(p) && !p.dialect.grammar.bareStatements) ||
      ((p.is(K.IGNORE) || p.is(K.REPLACE)) && p.dialect.grammar.pipesAreOr)
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
    if (p.at(T.LPAREN) && node.columns.length === 0 && node.like.length === 0) {
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

/** Whether the next statement begins here, in a script without terminators. */
export function startsNext(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.SELECT:
    case K.INSERT:
    case K.UPDATE:
    case K.DELETE:
    case K.MERGE:
    case K.CREATE:
    case K.ALTER:
    case K.DROP:
    case K.TRUNCATE:
    case K.EXEC:
    case K.EXECUTE:
    case K.IF:
    case K.BEGIN:
    case K.END:
    case K.COMMIT:
    case K.ROLLBACK:
    case K.SAVE:
    case K.DECLARE:
    case K.PRINT:
    case K.RAISERROR:
    case K.RETURN:
    case K.USE:
    case K.WHILE:
    case K.GRANT:
    case K.REVOKE:
    case K.DENY:
    case K.THROW:
    case K.BACKUP:
    case K.RESTORE:
    case K.ELSE:
    case K.DBCC:
    case K.OPEN:
    case K.CLOSE:
    case K.FETCH:
    case K.DEALLOCATE:
    case K.WAITFOR:
    case K.GOTO:
    case K.BREAK:
    case K.CONTINUE:
    case K.CHECKPOINT:
    case K.KILL:
    case K.REVERT:
    case K.BULK:
    case K.SET:
    case K.SHUTDOWN:
    case K.RECONFIGURE:
    case K.SETUSER:
    case K.READTEXT:
    case K.WRITETEXT:
    case K.UPDATETEXT:
      return true;
    case K.ENABLE:
    case K.DISABLE:
      return p.nextIs(K.TRIGGER);
    case K.WITH:
      return p.peekKind(1) === T.WORD && p.nextIs(K.AS, 2);
    default:
      return false;
  }
}

/**
 * Whether the next statement begins here, on whatever line, in a language whose statements need no terminators: any word
 * that begins one does, unless it goes on with what stands before it (`ON DELETE`, `FOR UPDATE`, `GRANT SELECT, INSERT`,
 * `DROP COLUMN IF EXISTS a`).
 */
export function statementBegins(p: Parser): boolean {
  if (!p.dialect.grammar.bareStatements || !startsNext(p)) return false;
  if (p.is(K.END) || p.is(K.ELSE)) return true;
  const before = p.pos - 1;
  switch (p.tokens.kinds[before]) {
    case T.COMMA:
    case T.DOT:
    case T.LPAREN:
    case T.OPERATOR:
      return false;
    case T.WORD:
      break;
    default:
      return !continued(p);
  }
  switch (p.tokens.marks[before]) {
    case K.ON:
    case K.AFTER:
    case K.BEFORE:
    case K.FOR:
    case K.OF:
    case K.AS:
    case K.WITH:
    case K.GRANT:
    case K.DENY:
    case K.REVOKE:
    case K.BULK:
    case K.NOT:
    case K.TO:
    case K.BY:
      return false;
    default:
      return !continued(p);
  }
}

/** `ON DELETE SET NULL`, `IF EXISTS name`, `DROP MEMBER name`, `MERGE RANGE (…)`: no statements of their own. */
function continued(p: Parser): boolean {
  switch (p.kw) {
    case K.SET:
      return p.nextIs(K.NULL) || p.nextIs(K.DEFAULT);
    case K.IF:
      return p.nextIs(K.EXISTS) && p.peekKind(2) !== T.LPAREN;
    case K.DROP:
      return p.nextIs(K.MEMBER);
    case K.MERGE:
      return p.nextIs(K.RANGE);
    default:
      return false;
  }
}

/**
 * Takes the tokens up to the end of the statement without a tree. `begun`: its verb has been taken already, so that the next
 * word may begin another one. `alters`: the first SET, DROP or ALTER is its own.
 */
export function skipStatement(p: Parser, { begun = false, alters = false } = {}): void {
  const bare = p.dialect.grammar.bareStatements;
  const from = p.pos;
  for (let first = !begun; !p.atEnd(); first = false) {
    if (p.at(T.BAD)) p.fail("the end of the statement");
    if (bare && (p.is(K.END) || p.is(K.ELSE))) return;
    const own = alters && (p.is(K.SET) || p.is(K.DROP) || p.is(K.ALTER)) && afterName(p, from);
    if (!own && !first && statementBegins(p)) return;
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
}

/** Whether nothing but `ON name` has come since a place. */
function afterName(p: Parser, from: number): boolean {
  if (p.pos === from) return true;
  if (p.tokens.marks[from] !== K.ON || p.tokens.kinds[from] !== T.WORD) return false;
  let at = from + 2;
  while (at < p.pos && p.tokens.kinds[at] === T.DOT) at += 2;
  return at === p.pos;
}

function elements(p: Parser, node: CreateTableStatement): void {
  p.advance();
  if (p.acceptKind(T.RPAREN)) return;
  do {
    if (p.at(T.RPAREN)) break;
    const constraint = tableConstraint(p);
    if (constraint) {
      if (constraint !== "skipped") node.constraints.push(constraint);
      // sqlite takes constraints without commas between them.
      while (p.at(T.WORD) && p.dialect.id === "sqlite" && !p.marked(K.NONE)) {
        const next = tableConstraint(p);
        if (!next || next === "skipped") break;
        node.constraints.push(next);
      }
    } else if (p.is(K.LIKE)) {
      p.advance();
      node.like.push(p.name("the name of a table"));
      while (p.isText("INCLUDING") || p.isText("EXCLUDING")) {
        const including = p.isText("INCLUDING");
        p.advance();
        const what = p.tokenText().toLowerCase();
        p.advance();
        if (including) node.likeIncludes.push(what);
        else node.likeIncludes.push(`-${what}`);
      }
    } else {
      const column = columnDefinition(p);
      node.columns.push(column);
      while (p.at(T.WORD) && p.dialect.id === "sqlite") {
        const next = tableConstraint(p);
        if (!next || next === "skipped") break;
        node.constraints.push(next);
      }
    }
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.RPAREN, ") or ,");
}

/** A constraint of the whole table; null when a column stands here. */
export function tableConstraint(p: Parser): TableConstraint | "skipped" | null {
  if (!p.at(T.WORD)) return null;
  const start = p.start;
  const mysql = p.dialect.grammar.pipesAreOr;
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
  const node: TableConstraint = {
    kind: "check",
    name,
    columns: [],
    inexact: false,
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
      if (p.peekKind(1) !== T.LPAREN && !mysql) {
        if (p.dialect.id !== "tsql") break;
      }
      if (p.peekKind(1) !== T.LPAREN) break;
      p.advance();
      p.advance();
      node.check = expression(p);
      p.expectKind(T.RPAREN, ")");
      constraintTail(p, node);
      return node;
    case K.EXCLUDE:
      if (p.dialect.id !== "postgresql") break;
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
      if (!mysql && p.dialect.id !== "tsql") break;
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
    if (p.is(K.DEFAULT) || name !== null) {
      constraintTail(p, node);
      return "skipped";
    }
    p.fail("PRIMARY KEY, UNIQUE, FOREIGN KEY or CHECK");
  }
  return null;
}

/** The columns of a key; the words before the parenthesis (its name, its kind) are passed. */
function keyColumns(p: Parser, node: TableConstraint): void {
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
function indexColumns(p: Parser, node: { columns: Ident[]; inexact: boolean }): void {
  p.advance();
  do {
    if ((p.at(T.WORD) || p.at(T.QUOTED)) && isColumnPart(p.peekKind(1))) {
      node.columns.push(p.anyIdent());
    } else {
      const expr = operand(p);
      if (expr.kind === "column") node.columns.push(expr.path[expr.path.length - 1]);
      else {
        node.inexact = true;
        // A prefix, name(10), is still a part of that column.
        if (expr.kind === "call" && expr.name.parts.length === 1) node.columns.push(expr.name.parts[0]);
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
function references(p: Parser): ForeignKeyClause {
  const start = p.start;
  p.expect(K.REFERENCES);
  const table = p.name("the name of a table");
  const node: ForeignKeyClause = {
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

function deferral(p: Parser, node: ForeignKeyClause): boolean {
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
function constraintTail(p: Parser, node: TableConstraint): void {
  while (!p.at(T.COMMA) && !p.at(T.RPAREN) && !p.atEnd()) {
    if (p.at(T.BAD)) p.fail(") or ,");
    if (statementBegins(p)) break;
    // sqlite: the next constraint may follow without a comma.
    if (p.dialect.id === "sqlite" && startsConstraint(p)) break;
    if (p.is(K.WHERE) && p.peekKind(1) === T.LPAREN) {
      p.advance();
      node.where = expression(p);
    } else if (node.references && deferral(p, node.references)) continue;
    else if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  node.end = p.previousEnd;
}

function startsConstraint(p: Parser): boolean {
  return p.is(K.CONSTRAINT) || p.is(K.PRIMARY) || p.is(K.UNIQUE) || p.is(K.FOREIGN) || p.is(K.CHECK);
}

/** One column with its type and constraints. */
export function columnDefinition(p: Parser): ColumnDefinition {
  const start = p.start;
  const name = p.label("the name of a column");
  const node: ColumnDefinition = {
    name,
    type: null,
    required: null,
    default: null,
    generated: null,
    generatedKind: null,
    identity: null,
    autoincrement: false,
    primary: false,
    unique: false,
    references: null,
    checks: [],
    onUpdate: null,
    collation: null,
    comment: null,
    start,
    end: start,
  };
  if ((p.at(T.WORD) || p.at(T.QUOTED) || p.at(T.HOLE)) && !startsColumnClause(p)) {
    node.type = typeName(p);
    const type = node.type.name;
    if (type === "autoincrement" || type === "counter" || /^(?:big|small)?serial(?:[248])?$/.test(type)) {
      node.autoincrement = true;
      if (type !== "counter" && type !== "autoincrement") node.required = true;
    }
  }
  columnClauses(p, node);
  node.end = p.previousEnd;
  return node;
}

/** Whether a clause and not the type follows the column's name (sqlite, computed columns). */
function startsColumnClause(p: Parser): boolean {
  switch (p.kw) {
    case K.AS:
    case K.PRIMARY:
    case K.NOT:
    case K.NULL:
    case K.UNIQUE:
    case K.CHECK:
    case K.DEFAULT:
    case K.REFERENCES:
    case K.CONSTRAINT:
    case K.COLLATE:
      return true;
    case K.GENERATED:
      return p.nextIs(K.ALWAYS);
    case K.OPTIONS:
    case K.WITH:
      return p.nextIs(K.OPTIONS);
    default:
      return false;
  }
}

/** The clauses behind a column's type, in any order, as every dialect allows. */
export function columnClauses(p: Parser, node: ColumnDefinition): void {
  for (;;) {
    if (p.at(T.COMMA) || p.at(T.RPAREN) || p.atEnd()) return;
    if (p.at(T.BAD)) p.fail(") or ,");
    if (!p.at(T.WORD)) {
      if (p.at(T.LPAREN)) p.skipParens();
      else p.advance();
      continue;
    }
    switch (p.kw) {
      case K.CONSTRAINT:
        p.advance();
        // A named constraint; sqlite allows a name with nothing behind it.
        if (p.at(T.QUOTED) || (p.at(T.WORD) && !isConstraintStart(p.kw))) p.advance();
        continue;
      case K.NOT:
        p.advance();
        if (p.accept(K.NULL)) node.required = true;
        else if (!p.atEnd()) p.advance();
        continue;
      case K.NULL:
        p.advance();
        node.required ??= false;
        continue;
      case K.PRIMARY:
        p.advance();
        p.accept(K.KEY);
        node.primary = true;
        continue;
      case K.UNIQUE:
        p.advance();
        p.accept(K.KEY);
        node.unique = true;
        continue;
      case K.KEY:
        // mysql: KEY alone behind a column is PRIMARY KEY
        p.advance();
        if (p.dialect.grammar.pipesAreOr) node.primary = true;
        continue;
      case K.DEFAULT:
        p.advance();
        if (p.is(K.ON) && p.nextIs(K.NULL)) p.seek(p.pos + 2);
        node.default = operand(p);
        continue;
      case K.AUTOINCREMENT:
      case K.AUTO_INCREMENT:
        p.advance();
        node.autoincrement = true;
        continue;
      case K.IDENTITY:
        p.advance();
        node.identity = "always";
        node.required = true;
        if (p.at(T.LPAREN)) p.skipParens();
        continue;
      case K.GENERATED:
        generated(p, node);
        continue;
      case K.AS:
        p.advance();
        if (p.at(T.LPAREN)) {
          p.advance();
          node.generated = expression(p);
          p.expectKind(T.RPAREN, ")");
        } else node.generated = operand(p);
        node.generatedKind = storage(p) ?? "virtual";
        continue;
      case K.REFERENCES:
        node.references = references(p);
        continue;
      case K.CHECK:
        p.advance();
        if (p.at(T.LPAREN)) {
          p.advance();
          node.checks.push(expression(p));
          p.expectKind(T.RPAREN, ")");
        }
        continue;
      case K.COLLATE:
        p.advance();
        node.collation =
          p.at(T.STRING) || p.is(K.DEFAULT) ? p.label("a collation").text : lastPart(p.name("a collation"));
        continue;
      case K.COMMENT:
        p.advance();
        if (p.at(T.STRING)) {
          node.comment = stringValue(p);
          p.advance();
        }
        continue;
      case K.ON:
        if (p.nextIs(K.UPDATE)) {
          p.seek(p.pos + 2);
          node.onUpdate = operand(p);
          continue;
        }
        p.advance();
        continue;
      default:
        if (statementBegins(p)) return;
        p.advance();
    }
  }
}

function isConstraintStart(word: K): boolean {
  switch (word) {
    case K.NOT:
    case K.NULL:
    case K.PRIMARY:
    case K.UNIQUE:
    case K.CHECK:
    case K.DEFAULT:
    case K.REFERENCES:
    case K.COLLATE:
    case K.GENERATED:
    case K.CONSTRAINT:
      return true;
    default:
      return false;
  }
}

function lastPart(name: Name): string {
  return name.parts[name.parts.length - 1].text;
}

/** GENERATED ALWAYS AS (…) STORED, GENERATED BY DEFAULT AS IDENTITY. */
function generated(p: Parser, node: ColumnDefinition): void {
  p.advance();
  let byDefault = false;
  if (p.accept(K.BY)) {
    p.expect(K.DEFAULT);
    byDefault = true;
    if (p.accept(K.ON)) p.accept(K.NULL);
  } else p.accept(K.ALWAYS);
  if (!p.accept(K.AS)) return;
  if (p.accept(K.IDENTITY)) {
    node.identity = byDefault ? "by default" : "always";
    node.required = true;
    if (p.at(T.LPAREN)) p.skipParens();
    return;
  }
  if (p.is(K.ROW)) {
    // A period's column (system versioning).
    p.advance();
    p.advance();
    node.generated = { kind: "opaque", start: p.previousEnd, end: p.previousEnd };
    node.generatedKind = "stored";
    return;
  }
  p.expectKind(T.LPAREN, "(");
  node.generated = expression(p);
  p.expectKind(T.RPAREN, ")");
  node.generatedKind = storage(p) ?? (p.dialect.id === "postgresql" ? "stored" : "virtual");
}

function storage(p: Parser): "stored" | "virtual" | null {
  if (p.accept(K.STORED) || p.accept(K.PERSISTED) || p.acceptText("PERSISTENT")) return "stored";
  if (p.accept(K.VIRTUAL)) return "virtual";
  return null;
}

/** CREATE INDEX from behind the words before INDEX; the current token is INDEX. */
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
  const node: CreateIndexStatement = {
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
