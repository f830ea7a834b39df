import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Parser } from "../reading/parser.ts";

// Where a statement ends that is not followed to its last word, and where one begins without a terminator before it.

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
 * Whether the next statement begins here, on whatever line, in a language whose statements need no terminators: every word
 * that begins one does, unless it goes on with what stands before it (`ON DELETE`, `FOR UPDATE`, `GRANT SELECT, INSERT`,
 * `DROP COLUMN IF EXISTS a`).
 */
export function statementBegins(p: Parser): boolean {
  if (p.inSchema && (p.is(K.CREATE) || p.is(K.GRANT))) return true;
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
