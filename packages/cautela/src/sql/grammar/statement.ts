import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, CopyStatement, Ident, Query, Statement, StatementClass, With } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { alterTable } from "./alter.ts";
import { controlFlow } from "./batch.ts";
import { deletion, truncate, update } from "./change.ts";
import { reseed, restartSequence } from "./counter.ts";
import { createSchema } from "./create-schema.ts";
import { createRoutine, createView, plpgsql, quotedBody } from "./definition.ts";
import { readInner, reading } from "./dynamic.ts";
import { execution, insert } from "./insert.ts";
import { noteWritten } from "./known-text.ts";
import { merge } from "./merge.ts";
import { drop, isBodyAhead, OBJECTS, opaqueObject, ROUTINES } from "./named-object.ts";
import {
  alterObject,
  alterSession,
  alterTrigger,
  attempt,
  comment,
  createRule,
  createSynonym,
  createType,
  pragma,
  rename,
  reset,
  setting,
  switchTrigger,
  use,
} from "./objects.ts";
import { execute, executePrepared, prepare } from "./prepared.ts";
import { bodyStatement, callStatement, setStatement } from "./procedural.ts";
import { inner, query, withTables } from "./query.ts";
import { skipStatement } from "./statement-end.ts";
import { stringValue } from "./string.ts";
import { createIndex, createTable } from "./table.ts";
import { transaction } from "./transaction.ts";
import { typeName } from "./type.ts";

inner.statement = statement;
execution.statement = statement;
reading.script = scriptStatements;

/** Statements with semicolons between, up to the end of a text. */
function scriptStatements(p: Parser): Statement[] {
  const list: Statement[] = [];
  for (;;) {
    while (p.acceptKind(T.SEMICOLON));
    if (p.at(T.EOF)) return list;
    list.push(topStatement(p));
    if (!p.atEnd() && !p.dialect.grammar.bareStatements) p.fail(";");
  }
}

/** One statement of a script: control flow where the language has it outside routines, or a statement. */
export function topStatement(p: Parser): Statement {
  if (p.dialect.syntax.controlFlow) {
    const control = controlFlow(p);
    if (control) return control;
  } else if (p.dialect.syntax.anonymousBlocks) {
    if (p.is(K.DECLARE) || p.is(K.BEGIN) || (p.at(T.OPERATOR) && p.tokenText() === "<<")) return bodyStatement(p);
    // EXECUTE in the shell is a block with one call.
    if (p.is(K.EXEC) || (p.is(K.EXECUTE) && !p.nextIs(K.IMMEDIATE))) {
      const start = p.start;
      p.advance();
      return { ...bodyStatement(p), start };
    }
  } else if (p.dialect.syntax.compoundStatements) {
    if (isCompound(p)) return bodyStatement(p);
    // SET @rate = 1.05, @day = '…'
    if (p.is(K.SET) && p.peekKind(1) === T.VARIABLE && p.wordAhead(1)[1] !== "@") return setStatement(p);
  }
  return statement(p);
}

/** A compound statement outside a routine (mariadb). */
function isCompound(p: Parser): boolean {
  if (!p.at(T.WORD)) return false;
  switch (p.kw) {
    case K.BEGIN:
      return p.nextIs(K.NOT);
    case K.IF:
    case K.LOOP:
    case K.WHILE:
    case K.FOR:
    case K.CASE:
      return true;
    case K.REPEAT:
      return p.peekKind(1) !== T.LPAREN;
    default:
      return p.peekKind(1) === T.COLON;
  }
}

/** One statement, up to but not including its terminator. */
export function statement(p: Parser): Statement {
  const node = statementByWord(p);
  noteWritten(p, node);
  return node;
}

