import { K } from "../keywords.ts";
import type { Parser } from "../parser.ts";
import { T } from "../tokens.ts";
import type { Name, OpaqueStatement, Statement, StatementClass, TransactionStatement, With } from "../tree.ts";
import { alterTable } from "./alter.ts";
import { deletion, execution, insert, merge, truncate, update } from "./change.ts";
import { inner, query, withTables } from "./query.ts";
import { skipRoutine } from "./routine.ts";
import { createIndex, createTable, ifExists, skipStatement, startsNext } from "./table.ts";

inner.statement = statement;
execution.statement = statement;

/** One statement, up to but not including its terminator. */
export function statement(p: Parser): Statement {
  const start = p.start;
  if (p.at(T.LPAREN)) return queryStatement(p, null);
  if (!p.at(T.WORD)) {
    if (p.at(T.HOLE) || p.at(T.VARIABLE) || p.at(T.LBRACE)) return holeStatement(p, start);
    return p.fail("a statement");
  }
  switch (p.kw) {
    case K.SELECT:
    case K.VALUES:
    case K.TABLE:
      return queryStatement(p, null);
    case K.TRANSFORM:
      if (p.dialect.id === "jet") return queryStatement(p, null);
      break;
    case K.WITH:
      return withStatement(p);
    case K.INSERT:
      return insert(p, null);
    case K.REPLACE:
      if (p.dialect.grammar.pipesAreOr || p.dialect.id === "sqlite") return insert(p, null);
      break;
    case K.UPDATE:
      if (p.dialect.id === "tsql" && p.nextIs(K.STATISTICS)) break;
      return update(p, null);
    case K.DELETE:
      return deletion(p, null);
    case K.MERGE:
      return merge(p, null);
    case K.TRUNCATE:
      return truncate(p);
    case K.CREATE:
      return create(p);
    case K.BEGIN:
    case K.START:
    case K.COMMIT:
    case K.END:
    case K.ROLLBACK:
    case K.ABORT:
    case K.SAVEPOINT:
    case K.RELEASE:
    case K.SAVE: {
      const node = transaction(p);
      if (node) return node;
      break;
    }
    default:
  }
  return classified(p);
}

/** A statement that begins with a hole: which one it is depends on what is filled in. */
function holeStatement(p: Parser, start: number): Statement {
  skipStatement(p);
  return { kind: "opaque", verb: "", object: "hole", class: "code", name: null, start, end: p.previousEnd };
}

function queryStatement(p: Parser, withClause: With | null): Statement {
  const node = query(p);
  if (withClause) {
    node.with = withClause;
    node.start = withClause.start;
  }
  return { kind: "select", query: node, start: node.start, end: node.end };
}

/** WITH … and the statement it belongs to. */
function withStatement(p: Parser): Statement {
  const clause = withTables(p);
  switch (p.kw) {
    case K.INSERT:
      return insert(p, clause);
    case K.REPLACE:
      return insert(p, clause);
    case K.UPDATE:
      return update(p, clause);
    case K.DELETE:
      return deletion(p, clause);
    case K.MERGE:
      return merge(p, clause);
    default:
      return queryStatement(p, clause);
  }
}

