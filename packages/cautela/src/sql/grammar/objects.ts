import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type { Building, CreateRuleStatement, CreateTypeStatement, Ident, Name, Statement } from "../nodes/tree.ts";
import { type Parser, ReadingStopped } from "../reading/parser.ts";
import { columnDefinition } from "./column.ts";
import { expression } from "./expression.ts";
import { grow } from "./growing.ts";
import { ifExists } from "./if-exists.ts";
import { execution } from "./insert.ts";
import { skipStatement } from "./statement-end.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

// What changes the catalog besides tables, views and routines: rules, types, synonyms, comments,
// triggers switched on and off, renames.

/**
 * Reads one of these statements where its form is known; null, with nothing taken, where it is
 * another one, which then keeps its head and its text.
 */
export function attempt(p: Parser, read: () => Statement | null): Statement | null {
  const from = p.pos;
  const depth = p.depth;
  try {
    const node = read();
    if (node && ended(p)) return node;
  } catch (stopped) {
    if (!(stopped instanceof ReadingStopped)) throw stopped;
  }
  p.depth = depth;
  p.seek(from);
  return null;
}

function ended(p: Parser): boolean {
  return p.atEnd() || p.dialect.grammar.bareStatements;
}

/** CREATE RULE name AS ON event TO table [WHERE …] DO [ALSO | INSTEAD] …, starting after RULE. */
export function createRule(p: Parser, start: number, orReplace: boolean): CreateRuleStatement {
  const name = p.name("the name of a rule");
  p.expect(K.AS);
  p.expect(K.ON);
  const event = p.tokenText().toLowerCase();
  if (event !== "select" && event !== "insert" && event !== "update" && event !== "delete")
    p.fail("INSERT, UPDATE, DELETE or SELECT");
  p.advance();
  p.expect(K.TO);
  const table = p.name("the name of a table");
  const where = p.accept(K.WHERE) ? expression(p) : null;
  p.expect(K.DO);
  const instead = p.accept(K.INSTEAD);
  if (!instead) p.acceptText("ALSO");
  const body: Statement[] = [];
  const one = (): void => {
    if (execution.statement === null) p.fail("a statement");
    else body.push(execution.statement(p));
  };
  if (p.accept(K.NOTHING)) {
    // The change is swallowed.
  } else if (p.at(T.LPAREN)) {
    p.advance();
    while (!p.at(T.RPAREN)) {
      if (!p.acceptKind(T.SEMICOLON)) one();
    }
    p.advance();
  } else one();
  return { kind: "create-rule", name, table, event, orReplace, instead, where, body, start, end: p.previousEnd };
}

/** CREATE TYPE name AS ENUM (…) and CREATE DOMAIN name AS type …, starting after TYPE or DOMAIN. */
export function createType(p: Parser, start: number, object: "type" | "domain"): CreateTypeStatement | null {
  const node: Building<CreateTypeStatement> = {
    kind: "create-type",
    object,
    name: p.name("the name of a type"),
    enumeration: null,
    attributes: null,
    base: null,
    required: false,
    checks: [],
    start,
    end: start,
  };
  if (object === "type") {
    if (p.dialect.syntax.aliasTypes && p.accept(K.FROM)) {
      node.base = typeName(p);
      if (p.is(K.NOT) && p.nextIs(K.NULL)) {
        p.seek(p.pos + 2);
        node.required = true;
      } else p.accept(K.NULL);
      node.end = p.previousEnd;
      return node;
    }
    if (!p.accept(K.AS)) return null;
    if (p.at(T.LPAREN) && p.dialect.syntax.compositeTypes) {
      p.advance();
      node.attributes = [];
      if (!p.at(T.RPAREN)) {
        do grow(node.attributes, columnDefinition(p));
        while (p.acceptKind(T.COMMA));
      }
      p.expectKind(T.RPAREN, ") or ,");
      node.end = p.previousEnd;
      return node;
    }
    if (!p.accept(K.ENUM)) return null;
    p.expectKind(T.LPAREN, "(");
    node.enumeration = [];
    while (p.at(T.STRING)) {
      grow(node.enumeration, stringValue(p));
      p.advance();
      p.acceptKind(T.COMMA);
    }
    p.expectKind(T.RPAREN, ") or ,");
  } else {
    p.accept(K.AS);
    node.base = typeName(p);
    while (!p.atEnd()) {
      if (p.accept(K.COLLATE)) p.name("a collation");
      else if (p.accept(K.DEFAULT)) expression(p);
      else if (p.accept(K.CONSTRAINT)) p.ident("a constraint");
      else if (p.is(K.NOT) && p.nextIs(K.NULL)) {
        p.seek(p.pos + 2);
        node.required = true;
      } else if (p.accept(K.NULL)) node.required = false;
      else if (p.accept(K.CHECK)) {
        p.expectKind(T.LPAREN, "(");
        grow(node.checks, expression(p));
        p.expectKind(T.RPAREN, ")");
      } else p.fail("CHECK, DEFAULT or NOT NULL");
    }
  }
  node.end = p.previousEnd;
  return node;
}

