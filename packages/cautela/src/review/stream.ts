import type { ScriptOrigin } from "../analysis/script/origin.ts";
import { spanOf } from "../policy/freeze.ts";
import { ofScript } from "../policy/merged.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialectOf, isDialectId } from "../sql/dialects/index.ts";
import { type DialectGuess, guessDialect, HEAD } from "../sql/reading/guess.ts";
import { ScriptReader } from "../sql/reading/script.ts";
import { CautelaError } from "../text/cautela-error.ts";
import type { ReviewOptions } from "./options.ts";
import type { Review } from "./result.ts";
import { type Earlier, ReviewSession } from "./session.ts";
import { type SourceView, sourceView } from "./source-view.ts";

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
  readonly #earlier: Earlier | null;
  readonly #undo: boolean;
  #begun: { session: ReviewSession; reader: ScriptReader } | null = null;
  /** The pieces that wait until there is enough of them to tell the dialect. */
  #head = "";

  /**
   * @param earlier what {@link left} says of the script of the same change set that runs before it
   * @param undo whether it takes that one back
   */
  constructor(options: ReviewOptions = {}, earlier: Earlier | null = null, undo = false) {
    if (options.dialect !== undefined) dialectOf(options.dialect);
    if (options.date !== undefined && spanOf(options.date) === null)
      throw new CautelaError(`${options.date} is no date: it is written 2026-12-24, or 2026-12-24T17:30`);
    this.#options = options;
    this.#earlier = earlier;
    this.#undo = undo;
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
    const chosen = { dialect, dialectReason: reason, earlier: this.#earlier, undo: this.#undo };
    const session = new ReviewSession({ ...this.#options, ...chosen });
    return { session, reader: new ScriptReader(dialect) };
  }

  result(): Review {
    return this.#whole().result();
  }

  /** How the script leaves things for the next one of a change set; asked after its last piece, and before its result. */
  get left(): Earlier {
    return this.#whole().left;
  }

  /** Whether what the script leaves off may be put back by a later one; asked after its last piece. */
  get waits(): boolean {
    return this.#whole().waits;
  }

  /** Says what the script is to others, as far as that is known only now; asked for before its result. */
  stands(origin: Partial<ScriptOrigin>): void {
    this.#whole().stands(origin);
  }

  #whole(): ReviewSession {
    if (!this.#begun) this.push("", true);
    this.#begun ??= this.#begin("");
    return this.#begun.session;
  }
}

/** Which language a script is in: as asked for, as it says itself, as its catalog, or as it looks. */
export function scriptDialect(text: string, options: ReviewOptions): DialectGuess {
  const policy = ofScript(options.policy ?? {}, options.path ?? "");
  const said = options.dialect ?? declaredDialect(text) ?? policy.dialect ?? options.catalog?.dialect;
  return said === undefined ? guessDialect(text) : { dialect: said, reason: "" };
}

/** The dialect that a comment at the head of the script names. */
function declaredDialect(text: string): DialectId | null {
  const match = /(?:--|#|\/\*)[ \t]*cautela:[ \t]*dialect[ \t]+([a-z]+)/i.exec(text.slice(0, 4000));
  const id = match?.[1].toLowerCase();
  return id !== undefined && isDialectId(id) ? id : null;
}
