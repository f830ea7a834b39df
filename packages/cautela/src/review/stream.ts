import type { DialectId } from "../sql/dialects/dialect.ts";
import { isDialectId } from "../sql/dialects/index.ts";
import { type DialectGuess, guessDialect, HEAD } from "../sql/reading/guess.ts";
import { ScriptReader } from "../sql/reading/script.ts";
import { LineMap } from "../text/lines.ts";
import type { ReviewOptions } from "./options.ts";
import type { Review } from "./result.ts";
import { ReviewSession } from "./session.ts";
import type { SourceView } from "./statement-context.ts";

/**
 * Reviews a script that comes in pieces, with memory for the longest statement and not for the
 * script. Options are those of {@link review}.
 *
 * @example
 * const stream = new ReviewStream({ dialect: "mysql", keep: "found" });
 * for (const piece of pieces) stream.push(piece, false);
 * stream.push("", true);
 * stream.result().verdict
 */
export class ReviewStream {
  readonly #options: ReviewOptions;
  #begun: { session: ReviewSession; reader: ScriptReader } | null = null;
  /** The pieces that wait until there is enough of them to tell the dialect. */
  #head = "";

  constructor(options: ReviewOptions = {}) {
    this.#options = options;
  }

  /** Takes the next piece; `final` with the last one. */
  push(piece: string, final: boolean): void {
    let text = piece;
    if (!this.#begun) {
      text = this.#head + piece;
      this.#head = text;
      if (!final && text.length < HEAD && this.#options.dialect === undefined) return;
      this.#begun = this.#begin(text);
      this.#head = "";
    }
    const { session, reader } = this.#begun;
    let view: SourceView | null = null;
    reader.push(text, final, (statement) => {
      view ??= sourceView(reader);
      session.add(statement, view);
    });
    if (final && reader.trailing.length > 0) session.trail(reader.trailing, view ?? sourceView(reader));
  }

  /** The head of the script decides the dialect where nobody else has. */
  #begin(piece: string): { session: ReviewSession; reader: ScriptReader } {
    const { dialect, reason } = scriptDialect(piece, this.#options);
    const session = new ReviewSession({ ...this.#options, dialect, dialectReason: reason });
    return { session, reader: new ScriptReader(dialect) };
  }

  result(): Review {
    if (!this.#begun) this.push("", true);
    this.#begun ??= this.#begin("");
    return this.#begun.session.result();
  }
}

/** The text that a reader holds, and its places. */
function sourceView(reader: ScriptReader): SourceView {
  const { text, base, line } = reader.buffer;
  const lines = new LineMap(text, base, line);
  return { slice: (start, end) => text.slice(Math.max(0, start - base), end - base), lines };
}

/** Which language a script is in: as asked for, as it says itself, as its catalog, or as it looks. */
function scriptDialect(text: string, options: ReviewOptions): DialectGuess {
  const said = options.dialect ?? declaredDialect(text) ?? options.catalog?.dialect;
  return said === undefined ? guessDialect(text) : { dialect: said, reason: "" };
}

/** The dialect that a comment at the head of the script names. */
function declaredDialect(text: string): DialectId | null {
  const match = /(?:--|#|\/\*)[ \t]*cautela:[ \t]*dialect[ \t]+([a-z]+)/i.exec(text.slice(0, 4000));
  const id = match?.[1].toLowerCase();
  return id !== undefined && isDialectId(id) ? id : null;
}
