import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, ColumnDefinition, Ident, Name } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { passClauseWord, passIndexAttributes } from "./clause-word.ts";
import { references } from "./constraint.ts";
import { expression, operand } from "./expression.ts";
import { grow } from "./growing.ts";
import { statementBegins } from "./statement-end.ts";
import { stringValue } from "./string.ts";
import { typeName } from "./type.ts";

// One column of CREATE TABLE and ALTER TABLE.

/** One column with its type and constraints. */
export function columnDefinition(p: Parser): ColumnDefinition {
  const start = p.start;
  const name = p.label("the name of a column");
  const node: Building<ColumnDefinition> = {
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
    named: { primary: null, unique: null, references: null, checks: [] },
    place: null,
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

/** The clauses after a column's type, in any order, as every dialect allows: a case for each (hence its length). */
export function columnClauses(p: Parser, node: Building<ColumnDefinition>): void {
  /** The name after CONSTRAINT, for the clause that follows it. */
  let name: Ident | null = null;
  const takeName = (): Ident | null => {
    const taken = name;
    name = null;
    return taken;
  };
  let onNull = false;
  for (;;) {
    if (p.at(T.COMMA) || p.at(T.RPAREN) || p.atEnd()) return;
    if (p.at(T.BAD)) p.fail(") or ,");
    if (!p.at(T.WORD)) {
      if (p.at(T.LPAREN)) p.skipParens();
      else if (p.dialect.syntax.freeTypes && p.at(T.NUMBER)) p.fail("a clause of the column or the constraint");
      else p.advance();
      continue;
    }
    switch (p.kw) {
      case K.CONSTRAINT:
        p.advance();
        // A named constraint; sqlite allows a name with nothing after it.
        name = p.at(T.QUOTED) || (p.at(T.WORD) && !isConstraintStart(p.kw)) ? p.anyIdent() : null;
        continue;
      case K.FIRST:
        p.advance();
        if (p.dialect.syntax.columnPlaces) node.place = "first";
        continue;
      case K.AFTER:
        p.advance();
        if (p.dialect.syntax.columnPlaces && (p.at(T.WORD) || p.at(T.QUOTED))) node.place = p.anyIdent();
        continue;
      case K.NOT:
        name = null;
        p.advance();
        // DEFAULT ON NULL takes a NULL, and puts the default in its place (plsql).
        if (p.accept(K.NULL)) node.required = !onNull;
        else if (!p.atEnd()) passClauseWord(p);
        continue;
      case K.NULL:
        p.advance();
        node.required ??= false;
        continue;
      case K.PRIMARY:
        p.advance();
        p.accept(K.KEY);
        node.primary = true;
        node.named.primary = takeName();
        continue;
      case K.UNIQUE:
        p.advance();
        p.accept(K.KEY);
        node.unique = true;
        node.named.unique = takeName();
        continue;
      case K.KEY:
        // mysql: KEY alone after a column is PRIMARY KEY
        p.advance();
        if (p.dialect.syntax.inlineKeys) node.primary = true;
        continue;
      case K.DEFAULT:
        p.advance();
        name = null;
        if (p.is(K.ON) && p.nextIs(K.NULL)) {
          onNull = true;
          p.seek(p.pos + 2);
        }
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
        node.named.references = takeName();
        continue;
      case K.CHECK:
        p.advance();
        if (p.at(T.LPAREN)) {
          p.advance();
          grow(node.checks, expression(p));
          node.named.checks.push(takeName());
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
        if (p.is(K.USING) && p.nextIs(K.INDEX)) passIndexAttributes(p);
        else passClauseWord(p);
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
function generated(p: Parser, node: Building<ColumnDefinition>): void {
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
  node.generatedKind = storage(p) ?? (p.dialect.syntax.storesGenerated ? "stored" : "virtual");
}

function storage(p: Parser): "stored" | "virtual" | null {
  if (p.accept(K.STORED) || p.accept(K.PERSISTED) || p.acceptText("PERSISTENT")) return "stored";
  if (p.accept(K.VIRTUAL)) return "virtual";
  return null;
}
