import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, TransactionStatement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { startsNext } from "./statement-end.ts";

/** Words of a transaction; null when they mean something else in this dialect. */
export function transaction(p: Parser): TransactionStatement | null {
  const start = p.start;
  const node: Building<TransactionStatement> = { kind: "transaction", action: "begin", name: null, start, end: start };

  switch (p.kw) {
    case K.BEGIN: {
      if (p.dialect.syntax.anonymousBlocks || p.dialect.syntax.beginNeedsWord) {
        if (p.dialect.syntax.anonymousBlocks || !(p.nextIs(K.TRANSACTION) || p.peekKind(1) !== T.WORD)) return null;
      }
      if (
        p.dialect.syntax.namedTransactions &&
        !p.nextIs(K.TRAN) &&
        !p.nextIs(K.TRANSACTION) &&
        !/^distributed$/i.test(p.wordAhead(1))
      )
        return null;
      p.advance();
      p.acceptText("DISTRIBUTED");
      break;
    }
    case K.START:
      if (!p.nextIs(K.TRANSACTION)) return null;
      p.advance();
      break;
    case K.COMMIT:
    case K.END:
      if (p.marked(K.END) && !p.dialect.syntax.endCommits) return null;
      node.action = "commit";
      p.advance();
      if (p.is(K.PREPARED)) p.advance();
      break;
    case K.ROLLBACK:
    case K.ABORT: {
      if (p.marked(K.ABORT) && !p.dialect.syntax.abort) return null;
      node.action = "rollback";
      p.advance();
      if (!p.accept(K.TRANSACTION) && !p.accept(K.TRAN)) p.accept(K.WORK);
      if (p.accept(K.TO)) {
        node.action = "rollback-to";
        p.accept(K.SAVEPOINT);
        node.name = p.label("a savepoint");
      } else if (p.is(K.PREPARED)) p.advance();
      // ROLLBACK TRAN name: of the transaction, or to a savepoint of that name.
      else if (
        p.dialect.syntax.namedTransactions &&
        p.at(T.WORD) &&
        (p.marked(K.NONE) || (!p.firstOnLine() && !p.is(K.END) && !p.is(K.ELSE) && !startsNext(p)))
      )
        node.name = p.label("a savepoint");
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
      if (!p.dialect.syntax.namedTransactions) return null;
      node.action = "savepoint";
      p.advance();
      if (!p.accept(K.TRAN)) p.expect(K.TRANSACTION);
      node.name = p.label("a savepoint");
      break;
    default:
      return null;
  }
  if (node.name === null && (p.accept(K.TRANSACTION) || p.accept(K.TRAN))) {
    // The name may stand on the next line: no statement begins with a word that means nothing.
    if (p.dialect.syntax.namedTransactions && p.at(T.WORD) && p.marked(K.NONE)) p.advance();
  } else if (node.name === null) p.accept(K.WORK);
  // Isolation levels, CHAIN, names: nothing in them changes what follows here.
  while (!p.atEnd()) {
    if (p.dialect.grammar.bareStatements && (p.firstOnLine() || p.is(K.END) || p.is(K.ELSE) || startsNext(p))) break;
    if (p.at(T.BAD)) p.fail("the end of the statement");
    p.advance();
  }
  node.end = p.previousEnd;
  return node;
}
