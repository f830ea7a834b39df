import { K } from "../lexer/keywords.ts";
import { Op, T } from "../lexer/tokens.ts";
import type {
  AlterAction,
  AlterTableStatement,
  Building,
  ColumnDefinition,
  Ident,
  TableConstraint,
} from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { columnDefinition } from "./column.ts";
import { tableConstraint } from "./constraint.ts";
import { restartValue } from "./counter.ts";
import { expression } from "./expression.ts";
import { grow } from "./growing.ts";
import { ifExists } from "./if-exists.ts";
import { partitionNames } from "./objects.ts";
import { statementBegins } from "./statement-end.ts";
import { typeName } from "./type.ts";

/** ALTER TABLE starting after ALTER. Actions that change neither columns nor keys are `other`. */
export function alterTable(p: Parser, start: number): AlterTableStatement {
  let ignore = false;
  while (!p.accept(K.TABLE)) {
    if (p.is(K.IGNORE)) ignore = true;
    p.advance();
  }
  const optional = ifExists(p);
  p.accept(K.ONLY);
  const name = p.name("the name of a table");
  if (p.at(T.STAR)) p.advance();
  const node: Building<AlterTableStatement> = {
    kind: "alter-table",
    name,
    ifExists: optional,
    ignore,
    actions: [],
    start,
    end: start,
  };
  let list = false;
  while (!p.atEnd()) {
    const from = p.pos;
    list = action(p, node, list);
    if (p.acceptKind(T.COMMA)) continue;
    if (p.pos > from && statementBegins(p)) break;
    if (p.pos === from) p.advance();
    if (ended(p)) break;
  }
  node.end = p.previousEnd;
  return node;
}

function ended(p: Parser): boolean {
  return p.atEnd() || statementBegins(p);
}

/**
 * One action. T-SQL's `ADD a int, b int` and Oracle's `ADD (a …, b …)` go on without the word ADD;
 * the result says whether what follows a comma belongs to such a list.
 */
