import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Parser } from "../reading/parser.ts";

/**
 * Takes the tokens of a routine's definition up to its end without a tree. The `;` inside a body
 * do not end it: BEGIN and CASE are counted against their END.
 */
export function skipRoutine(p: Parser): void {
  if (p.dialect.syntax.routineFillsBatch) {
    // A routine is the only statement of its batch.
    while (!p.at(T.EOF) && !p.at(T.BATCH)) p.advance();
    return;
  }
  let depth = 0;
  let began = false;
  for (;;) {
    switch (p.kind) {
      case T.EOF:
      case T.DELIMITER:
      case T.BATCH:
        return;
      case T.BAD:
        p.fail("the end of the body");
        break;
      case T.SEMICOLON:
        if (depth === 0 && (began || !p.dialect.syntax.declaresBeforeBegin)) return;
        break;
      case T.WORD:
        if (p.marked(K.BEGIN) || p.marked(K.CASE)) {
          depth++;
          began = true;
        } else if (p.marked(K.END)) {
          if (p.nextIs(K.IF) || p.nextIs(K.LOOP) || p.nextIs(K.WHILE) || p.nextIs(K.REPEAT) || p.nextIs(K.FOR))
            p.advance();
          else {
            if (depth > 0) depth--;
            if (p.nextIs(K.CASE)) p.advance();
          }
        }
        break;
      default:
    }
    p.advance();
  }
}
