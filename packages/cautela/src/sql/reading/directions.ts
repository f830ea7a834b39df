import type { Dialect } from "../dialects/dialect.ts";
import { Lexer } from "../lexer/lexer.ts";

/** The two parts of a script, with their places as they are in the whole. */
export interface Directions {
  /** What is done. */
  up: string;
  /** What takes it back; what stands before it is blank. */
  down: string;
}

const UP = new Set(["up", "do"]);
const DOWN = new Set(["down", "undo", "rollback"]);

/** A comment that parts a script says no more than this, in words. */
const WORDS = 4;

/**
 * Parts a script that holds both what is done and what takes it back, under comments of a line each that say `up` and `down`:
 * `-- +harbour Up`, `-- changes:down`. Null where there are no such two, or where they change more than once.
 *
 * @example
 * directions("-- up\nCREATE TABLE a (b int);\n-- down\nDROP TABLE a;", dialect)?.down // "\n\n-- down\nDROP TABLE a;", with blanks
 */
export function directions(text: string, dialect: Dialect): Directions | null {
  let up = -1;
  let down = -1;
  for (const { direction, at } of marks(text)) {
    if (direction === "up") {
      if (down >= 0) return null;
      if (up < 0) up = at;
    } else {
      if (up < 0 || down >= 0) return null;
      down = at;
    }
  }
  if (down < 0 || isInToken(down, text, dialect)) return null;
  return { up: text.slice(0, down), down: text.slice(0, down).replace(/[^\r\n]/g, " ") + text.slice(down) };
}

function* marks(text: string): IterableIterator<{ direction: "up" | "down"; at: number }> {
  for (let at = 0; at < text.length; ) {
    const newline = text.indexOf("\n", at);
    const end = newline < 0 ? text.length : newline;
    // Most lines are no comment, and long ones no mark.
    if (end - at < 80) {
      const line = text.slice(at, end).trim();
      const comment = line.startsWith("--") ? line.slice(2) : line.startsWith("#") ? line.slice(1) : "";
      const direction = comment === "" ? null : directionOf(comment);
      if (direction !== null) yield { direction, at };
    }
    at = end + 1;
  }
}

function directionOf(comment: string): "up" | "down" | null {
  const words = comment
    .toLowerCase()
    .split(/[^a-z]+/)
    .filter((word) => word !== "");
  // SQL in a comment, and prose, are none.
  if (words.length === 0 || words.length > WORDS || comment.includes(";")) return null;
  for (const word of words.slice(0, 2)) {
    if (UP.has(word)) return "up";
    if (DOWN.has(word)) return "down";
  }
  return null;
}

/** Whether a place is within a string or another token, and so no comment. */
function isInToken(at: number, text: string, dialect: Dialect): boolean {
  const lexer = new Lexer(dialect);
  lexer.scan(text, 0, Number.POSITIVE_INFINITY, true);
  const { count, starts, ends } = lexer.tokens;
  for (let i = 0; i < count && starts[i] <= at; i++) if (ends[i] > at) return true;
  return false;
}