function action(p: Parser, node: Building<AlterTableStatement>, list: boolean): boolean {
  const start = p.start;
  const known = p.dialect.grammar.tableActions.has(p.wordAhead(0).toLowerCase()) || isOption(p);
  const put = (one: Building<AlterAction>): void => {
    one.end = p.previousEnd;
    grow(node.actions, one);
  };
  if (list && !p.is(K.ADD) && !p.is(K.DROP) && !p.is(K.ALTER)) {
    addition(p, node, start);
    return true;
  }
  if (p.at(T.WORD)) {
    switch (p.kw) {
      case K.WITH:
        if (p.nextIs(K.CHECK) || p.nextIs(K.NOCHECK)) {
          // WITH CHECK ADD CONSTRAINT … (tsql)
          const unchecked = p.nextIs(K.NOCHECK);
          const from = node.actions.length;
          p.seek(p.pos + 2);
          const more = action(p, node, list);
          if (unchecked)
            for (const one of node.actions.slice(from))
              if (one.what === "add-constraint") {
                const constraint: Building<TableConstraint> = one.constraint;
                constraint.unchecked = true;
              }
          return more;
        }
        break;
      case K.ADD: {
        p.advance();
        const inList = p.dialect.syntax.alterLists;
        if (p.at(T.LPAREN)) {
          p.advance();
          do addition(p, node, p.start);
          while (p.acceptKind(T.COMMA));
          p.expectKind(T.RPAREN, ") or ,");
          skipAction(p);
          return false;
        }
        addition(p, node, start);
        return inList;
      }
      case K.DROP:
        dropAction(p, start, put);
        // DROP CONSTRAINT a, COLUMN b (tsql)
        while (p.dialect.syntax.alterLists && p.at(T.COMMA) && startsDropped(p)) dropAction(p, p.start, put);
        skipAction(p);
        return false;
      case K.SET: {
        if (!/^unused$/i.test(p.wordAhead(1))) {
          const one = guardOrPartition(p, start);
          if (!one) break;
          put(one);
          skipAction(p);
          return false;
        }
        // SET UNUSED (a, b), SET UNUSED COLUMN a: they cannot be reached again (plsql).
        p.seek(p.pos + 2);
        p.accept(K.COLUMN);
        const parens = p.acceptKind(T.LPAREN);
        do {
          const name = p.label("a column");
          put({ what: "drop-column", name, cascade: false, ifExists: false, start: name.start, end: name.end });
        } while (parens && p.acceptKind(T.COMMA));
        if (parens) p.expectKind(T.RPAREN, ") or ,");
        skipAction(p);
        return false;
      }
      case K.ALTER:
        alterColumn(p, start, put);
        skipAction(p);
        return false;
      case K.MODIFY:
      case K.CHANGE: {
        const change = p.marked(K.CHANGE);
        p.advance();
        p.accept(K.COLUMN);
        const optional = ifExists(p);
        const parens = p.acceptKind(T.LPAREN);
        do {
          const from = p.start;
          const old = change ? p.label("a column") : null;
          const column = columnDefinition(p);
          put({ what: "change-column", name: old ?? column.name, column, ifExists: optional, start: from, end: from });
        } while (parens && p.acceptKind(T.COMMA));
        if (parens) p.expectKind(T.RPAREN, ") or ,");
        skipAction(p);
        return false;
      }
      case K.RENAME: {
        p.advance();
        if (p.is(K.CONSTRAINT)) {
          p.advance();
          const name = p.label("a constraint");
          p.expect(K.TO);
          put({ what: "rename-constraint", name, to: p.label("a name"), start, end: start });
          return false;
        }
        if (p.is(K.INDEX) || p.is(K.KEY) || p.is(K.PARTITION)) {
          skipAction(p);
          put({ what: "other", start, end: start });
          return false;
        }
        if (p.accept(K.TO) || p.accept(K.AS) || (p.isOp(Op.EQ) && p.acceptOp(Op.EQ))) {
          put({ what: "rename", to: p.name("a name"), start, end: start });
          return false;
        }
        const column = p.accept(K.COLUMN);
        if (!column && p.dialect.syntax.bareTableRename) {
          put({ what: "rename", to: p.name("a name"), start, end: start });
          return false;
        }
        const optional = ifExists(p);
        const old = p.label("a column");
        p.expect(K.TO);
        put({ what: "rename-column", name: old, to: p.label("a column"), ifExists: optional, start, end: start });
        return false;
      }
      default: {
        const one = guardOrPartition(p, start);
        if (one) {
          put(one);
          // NOCHECK CONSTRAINT a, b (tsql)
          if (p.dialect.syntax.alterLists && (one.what === "constraint-enabled" || one.what === "trigger"))
            while (p.acceptKind(T.COMMA)) put({ ...one, name: p.label("a name") });
          skipAction(p);
          return false;
        }
      }
    }
  }
  if (!known) p.fail("a change of the table");
  if (p.start === start) p.advance();
  skipAction(p);
  put({ what: "other", start, end: start });
  return false;
}

/** MySQL's options of a table are written as NAME = value, and MariaDB's engines have more of their own. */
function isOption(p: Parser): boolean {
  return p.dialect.syntax.inlineKeys && p.peekKind(1) === T.OPERATOR && p.peekMark(1) === Op.EQ;
}