/** CREATE SYNONYM name FOR object, starting after SYNONYM. */
export function createSynonym(p: Parser, start: number, orReplace: boolean): Statement {
  ifExists(p);
  const name = p.name("the name of a synonym");
  p.expect(K.FOR);
  const target = p.name("the name of an object");
  return { kind: "create-synonym", name, target, orReplace, start, end: p.previousEnd };
}

/** COMMENT ON object name IS 'text'; the current token is ON. */
export function comment(p: Parser, start: number): Statement | null {
  p.advance();
  const object = p.tokenText().toLowerCase();
  if (object !== "table" && object !== "column" && object !== "view") return null;
  p.advance();
  const name = p.name("a name");
  p.expect(K.IS);
  let text: string | null = null;
  if (!p.accept(K.NULL)) {
    if (!p.at(T.STRING)) p.fail("a string or NULL");
    text = stringValue(p);
    p.advance();
  }
  return { kind: "comment", object, name, text, start, end: p.previousEnd };
}

/** DISABLE TRIGGER a, b | ALL ON table (tsql); the current token is ENABLE or DISABLE. */
export function switchTrigger(p: Parser, start: number): Statement | null {
  const enabled = p.is(K.ENABLE);
  p.advance();
  if (!p.accept(K.TRIGGER)) return null;
  let names: Name[] | null = null;
  if (!p.accept(K.ALL)) {
    names = [];
    do names.push(p.name("the name of a trigger"));
    while (p.acceptKind(T.COMMA));
  }
  p.expect(K.ON);
  if (p.is(K.DATABASE) || p.is(K.ALL)) return null;
  const table = p.name("the name of a table");
  return { kind: "alter-trigger", names, table, enabled, start, end: p.previousEnd };
}

/** ALTER TRIGGER name ENABLE | DISABLE (plsql), … ON table RENAME TO (postgresql); starting after TRIGGER. */
export function alterTrigger(p: Parser, start: number, object: "trigger" | "rule" = "trigger"): Statement | null {
  const name = p.name(`the name of a ${object}`);
  if (p.is(K.ENABLE) || p.is(K.DISABLE)) {
    const enabled = p.is(K.ENABLE);
    p.advance();
    return { kind: "alter-trigger", names: [name], table: null, enabled, start, end: p.previousEnd };
  }
  const table = p.accept(K.ON) ? p.name("the name of a table") : null;
  if (!p.accept2(K.RENAME, K.TO)) return null;
  return renamed(object, name, p.name("a name"), p, start, false, table);
}