/** Words of a transaction; null when they mean something else in this dialect. */
function transaction(p: Parser): TransactionStatement | null {
  const start = p.start;
  const node: TransactionStatement = { kind: "transaction", action: "begin", name: null, start, end: start };
  const { id } = p.dialect;
  switch (p.kw) {
    case K.BEGIN: {
      if (id === "plsql" || id === "jet") {
        if (id === "plsql" || !(p.nextIs(K.TRANSACTION) || p.peekKind(1) !== T.WORD)) return null;
      }
      if (id === "tsql" && !p.nextIs(K.TRAN) && !p.nextIs(K.TRANSACTION) && !p.isText("DISTRIBUTED")) return null;
      p.advance();
      break;
    }
    case K.START:
      if (!p.nextIs(K.TRANSACTION)) return null;
      p.advance();
      break;
    case K.COMMIT:
    case K.END:
      if (p.marked(K.END) && id !== "postgresql" && id !== "sqlite") return null;
      node.action = "commit";
      p.advance();
      if (p.is(K.PREPARED)) p.advance();
      break;
    case K.ROLLBACK:
    case K.ABORT: {
      if (p.marked(K.ABORT) && id !== "postgresql") return null;
      node.action = "rollback";
      p.advance();
      if (!p.accept(K.TRANSACTION) && !p.accept(K.TRAN)) p.accept(K.WORK);
      if (p.accept(K.TO)) {
        node.action = "rollback-to";
        p.accept(K.SAVEPOINT);
        node.name = p.label("a savepoint");
      } else if (p.is(K.PREPARED)) p.advance();
      break;
    }
    case K.SAVEPOINT:
      node.action = "savepoint";
      p.advance();
      node.name = p.label("a savepoint");
      break;
    case K.RELEASE:
      node.action = "release";
      p.advance();
      p.accept(K.SAVEPOINT);
      node.name = p.label("a savepoint");
      break;
    case K.SAVE:
      if (id !== "tsql") return null;
      node.action = "savepoint";
      p.advance();
      if (!p.accept(K.TRAN)) p.expect(K.TRANSACTION);
      node.name = p.label("a savepoint");
      break;
    default:
      return null;
  }
  // Isolation levels, CHAIN, WORK, names: nothing in them changes what follows here.
  while (!p.atEnd()) {
    if (p.dialect.grammar.bareStatements && p.firstOnLine()) break;
    if (p.at(T.BAD)) p.fail("the end of the statement");
    p.advance();
  }
  node.end = p.previousEnd;
  return node;
}

/** CREATE and what it creates. */
function create(p: Parser): Statement {
  const start = p.start;
  p.advance();
  let temporary = false;
  let orReplace = false;
  let unique = false;
  let virtual = false;
  for (;;) {
    if (!p.at(T.WORD)) break;
    if (p.is(K.OR) && (p.nextIs(K.REPLACE) || p.nextIs(K.ALTER))) {
      p.seek(p.pos + 2);
      orReplace = true;
    } else if (p.is(K.TEMP) || p.is(K.TEMPORARY)) {
      p.advance();
      temporary = true;
    } else if (p.is(K.PRIVATE) && p.dialect.id === "plsql") p.advance();
    else if ((p.is(K.GLOBAL) || p.is(K.LOCAL)) && (p.nextIs(K.TEMPORARY) || p.nextIs(K.TEMP))) {
      // Oracle's global temporary tables last; only their rows are temporary. That is what counts.
      p.advance();
    } else if (p.is(K.UNLOGGED) || p.is(K.ONLINE)) p.advance();
    else if (p.is(K.VIRTUAL)) {
      p.advance();
      virtual = true;
    } else if (p.is(K.UNIQUE)) {
      p.advance();
      unique = true;
    } else if (p.is(K.FULLTEXT) || p.is(K.SPATIAL) || p.is(K.BITMAP) || p.is(K.CLUSTERED) || p.is(K.NONCLUSTERED)) {
      if (!p.nextIs(K.INDEX) && !p.nextIs(K.CLUSTERED) && !p.nextIs(K.NONCLUSTERED)) break;
      p.advance();
    } else break;
  }
  if (p.is(K.TABLE)) return createTable(p, { start, temporary, orReplace }, virtual);
  if (p.is(K.INDEX)) return createIndex(p, start, unique);
  return opaqueObject(p, "create", start);
}

const OBJECTS: Partial<Record<K, string>> = {
  [K.VIEW]: "view",
  [K.TRIGGER]: "trigger",
  [K.FUNCTION]: "function",
  [K.PROCEDURE]: "procedure",
  [K.PROC]: "procedure",
  [K.PACKAGE]: "package",
  [K.TYPE]: "type",
  [K.EVENT]: "event",
  [K.SEQUENCE]: "sequence",
  [K.SCHEMA]: "schema",
  [K.DATABASE]: "database",
  [K.TABLE]: "table",
  [K.INDEX]: "index",
  [K.RULE]: "rule",
  [K.POLICY]: "policy",
  [K.DOMAIN]: "domain",
  [K.SYNONYM]: "synonym",
  [K.EXTENSION]: "extension",
  [K.ROLE]: "role",
  [K.USER]: "user",
  [K.LOGIN]: "login",
  [K.AGGREGATE]: "aggregate",
  [K.OPERATOR]: "operator",
  [K.CAST]: "cast",
  [K.SERVER]: "server",
  [K.COLUMN]: "column",
  [K.ROUTINE]: "routine",
  [K.PUBLICATION]: "publication",
  [K.SUBSCRIPTION]: "subscription",
  [K.TABLESPACE]: "tablespace",
  [K.COLLATION]: "collation",
  [K.CONVERSION]: "conversion",
  [K.LANGUAGE]: "language",
  [K.STATISTICS]: "statistics",
  [K.SYSTEM]: "system",
  [K.SESSION]: "session",
  [K.LIBRARY]: "library",
  [K.JAVA]: "java",
  [K.DIRECTORY]: "directory",
  [K.LINK]: "link",
  [K.PROFILE]: "profile",
  [K.CONTEXT]: "context",
  [K.PLUGIN]: "plugin",
};