/** Triggers, rules and constraints switched on or off, inheritance, partitions; null for anything else. */
function guardOrPartition(p: Parser, start: number): AlterAction | null {
  const end = start;
  switch (p.kw) {
    case K.ENABLE:
    case K.DISABLE:
      return switched(p, start);
    case K.CHECK:
    case K.NOCHECK: {
      // CHECK CONSTRAINT ALL, NOCHECK CONSTRAINT name (tsql)
      if (!p.nextIs(K.CONSTRAINT)) return null;
      const enabled = p.marked(K.CHECK);
      const trusted = enabled && p.tokens.marks[p.pos - 1] === K.CHECK;
      p.seek(p.pos + 2);
      const name = p.accept(K.ALL) ? null : p.label("a constraint");
      return { what: "constraint-enabled", name, enabled, trusted, start, end };
    }
    case K.VALIDATE:
      if (!p.nextIs(K.CONSTRAINT)) return null;
      p.seek(p.pos + 2);
      return {
        what: "constraint-enabled",
        name: p.label("a constraint"),
        enabled: true,
        trusted: true,
        start,
        end,
      };
    case K.SET:
      if (!p.nextIs(K.SCHEMA)) return null;
      p.seek(p.pos + 2);
      return { what: "set-schema", schema: p.label("a schema"), start, end };
    case K.INHERIT:
      p.advance();
      return { what: "inherit", table: p.name("the name of a table"), inherits: true, start, end };
    case K.NO:
      if (!p.nextIs(K.INHERIT)) return null;
      p.seek(p.pos + 2);
      return { what: "inherit", table: p.name("the name of a table"), inherits: false, start, end };
    case K.ATTACH:
    case K.DETACH: {
      if (!p.nextIs(K.PARTITION)) return null;
      const attached = p.marked(K.ATTACH);
      p.seek(p.pos + 2);
      return { what: "attach-partition", table: p.name("the name of a table"), attached, start, end };
    }
    case K.TRUNCATE:
      if (!p.nextIs(K.PARTITION)) return null;
      p.seek(p.pos + 2);
      return { what: "truncate-partition", names: partitionNames(p), start, end };
    default:
      if (p.isText("SWITCH") && p.dialect.syntax.partitionSwitch) {
        while (!p.is(K.TO)) {
          if (p.atEnd()) return null;
          p.advance();
        }
        p.advance();
        return { what: "switch", table: p.name("the name of a table"), start, end };
      }
      if (p.isText("EXCHANGE") && p.nextIs(K.PARTITION)) {
        while (!p.is(K.TABLE)) {
          if (p.atEnd()) return null;
          p.advance();
        }
        p.advance();
        return { what: "exchange-partition", table: p.name("the name of a table"), start, end };
      }
      return null;
  }
}

/** ENABLE and DISABLE of a trigger, a rule, a constraint or the keys. */
function switched(p: Parser, start: number): AlterAction | null {
  const end = start;
  const on = p.marked(K.ENABLE);
  p.advance();
  let enabled: "on" | "off" | "replica" | "always" = on ? "on" : "off";
  if (p.accept(K.REPLICA)) enabled = "replica";
  else if (p.accept(K.ALWAYS)) enabled = "always";
  const trusted = on && !p.acceptText("NOVALIDATE");
  if (on) p.accept(K.VALIDATE);
  if (p.accept(K.ALL) && p.accept(K.TRIGGERS))
    return { what: "trigger", name: null, enabled, userOnly: false, start, end };
  if (p.accept(K.TRIGGER)) {
    const userOnly = p.accept(K.USER);
    const all = userOnly || p.accept(K.ALL);
    return { what: "trigger", name: all ? null : p.label("a trigger"), enabled, userOnly, start, end };
  }
  // A rule of replicas does not act in an ordinary session.
  if (p.accept(K.RULE))
    return { what: "rule", name: p.label("a rule"), enabled: enabled === "on" || enabled === "always", start, end };
  if (p.accept(K.CONSTRAINT)) {
    return { what: "constraint-enabled", name: p.label("a constraint"), enabled: on, trusted, start, end };
  }
  if (p.is(K.PRIMARY) || p.is(K.UNIQUE))
    return { what: "constraint-enabled", name: null, enabled: on, trusted, start, end };
  return null;
}