/** ALTER VIEW | SEQUENCE | INDEX | … name RENAME TO name, SET SCHEMA name; starting after the object's word. */
export function alterObject(p: Parser, object: string, start: number): Statement | null {
  ifExists(p);
  const from = p.name("a name");
  if (p.at(T.LPAREN)) p.skipParens();
  if (p.accept2(K.RENAME, K.TO)) return renamed(object, from, p.name("a name"), p, start, false, null);
  if (p.is(K.RENAME) && (object === "view" || object === "type") && p.peekKind(1) === T.WORD) {
    // RENAME COLUMN a TO b of a view, RENAME ATTRIBUTE a TO b of a composite type (postgresql)
    p.advance();
    if (!p.acceptText("ATTRIBUTE")) p.accept(K.COLUMN);
    const name = p.label("a column");
    p.expect(K.TO);
    const action = {
      what: "rename-column" as const,
      name,
      to: p.label("a column"),
      ifExists: false,
      start: name.start,
      end: p.previousEnd,
    };
    if (object === "view")
      return {
        kind: "alter-table",
        name: from,
        ifExists: false,
        ignore: false,
        actions: [action],
        start,
        end: p.previousEnd,
      };
    return null;
  }
  if (p.is(K.SET) && p.nextIs(K.SCHEMA)) {
    p.seek(p.pos + 2);
    return renamed(object, from, p.name("a schema"), p, start, true, null);
  }
  return null;
}

function renamed(
  object: string,
  from: Name,
  to: Name,
  p: Parser,
  start: number,
  schema: boolean,
  table: Name | null,
): Statement {
  return { kind: "rename", object, renames: [{ from, to }], schema, table, start, end: p.previousEnd };
}

/** RENAME TABLE a TO b, c TO d (mysql); RENAME a TO b (plsql); starting after RENAME. */
export function rename(p: Parser, start: number): Statement | null {
  if (!p.accept(K.TABLE) && !p.accept(K.TABLES) && !p.dialect.syntax.bareRename) return null;
  const renames: { from: Name; to: Name }[] = [];
  ifExists(p);
  do {
    const from = p.name("the name of a table");
    if (p.acceptText("WAIT")) p.advance();
    else p.accept(K.NOWAIT);
    p.expect(K.TO);
    renames.push({ from, to: p.name("a name") });
  } while (p.acceptKind(T.COMMA));
  return { kind: "rename", object: "table", renames, schema: false, table: null, start, end: p.previousEnd };
}

/** SET …, starting after SET; null where it sets something that is no setting of the session. */
export function setting(p: Parser, start: number): Statement | null {
  let scope: "local" | "session" | "global" = "session";
  if (p.dialect.syntax.setOptions) return setOption(p, start);
  if (p.is(K.SESSION) && p.nextIs(K.AUTHORIZATION)) return null;
  if (p.is(K.LOCAL) || p.is(K.SESSION) || p.is(K.GLOBAL) || p.is(K.PERSIST)) {
    scope =
      p.is(K.LOCAL) && p.dialect.syntax.localSettings
        ? "local"
        : p.is(K.GLOBAL) || p.is(K.PERSIST)
          ? "global"
          : "session";
    p.advance();
  }
  if (p.dialect.syntax.doBlocks && p.is(K.SCHEMA) && p.peekKind(1) === T.STRING) {
    // SET SCHEMA 'dock' (postgresql)
    p.advance();
    return {
      kind: "setting",
      name: "search_path",
      value: settingValue(p),
      scope,
      target: null,
      start,
      end: p.previousEnd,
    };
  }
  let name: string;
  if (p.at(T.VARIABLE)) {
    // SET @@session.sql_mode = …
    name = p.tokenText();
    if (!name.startsWith("@@")) return null;
    name = name.slice(2).toLowerCase();
    p.advance();
    while (p.acceptKind(T.DOT)) {
      if (name === "global") scope = "global";
      name = p.label("a setting").text.toLowerCase();
    }
  } else {
    const path = p.name("a setting");
    name = path.parts.map((part) => part.text.toLowerCase()).join(".");
  }
  if (p.isOp(Op.EQ) || p.isOp(Op.ASSIGN)) p.advance();
  else if (!p.accept(K.TO)) return null;
  return { kind: "setting", name, value: settingValue(p), scope, target: null, start, end: p.previousEnd };
}

