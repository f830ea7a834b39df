import { K } from "../lexer/keywords.ts";
import type { Parser } from "../reading/parser.ts";

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
