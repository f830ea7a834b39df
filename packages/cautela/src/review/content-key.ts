import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import type { Dialect } from "../sql/dialects/dialect.ts";
import { Lexer } from "../sql/lexer/lexer.ts";

/**
 * The key of a statement's content: the same for the same words, wherever the statement stands, however it is laid out and
 * commented; another one where a word, a name or a value is another. 32 hexadecimal digits of SHA-256.
 *
 * @example
 * contentKey("DELETE FROM berth -- all", dialect) === contentKey("DELETE\n  FROM berth", dialect)
 */
export function contentKey(text: string, dialect: Dialect): string {
  const lexer = new Lexer(dialect);
  lexer.scan(text, 0, Number.POSITIVE_INFINITY, true);
  const { count, starts, ends } = lexer.tokens;
  const words: string[] = [];
  for (let i = 0; i < count; i++) words.push(text.slice(starts[i], ends[i]));
  return bytesToHex(sha256(utf8ToBytes(words.join("\n")))).slice(0, 32);
}