/** A column or a constraint after ADD. */
function addition(p: Parser, node: Building<AlterTableStatement>, start: number): void {
  if (p.is(K.PARTITION) || p.is(K.PERIOD) || p.is(K.SYSTEM)) {
    skipAction(p);
    grow(node.actions, { what: "other", start, end: p.previousEnd });
    return;
  }
  if (p.dialect.syntax.alterLists && startsDefault(p)) {
    grow(node.actions, defaultFor(p, start));
    return;
  }
  if (p.dialect.syntax.bareAdd && p.is(K.COLUMN)) p.fail("the name of a column");
  const constraint = p.is(K.COLUMN) ? null : tableConstraint(p);
  if (constraint === "skipped") {
    grow(node.actions, { what: "other", start, end: p.previousEnd });
    return;
  }
  if (constraint) {
    grow(node.actions, { what: "add-constraint", constraint, start, end: p.previousEnd });
    return;
  }
  p.accept(K.COLUMN);
  const ifNotExists = ifExists(p);
  if (p.at(T.LPAREN)) {
    p.advance();
    do pushColumn(node, columnDefinition(p), ifNotExists);
    while (p.acceptKind(T.COMMA));
    p.expectKind(T.RPAREN, ") or ,");
    return;
  }
  pushColumn(node, columnDefinition(p), ifNotExists);
}

function startsDefault(p: Parser): boolean {
  return p.is(K.DEFAULT) || (p.is(K.CONSTRAINT) && p.nextIs(K.DEFAULT, 2));
}

/** ADD CONSTRAINT name DEFAULT value FOR column (tsql). */
function defaultFor(p: Parser, start: number): AlterAction {
  if (p.is(K.CONSTRAINT)) p.seek(p.pos + 2);
  p.advance();
  const value = expression(p);
  p.expect(K.FOR);
  const name = p.label("a column");
  if (p.is(K.WITH)) p.seek(p.pos + 2);
  return { what: "column-default", name, default: value, start, end: p.previousEnd };
}

function pushColumn(node: Building<AlterTableStatement>, column: ColumnDefinition, ifNotExists: boolean): void {
  grow(node.actions, { what: "add-column", column, ifNotExists, start: column.start, end: column.end });
}

/** Whether what stands after a comma says anew what it drops. */
function startsDropped(p: Parser): boolean {
  return p.nextIs(K.COLUMN) || p.nextIs(K.CONSTRAINT);
}

/** What DROP drops, from DROP itself or from the comma that goes on with its list. */
function dropAction(p: Parser, start: number, put: (one: AlterAction) => void): void {
  p.advance();
  if (p.is(K.PRIMARY)) {
    p.advance();
    p.accept(K.KEY);
    put({
      what: "drop-constraint",
      name: null,
      primary: true,
      cascade: p.is(K.CASCADE),
      ifExists: false,
      start,
      end: start,
    });
    return;
  }
  if (p.is(K.CONSTRAINT) || p.is(K.FOREIGN) || p.is(K.CHECK)) {
    p.advance();
    p.accept(K.KEY);
    const optional = ifExists(p);
    do {
      const name = p.label("a constraint");
      put({
        what: "drop-constraint",
        name,
        primary: false,
        cascade: p.is(K.CASCADE),
        ifExists: optional,
        start,
        end: start,
      });
    } while (p.dialect.syntax.alterLists && !startsDropped(p) && p.acceptKind(T.COMMA));
    return;
  }
  if (p.is(K.PARTITION) && p.peekKind(1) === T.WORD) {
    p.advance();
    ifExists(p);
    put({ what: "drop-partition", names: partitionNames(p), start, end: start });
    return;
  }
  if ((p.is(K.INDEX) || p.is(K.KEY)) && p.dialect.syntax.bareTableRename) {
    p.advance();
    ifExists(p);
    put({ what: "drop-index", name: p.label("an index"), start, end: start });
    return;
  }
  if (p.is(K.INDEX) || p.is(K.KEY) || p.is(K.PARTITION) || p.is(K.UNIQUE) || p.is(K.PERIOD) || p.is(K.SYSTEM)) {
    put({ what: "other", start, end: start });
    return;
  }
  p.accept(K.COLUMN);
  const optional = ifExists(p);
  const parens = p.acceptKind(T.LPAREN);
  do {
    const name = p.label("a column");
    const cascade = p.is(K.CASCADE);
    put({ what: "drop-column", name, cascade, ifExists: optional, start: name.start, end: name.end });
  } while ((parens || p.dialect.syntax.alterLists) && !startsDropped(p) && p.acceptKind(T.COMMA));
  if (parens) p.expectKind(T.RPAREN, ") or ,");
}