/** What a statement about rights creates, alters or drops. */
export const RIGHTS_OBJECTS = new Set(["role", "user", "login", "policy", "profile"]);
const ROUTINES = new Set(["function", "procedure", "trigger", "package", "event", "type"]);

/** CREATE, ALTER or DROP of something whose definition is kept as text. */
function opaqueObject(p: Parser, verb: string, start: number): OpaqueStatement {
  let object = "";
  for (let i = 0; i < 14 && !p.atEnd(); i++) {
    const found: string | undefined = p.at(T.WORD) ? OBJECTS[p.kw as K] : undefined;
    p.advance();
    if (found !== undefined) {
      object = found;
      break;
    }
  }
  if (object === "package" || object === "type") p.acceptText("BODY");
  ifExists(p);
  const named = (p.atName() || p.at(T.STRING)) && object !== "operator" && object !== "cast";
  const name = named ? p.name("a name") : null;
  if (verb === "create" && ROUTINES.has(object)) skipRoutine(p);
  else skipStatement(p);
  const rights = RIGHTS_OBJECTS.has(object);
  return { kind: "opaque", verb, object, class: rights ? "rights" : "structure", name, start, end: p.previousEnd };
}

/** DROP and what is dropped; the words behind the names are kept as text. */
function drop(p: Parser, start: number): Statement {
  let object = "";
  for (let i = 0; i < 6 && !p.atEnd() && object === ""; i++) {
    object = (p.at(T.WORD) ? OBJECTS[p.kw as K] : undefined) ?? "";
    p.advance();
  }
  if (p.at(T.WORD) && object === "package") p.acceptText("BODY");
  p.accept(K.CONCURRENTLY);
  const optional = ifExists(p);
  const names: Name[] = [];
  if ((p.atName() || p.at(T.STRING)) && object !== "operator" && object !== "cast") {
    do names.push(p.name("a name"));
    while (p.acceptKind(T.COMMA) && (p.atName() || p.at(T.STRING)));
  }
  const from = p.pos;
  if (!p.atEnd() && !(p.dialect.grammar.bareStatements && p.firstOnLine() && startsNext(p))) skipStatement(p);
  let cascade = false;
  for (let i = from; i < p.pos; i++)
    if (p.tokens.kinds[i] === T.WORD && p.tokens.marks[i] === K.CASCADE) cascade = true;
  return { kind: "drop", object, names, ifExists: optional, cascade, start, end: p.previousEnd };
}

