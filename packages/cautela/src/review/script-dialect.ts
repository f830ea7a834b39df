import { ofScript } from "../policy/merged.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { isDialectId } from "../sql/dialects/index.ts";
import { type DialectGuess, guessDialect, reads } from "../sql/reading/guess.ts";
import { pathDialect } from "../sql/reading/path-dialect.ts";
import type { ReviewOptions } from "./options.ts";

/** Which language a script is in: as asked for, as it says itself, as its catalog, as its path says, or as it looks. */
export function scriptDialect(text: string, options: ReviewOptions): DialectGuess {
  const known = knownDialect(text, options);
  if (known !== null) return { dialect: known, reason: "" };
  const guess = guessDialect(text);
  const named = pathDialect(options.path ?? "");
  if (!named || !reads(text, named.dialect)) return guess;
  // What the script itself shows counts more than a folder far away.
  const isNamed = guess.reason === "" || (named.near && named.dialect !== guess.dialect);
  return isNamed ? { dialect: named.dialect, reason: named.reason } : guess;
}

/** The language that somebody says; null: it must be guessed. */
export function knownDialect(text: string, options: ReviewOptions): DialectId | null {
  const policy = ofScript(options.policy ?? {}, options.path ?? "");
  return options.dialect ?? declaredDialect(text) ?? policy.dialect ?? options.catalog?.dialect ?? null;
}

/** The dialect that a comment at the head of the script names. */
function declaredDialect(text: string): DialectId | null {
  const match = /(?:--|#|\/\*)[ \t]*cautela:[ \t]*dialect[ \t]+([a-z]+)/i.exec(text.slice(0, 4000));
  const id = match?.[1].toLowerCase();
  return id !== undefined && isDialectId(id) ? id : null;
}