function alterColumn(p: Parser, start: number, put: (one: AlterAction) => void): void {
  p.advance();
  if (p.is(K.CONSTRAINT) || p.is(K.INDEX) || p.is(K.CHECK)) {
    put({ what: "other", start, end: start });
    return;
  }
  p.accept(K.COLUMN);
  ifExists(p);
  const name = p.label("a column");
  if (p.accept(K.SET)) {
    if (p.is(K.NOT) && p.nextIs(K.NULL)) put({ what: "column-required", name, required: true, start, end: start });
    else if (p.accept(K.DEFAULT)) {
      // Two clauses in one: NOT NULL would be the default.
      if (p.is(K.NOT) && p.nextIs(K.NULL)) p.fail("a default");
      put({ what: "column-default", name, default: expression(p), start, end: start });
    } else if (p.accept(K.DATA)) {
      p.accept(K.TYPE);
      columnType(p, name, start, put);
    } else if (p.is(K.GENERATED)) {
      const identity = p.nextIs(K.ALWAYS) ? "always" : "by default";
      put({ what: "column-identity", name, identity, start, end: start });
    } else put({ what: "other", start, end: start });
  } else if (p.is(K.DROP)) {
    p.advance();
    if (p.is(K.NOT)) put({ what: "column-required", name, required: false, start, end: start });
    else if (p.accept(K.DEFAULT)) put({ what: "column-default", name, default: null, start, end: start });
    else if (p.accept(K.IDENTITY)) put({ what: "column-identity", name, identity: null, start, end: start });
    else if (p.isText("EXPRESSION")) put({ what: "column-generated", name, start, end: start });
    else put({ what: "other", start, end: start });
  } else if (p.accept(K.TYPE)) columnType(p, name, start, put);
  else if (p.is(K.ADD) && p.nextIs(K.GENERATED)) {
    const identity = p.nextIs(K.ALWAYS, 2) ? "always" : "by default";
    put({ what: "column-identity", name, identity, start, end: start });
  } else if (p.accept(K.RESTART)) {
    put({ what: "restart-identity", name, value: restartValue(p), start, end: start });
  } else if (p.is(K.ADD)) put({ what: "other", start, end: start });
  else if (p.dialect.syntax.typeAfterAlter) {
    const type = typeName(p);
    put({ what: "column-type", name, type, using: null, start, end: start });
    if (p.is(K.NOT) && p.nextIs(K.NULL)) put({ what: "column-required", name, required: true, start, end: start });
    else if (p.is(K.NULL)) put({ what: "column-required", name, required: false, start, end: start });
  } else put({ what: "other", start, end: start });
}

function columnType(p: Parser, name: Ident, start: number, put: (one: AlterAction) => void): void {
  const type = typeName(p);
  if (p.accept(K.COLLATE)) p.name("a collation");
  const using = p.accept(K.USING) ? expression(p) : null;
  put({ what: "column-type", name, type, using, start, end: start });
}

/** Passes what is left of an action. */
function skipAction(p: Parser): void {
  while (!p.at(T.COMMA) && !ended(p)) {
    if (p.at(T.BAD)) p.fail("the end of the statement");
    if (p.at(T.LPAREN)) p.skipParens();
    else p.advance();
  }
}