const CLASSES: Partial<Record<K, StatementClass>> = {
  [K.GRANT]: "rights",
  [K.REVOKE]: "rights",
  [K.DENY]: "rights",
  [K.REASSIGN]: "rights",
  [K.COMMENT]: "structure",
  [K.RENAME]: "structure",
  [K.REINDEX]: "structure",
  [K.CLUSTER]: "structure",
  [K.REFRESH]: "structure",
  [K.SECURITY]: "structure",
  [K.IMPORT]: "structure",
  [K.ATTACH]: "session",
  [K.DETACH]: "session",
  [K.VACUUM]: "structure",
  [K.ANALYZE]: "structure",
  [K.ANALYSE]: "structure",
  [K.OPTIMIZE]: "structure",
  [K.REPAIR]: "structure",
  [K.CHECK]: "reads",
  [K.CHECKSUM]: "reads",
  [K.SET]: "session",
  [K.RESET]: "session",
  [K.PRAGMA]: "session",
  [K.USE]: "session",
  [K.LOCK]: "session",
  [K.UNLOCK]: "session",
  [K.LISTEN]: "session",
  [K.UNLISTEN]: "session",
  [K.NOTIFY]: "session",
  [K.DISCARD]: "session",
  [K.LOAD]: "session",
  [K.FLUSH]: "session",
  [K.KILL]: "session",
  [K.CHECKPOINT]: "session",
  [K.PREPARE]: "code",
  [K.EXECUTE]: "code",
  [K.EXEC]: "code",
  [K.DEALLOCATE]: "session",
  [K.DECLARE]: "code",
  [K.OPEN]: "session",
  [K.FETCH]: "reads",
  [K.MOVE]: "reads",
  [K.CLOSE]: "session",
  [K.CALL]: "code",
  [K.DO]: "code",
  [K.COPY]: "rows",
  [K.BULK]: "rows",
  [K.SHOW]: "reads",
  [K.EXPLAIN]: "reads",
  [K.DESCRIBE]: "reads",
  [K.DESC]: "reads",
  [K.HELP]: "reads",
  [K.PRINT]: "session",
  [K.RAISERROR]: "code",
  [K.THROW]: "code",
  [K.RETURN]: "code",
  [K.WAITFOR]: "session",
  [K.DBCC]: "session",
  [K.BACKUP]: "reads",
  [K.RESTORE]: "structure",
  [K.PURGE]: "structure",
  [K.FLASHBACK]: "structure",
  [K.AUDIT]: "rights",
  [K.NOAUDIT]: "rights",
  [K.INSTALL]: "structure",
  [K.UNINSTALL]: "structure",
  [K.HANDLER]: "reads",
  [K.XA]: "transaction",
  [K.SIGNAL]: "code",
  [K.RESIGNAL]: "code",
  [K.GET]: "session",
  [K.CACHE]: "session",
  [K.SHUTDOWN]: "session",
  [K.START]: "session",
  [K.CHANGE]: "session",
  [K.RECONFIGURE]: "session",
  [K.REVERT]: "session",
  [K.SETUSER]: "session",
  [K.ENABLE]: "structure",
  [K.DISABLE]: "structure",
  [K.IF]: "code",
  [K.WHILE]: "code",
  [K.ELSE]: "code",
  [K.BEGIN]: "code",
  [K.END]: "code",
  [K.GOTO]: "code",
  [K.BREAK]: "code",
  [K.CONTINUE]: "code",
  [K.KEEP]: "session",
  [K.BINLOG]: "rows",
  [K.UPDATE]: "structure",
  [K.PARAMETERS]: "session",
  [K.EXIT]: "session",
  [K.CONNECT]: "session",
  [K.LABEL]: "structure",
};

/** A statement that is known by its first word; the rest is kept as text. */
function classified(p: Parser): Statement {
  const start = p.start;
  const word = p.kw as K;
  const verb = p.tokenText().toLowerCase();
  if (word === K.ALTER || word === K.DROP) {
    p.advance();
    if (word === K.DROP) return drop(p, start);
    if (
      (p.is(K.TABLE) && !p.nextIs(K.ALL)) ||
      ((p.is(K.IGNORE) || p.is(K.ONLINE) || p.is(K.FOREIGN)) && p.nextIs(K.TABLE))
    )
      return alterTable(p, start);
    return opaqueObject(p, verb, start);
  }
  const known = CLASSES[word];
  if (known === undefined) return p.fail("a statement");
  p.advance();
  let object = "";
  if (word === K.BEGIN || (word === K.DECLARE && p.dialect.id === "plsql")) {
    p.seek(p.pos - 1);
    skipRoutine(p);
    object = "block";
  } else if (word === K.LOAD && p.is(K.DATA)) {
    skipStatement(p);
    return { kind: "opaque", verb, object: "data", class: "rows", name: null, start, end: p.previousEnd };
  } else {
    if (word === K.SET && (p.is(K.TRANSACTION) || p.is(K.CONSTRAINTS))) {
      skipStatement(p);
      return { kind: "transaction", action: "set", name: null, start, end: p.previousEnd };
    }
    skipStatement(p);
  }
  return { kind: "opaque", verb, object, class: known, name: null, start, end: p.previousEnd };
}