/** RESET name, RESET ALL, starting after RESET (postgresql); null where it resets what is no setting. */
export function reset(p: Parser, start: number): Statement | null {
  if (p.is(K.SESSION) || p.is(K.ROLE)) return null;
  const name = p
    .name("a setting")
    .parts.map(({ text }) => text.toLowerCase())
    .join(".");
  return { kind: "setting", name, value: "default", scope: "session", target: null, start, end: p.previousEnd };
}

/** SET XACT_ABORT ON, SET IDENTITY_INSERT berth ON, SET NOCOUNT, ANSI_NULLS OFF (tsql). */
function setOption(p: Parser, start: number): Statement | null {
  const names = [p.label("an option").text.toLowerCase()];
  // SET STATISTICS IO, TIME ON
  if (names[0] === "statistics") names[0] = p.label("an option").text.toLowerCase();
  while (p.acceptKind(T.COMMA)) names.push(p.label("an option").text.toLowerCase());
  let target: Name | null = null;
  if (names[0] === "identity_insert") target = p.name("the name of a table");
  if (!p.is(K.ON) && !p.is(K.OFF) && !p.at(T.NUMBER) && !p.at(T.WORD) && !p.at(T.VARIABLE)) return null;
  const value = p.tokenText();
  p.advance();
  return { kind: "setting", name: names.join(","), value, scope: "session", target, start, end: p.previousEnd };
}

/** PRAGMA [schema.]name [= value | (value)], starting after PRAGMA (sqlite). */
export function pragma(p: Parser, start: number): Statement {
  const path = p.name("the name of a pragma");
  const name = path.parts[path.parts.length - 1].text.toLowerCase();
  let value = "";
  if (p.acceptOp(Op.EQ)) value = settingValue(p);
  else if (p.at(T.LPAREN)) {
    const from = p.tokenEnd;
    p.skipParens();
    value = p.slice(from, p.previousEnd - 1).trim();
  } else {
    // It asks for the value, or for a report, and sets nothing.
    if (!p.atEnd()) skipStatement(p);
    return { kind: "opaque", verb: "pragma", object: name, class: "reads", name: null, start, end: p.previousEnd };
  }
  return { kind: "setting", name, value, scope: "session", target: null, start, end: p.previousEnd };
}

/** USE database, starting after USE. */
export function use(p: Parser, start: number): Statement | null {
  if (!p.atName()) return null;
  const target = p.name("a database");
  const value = target.parts[0].text;
  return { kind: "setting", name: "database", value, scope: "session", target, start, end: p.previousEnd };
}

/** ALTER SESSION SET name = value (plsql), starting after SESSION. */
export function alterSession(p: Parser, start: number): Statement | null {
  if (!p.accept(K.SET)) return null;
  const name = p.label("a setting").text.toLowerCase();
  if (!p.acceptOp(Op.EQ)) return null;
  return { kind: "setting", name, value: settingValue(p), scope: "session", target: null, start, end: p.previousEnd };
}

function settingValue(p: Parser): string {
  const from = p.start;
  const only = p.at(T.STRING) ? stringValue(p) : null;
  const first = p.pos;
  while (!p.atEnd()) {
    if (p.at(T.BAD)) p.fail("the end of the statement");
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
  return only !== null && p.pos === first + 1 ? only : p.slice(from, p.previousEnd);
}

/** The names of partitions after DROP or TRUNCATE PARTITION; empty for ALL. */
export function partitionNames(p: Parser): Ident[] {
  const names: Ident[] = [];
  if (p.accept(K.ALL)) return names;
  do names.push(p.label("a partition"));
  while (p.acceptKind(T.COMMA));
  return names;
}
