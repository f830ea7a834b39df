import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Expr, IntoTarget } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { operand } from "./expression.ts";

/** SELECT … INTO; the current token is INTO. */
export function intoTarget(p: Parser): IntoTarget {
  const start = p.start;
  p.advance();
  if (p.is(K.OUTFILE) || p.is(K.DUMPFILE)) {
    p.advance();
    p.advance();
    // CHARACTER SET, FIELDS …, LINES …: options of the file.
    while (!p.atEnd() && !p.is(K.FROM) && !p.at(T.RPAREN) && !p.is(K.WHERE) && !p.is(K.FOR) && !p.is(K.LOCK))
      p.advance();
    return { what: "file", temporary: false, targets: [], start, end: p.previousEnd };
  }
  if (p.is(K.STRICT)) p.advance();
  let temporary = false;
  if (p.accept(K.LOCAL) || p.accept(K.GLOBAL)) temporary = true;
  // SELECT code INTO temp FROM berth: a table of that name.
  if (!p.nextIs(K.FROM) && (p.accept(K.TEMPORARY) || p.accept(K.TEMP))) temporary = true;
  p.accept(K.UNLOGGED);
  if (p.is(K.TABLE)) p.advance();
  const targets: Expr[] = [];
  do targets.push(intoItem(p));
  while (p.acceptKind(T.COMMA));
  // Which of the two it is cannot be told from `INTO total` alone: in a routine it is a variable.
  const creates =
    p.dialect.syntax.intoMakesTable && targets.length === 1 && targets[0].kind === "column" && p.inRoutine === 0;
  const name = creates && targets[0].kind === "column" ? targets[0].path[targets[0].path.length - 1].text : "";
  return {
    what: creates || (p.dialect.syntax.intoIsTable && targets[0].kind === "column") ? "table" : "variables",
    temporary: temporary || name.startsWith("#"),
    targets,
    start,
    end: p.previousEnd,
  };
}

function intoItem(p: Parser): Expr {
  if (p.at(T.HOLE) || p.at(T.VARIABLE)) return operand(p);
  const name = p.name("a table or a variable");
  let end = name.end;
  // A collection's element, a record's field.
  while (p.at(T.LPAREN) || p.at(T.LBRACKET)) {
    if (p.at(T.LPAREN)) p.skipParens();
    else {
      while (!p.acceptKind(T.RBRACKET)) {
        if (p.at(T.EOF)) p.fail("]");
        p.advance();
      }
    }
    while (p.acceptKind(T.DOT)) p.label("a field");
    end = p.previousEnd;
  }
  // INTO TABLE IN 'other.mdb' (jet)
  if (p.is(K.IN) && p.dialect.syntax.otherFiles) {
    p.advance();
    p.advance();
  }
  return { kind: "column", path: name.parts, outer: false, start: name.start, end };
}