function statementByWord(p: Parser): Statement {
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
      if (p.dialect.syntax.crosstabs) return queryStatement(p, null);
      break;
    case K.PARAMETERS:
      if (p.dialect.syntax.parameters) return withParameters(p);
      break;
    case K.WITH:
      return withStatement(p);
    case K.INSERT:
      return insert(p, null);
    case K.REPLACE:
      if (p.dialect.syntax.replaceStatement) return insert(p, null);
      break;
    case K.UPDATE:
      if (p.dialect.syntax.topInChanges && p.nextIs(K.STATISTICS)) break;
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

/** PARAMETERS [from which day] DateTime; and the statement that asks for them (jet). */
function withParameters(p: Parser): Statement {
  const start = p.start;
  p.advance();
  const parameters: Ident[] = [];
  do {
    parameters.push(p.ident("a parameter"));
    typeName(p);
  } while (p.acceptKind(T.COMMA));
  p.expectKind(T.SEMICOLON, "; or ,");
  return { ...statement(p), start, parameters };
}

/** A statement that begins with a hole: which one it is depends on what is filled in. */
function holeStatement(p: Parser, start: number): Statement {
  // An object of JSON is no template.
  if (p.at(T.LBRACE) && p.peekKind(1) !== T.LBRACE && /^\{\s*["}]/.test(p.slice(start, start + 40)))
    p.fail("a statement, and this is JSON");
  skipStatement(p);
  return { kind: "opaque", verb: "", object: "placeholder", class: "code", name: null, start, end: p.previousEnd };
}

function queryStatement(p: Parser, withClause: With | null): Statement {
  const node: Building<Query> = query(p);
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
    } else if (p.is(K.PRIVATE) && p.dialect.syntax.privateTables) p.advance();
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
  if (p.is(K.MATERIALIZED) && p.nextIs(K.VIEW) && p.nextIs(K.LOG, 2)) return opaqueObject(p, "create", start);
  if (p.is(K.VIEW) || (p.is(K.MATERIALIZED) && p.nextIs(K.VIEW)) || isViewHead(p)) {
    const materialized = p.accept(K.MATERIALIZED);
    while (!p.accept(K.VIEW)) p.advance();
    return createView(p, start, { orReplace, temporary, materialized });
  }
  const routine = routineHead(p);
  if (routine !== null) return createRoutine(p, start, routine, orReplace);
  if (p.is(K.TABLE)) return createTable(p, { start, temporary, orReplace }, virtual);
  if (p.is(K.FOREIGN) && p.nextIs(K.TABLE)) {
    p.advance();
    return createTable(p, { start, temporary, orReplace, foreign: true }, virtual);
  }
  if (p.is(K.INDEX)) return createIndex(p, start, unique);
  if (p.is(K.SCHEMA) || (p.is(K.DATABASE) && !/^(?:link|audit|scoped|encryption)$/i.test(p.wordAhead(1))))
    return createSchema(p, start, () => (p.is(K.GRANT) ? classified(p) : create(p)));
  const known = attempt(p, () => createObject(p, start, orReplace));
  if (known) return known;
  return opaqueObject(p, "create", start);
}

/** Rules, types and synonyms; null for everything else. */
function createObject(p: Parser, start: number, orReplace: boolean): Statement | null {
  p.accept(K.PUBLIC);
  if (p.accept(K.RULE)) return createRule(p, start, orReplace);
  if (p.accept(K.TYPE)) return createType(p, start, "type");
  if (p.accept(K.DOMAIN)) return createType(p, start, "domain");
  if (p.accept(K.SYNONYM)) return createSynonym(p, start, orReplace);
  return null;
}

/** ALTER VIEW name AS query (mysql, mariadb, tsql), which is CREATE OR REPLACE of a view that is there; null for any other. */
function alterView(p: Parser, start: number): Statement | null {
  if (!p.is(K.VIEW) && !isViewHead(p)) return null;
  while (!p.accept(K.VIEW)) p.advance();
  return createView(p, start, { orReplace: true, temporary: false, materialized: false });
}

/** ALTER of triggers, views, sequences and the session; null where the rest is kept as text. */
function alterKnown(p: Parser, start: number): Statement | null {
  if (p.accept(K.TRIGGER)) return alterTrigger(p, start);
  if (p.accept(K.RULE)) return alterTrigger(p, start, "rule");
  if (p.dialect.syntax.privateTables && p.accept(K.SESSION)) return alterSession(p, start);
  p.accept(K.MATERIALIZED);
  const object = p.at(T.WORD) ? OBJECTS.get(p.kw as K) : undefined;
  if (object === undefined || object === "table") return null;
  p.advance();
  return object === "sequence" ? restartSequence(p, start) : alterObject(p, object, start);
}

/** Statements of one word that change settings or names; null where the rest is kept as text. */
function knownByWord(p: Parser, word: K, start: number): Statement | null {
  switch (word) {
    case K.SET:
      return setting(p, start);
    case K.PRAGMA:
      return pragma(p, start);
    case K.USE:
      return use(p, start);
    case K.RESET:
      return p.dialect.syntax.doBlocks && p.atName() ? reset(p, start) : null;
    case K.COMMENT:
      return p.is(K.ON) ? comment(p, start) : null;
    case K.RENAME:
      return rename(p, start);
    case K.DBCC:
      return reseed(p, start);
    default:
      return null;
  }
}

/** Words that do not stand between CREATE and what it creates: there another statement has begun. */
const ANOTHER: ReadonlySet<number> = new Set([K.CREATE, K.ALTER, K.DROP, K.ENABLE, K.DISABLE, K.SELECT, K.INSERT]);

/** ALGORITHM = …, DEFINER = …, SQL SECURITY …, FORCE, EDITIONABLE, RECURSIVE before VIEW. */
function isViewHead(p: Parser): boolean {
  for (let at = 0; at < 16; at++) {
    const kind = p.peekKind(at);
    if (kind === T.WORD) {
      const word = p.peekMark(at);
      if (at > 0 && ANOTHER.has(word)) return false;
      if (word === K.VIEW) return at === 0 || p.peekKind(at - 1) !== T.DOT;
      if (OBJECTS.get(word as K) !== undefined && word !== K.ROLE && word !== K.USER) return false;
    } else if (kind === T.SEMICOLON || kind === T.EOF || kind === T.LPAREN) {
      if (kind !== T.LPAREN) return false;
    }
  }
  return false;
}

/** Passes DEFINER = …, EDITIONABLE, CONSTRAINT, AGGREGATE before a routine; gives what is created. */
function routineHead(p: Parser): string | null {
  for (let at = 0; at < 12; at++) {
    const kind = p.peekKind(at);
    if (kind === T.SEMICOLON || kind === T.EOF) return null;
    if (kind !== T.WORD) continue;
    if (at > 0 && ANOTHER.has(p.peekMark(at))) return null;
    const object = OBJECTS.get(p.peekMark(at) as K);
    if (object === undefined || object === "role" || object === "user") continue;
    // CREATE AGGREGATE FUNCTION (mariadb)
    if (object === "aggregate" && p.nextIs(K.FUNCTION, at + 1)) continue;
    // CREATE PARTITION FUNCTION (tsql) is a list of bounds.
    if (object === "function" && at > 0 && p.nextIs(K.PARTITION, at - 1)) return null;
    if (!ROUTINES.has(object) || (object === "type" && !p.dialect.syntax.privateTables)) return null;
    // CREATE EVENT TRIGGER (postgresql) is another thing.
    if (object === "event" && !p.dialect.syntax.compoundStatements) return null;
    if (object === "type" && p.dialect.syntax.privateTables && !isBodyAhead(p, at + 1)) return null;
    p.seek(p.pos + at + 1);
    return object;
  }
  return null;
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
  [K.RAISERROR]: "session",
  [K.THROW]: "session",
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
  [K.SIGNAL]: "session",
  [K.RESIGNAL]: "session",
  [K.GET]: "session",
  [K.CACHE]: "session",
  [K.SHUTDOWN]: "session",
  [K.START]: "session",
  [K.STOP]: "session",
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
    return (
      attempt(p, () => alterView(p, start)) ?? attempt(p, () => alterKnown(p, start)) ?? opaqueObject(p, verb, start)
    );
  }
  if (word === K.ADD && p.dialect.grammar.bareStatements && /^(?:counter|signature)$/i.test(p.wordAhead(1))) {
    skipStatement(p);
    return { kind: "opaque", verb, object: "signature", class: "rights", name: null, start, end: p.previousEnd };
  }
  const known = CLASSES[word];
  if (known === undefined) return p.fail("a statement");
  if (word === K.ENABLE || word === K.DISABLE) {
    const node = attempt(p, () => switchTrigger(p, start));
    if (node) return node;
  }
  p.advance();
  if (word === K.COMMENT && !p.is(K.ON)) return p.fail("ON");
  let object = "";
  if (word === K.BEGIN || word === K.DECLARE) {
    p.seek(p.pos - 1);
    if (p.dialect.syntax.anonymousBlocks) return bodyStatement(p);
    if (word === K.BEGIN) return p.fail("a statement");
    const from = p.pos;
    while (!p.atEnd() && !p.is(K.CURSOR) && !p.is(K.FOR)) p.advance();
    if (!p.is(K.CURSOR)) {
      p.seek(from + 1);
      return p.fail("a cursor");
    }
    skipStatement(p);
    object = "cursor";
    return { kind: "opaque", verb, object, class: "session", name: null, start, end: p.previousEnd };
  }
  if (word === K.CALL) {
    p.seek(p.pos - 1);
    return callStatement(p);
  }
  if (word === K.DO && p.dialect.syntax.doBlocks) return doBlock(p, start);
  if (p.dialect.syntax.doBlocks && word === K.PREPARE && !p.is(K.TRANSACTION)) return prepareAs(p, start);
  if (p.dialect.syntax.doBlocks && word === K.EXECUTE) return executePrepared(p, start);
  if (p.dialect.syntax.declareStatements && (word === K.PREPARE || word === K.EXECUTE)) {
    p.seek(p.pos - 1);
    return word === K.PREPARE ? prepare(p) : execute(p);
  }
  if (word === K.COPY || word === K.BULK || (word === K.LOAD && !p.is(K.INDEX) && (p.is(K.DATA) || p.isText("XML")))) {
    return copy(p, start, word);
  }
  if ((word === K.EXPLAIN || word === K.DESCRIBE || word === K.DESC) && !p.dialect.syntax.noExplain)
    return explain(p, start, verb, false);
  if (word === K.ANALYZE && p.dialect.syntax.analyzeRuns && !p.is(K.TABLE)) return explain(p, start, verb, true);
  if (word === K.SET && (p.is(K.TRANSACTION) || p.is(K.CONSTRAINTS))) {
    skipStatement(p);
    return { kind: "transaction", action: "set", name: null, start, end: p.previousEnd };
  }
  const node = attempt(p, () => knownByWord(p, word, start));
  if (node) return node;
  const flashback = word === K.FLASHBACK && p.accept(K.TABLE) ? p.name("the name of a table") : null;
  // TO BEFORE DROP brings a dropped table back.
  const dropped = p.is(K.TO) && p.wordAhead(1).toLowerCase() === "before" && p.nextIs(K.DROP, 2);
  skipStatement(p, { begun: true });
  if (flashback) {
    object = dropped ? "dropped table" : "table";
    return { kind: "opaque", verb, object, class: known, name: flashback, start, end: p.previousEnd };
  }
  return { kind: "opaque", verb, object, class: known, name: null, start, end: p.previousEnd };
}

/** PREPARE name (types) AS statement (postgresql). */
function prepareAs(p: Parser, start: number): Statement {
  const name = p.ident("a name").text.toLowerCase();
  if (p.at(T.LPAREN)) p.skipParens();
  p.expect(K.AS);
  const body = [statement(p)];
  p.prepared.add(name);
  return { kind: "dynamic", text: null, body, pattern: [], start, end: p.previousEnd };
}

/** DO $$ … $$ runs a block at once (postgresql). */
function doBlock(p: Parser, start: number): Statement {
  let language = "plpgsql";
  let text: ReturnType<typeof quotedBody> | null = null;
  while (!p.atEnd()) {
    if (p.at(T.STRING)) text = quotedBody(p);
    else if (p.accept(K.LANGUAGE)) {
      language = p.at(T.STRING) ? stringValue(p).toLowerCase() : p.tokenText().toLowerCase();
      p.advance();
    } else p.fail("a string");
  }
  const end = p.previousEnd;
  if (text === null) return p.fail("a string");
  if (language === "plpgsql") {
    const inside = readInner(p, text.value, text.offset, text, plpgsql);
    if (inside.statements)
      return { kind: "block", declarations: [], body: inside.statements, handlers: [], start, end };
  }
  return { kind: "opaque", verb: "do", object: language, class: "code", name: null, start, end };
}

/** COPY, LOAD DATA, BULK INSERT: the table and the direction; the file and its format are passed. */
function copy(p: Parser, start: number, word: K): Statement {
  const node: Building<CopyStatement> = {
    kind: "copy",
    table: null,
    direction: "in",
    columns: null,
    query: null,
    replace: false,
    start,
    end: start,
  };
  if (word === K.COPY) {
    p.accept(K.BINARY);
    if (p.at(T.LPAREN)) {
      p.advance();
      if (p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.MERGE)) {
        // The change is made, and what it returns is written out (postgresql): it is what counts.
        const change = statement(p);
        p.expectKind(T.RPAREN, ")");
        skipStatement(p);
        return change;
      }
      node.query = query(p);
      p.expectKind(T.RPAREN, ")");
      node.direction = "out";
    } else {
      node.table = p.name("the name of a table");
      if (p.at(T.LPAREN)) node.columns = p.identList("a column");
      if (p.is(K.TO)) node.direction = "out";
    }
  } else if (word === K.BULK) {
    p.expect(K.INSERT);
    node.table = p.name("the name of a table");
  } else {
    while (!p.is(K.TABLE)) {
      if (p.atEnd()) p.fail("INTO TABLE");
      if (p.is(K.REPLACE)) node.replace = true;
      p.advance();
    }
    p.advance();
    node.table = p.name("the name of a table");
  }
  skipStatement(p);
  node.end = p.previousEnd;
  return node;
}

/** EXPLAIN reads; with ANALYZE it runs the statement, which is then what counts; MariaDB's ANALYZE runs it as well. */
function explain(p: Parser, start: number, verb: string, analyze: boolean): Statement {
  let runs = analyze;
  while (
    p.at(T.WORD) &&
    (p.is(K.ANALYZE) ||
      p.is(K.ANALYSE) ||
      p.is(K.VERBOSE) ||
      p.isText("EXTENDED") ||
      p.is(K.PARTITIONS) ||
      p.is(K.FORMAT))
  ) {
    if (p.is(K.ANALYZE) || p.is(K.ANALYSE)) runs = true;
    const format = p.is(K.FORMAT);
    p.advance();
    // FORMAT = JSON
    if (format) {
      p.advance();
      p.advance();
    }
  }
  if (
    p.at(T.LPAREN) &&
    p.dialect.syntax.doBlocks &&
    !p.nextIs(K.SELECT) &&
    !p.nextIs(K.WITH) &&
    p.peekKind(1) !== T.LPAREN
  ) {
    const from = p.start;
    p.skipParens();
    if (/\banaly[sz]e\b(?!\s*(?:off|false|0))/i.test(p.slice(from, p.previousEnd))) runs = true;
  }
  if (
    runs &&
    (p.is(K.INSERT) || p.is(K.UPDATE) || p.is(K.DELETE) || p.is(K.MERGE) || p.is(K.WITH) || p.is(K.REPLACE))
  ) {
    return { ...statement(p), start };
  }
  skipStatement(p);
  const reads = analyze ? "structure" : "reads";
  return { kind: "opaque", verb, object: "", class: reads, name: null, start, end: p.previousEnd };
}
