import type { ScriptOrigin } from "../analysis/script/origin.ts";
import { spanOf } from "../policy/freeze.ts";
import { dialectOf } from "../sql/dialects/index.ts";
import { type DialectGuess, HEAD } from "../sql/reading/guess.ts";
import { ScriptReader } from "../sql/reading/script.ts";
import { CautelaError } from "../text/cautela-error.ts";
import type { ReviewOptions } from "./options.ts";
import type { Review } from "./result.ts";
import { scriptDialect } from "./script-dialect.ts";
import { type Earlier, type Made, ReviewSession } from "./session.ts";
import { type SourceView, sourceView } from "./source-view.ts";

/** Where a script stands in a change set. */
export interface SetPlace {
  /** What `left` says of the script that runs before it. */
  earlier?: Earlier | null;
  /** It takes that one back. */
  undo?: boolean;
  /** Its language, as the set tells it. */
  guess?: DialectGuess;
}

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
  readonly #place: SetPlace;
  #begun: { session: ReviewSession; reader: ScriptReader } | null = null;
  /** The pieces that wait until there is enough of them to tell the dialect. */
  #head = "";

  /** @param place where it stands in a change set */
  constructor(options: ReviewOptions = {}, place: SetPlace = {}) {
    if (options.dialect !== undefined) dialectOf(options.dialect);
    if (options.date !== undefined && spanOf(options.date) === null)
      throw new CautelaError(`${options.date} is no date: it is written 2026-12-24, or 2026-12-24T17:30`);
    this.#options = options;
    this.#place = place;
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
    const { earlier = null, undo = false, guess } = this.#place;
    const { dialect, reason } = guess ?? scriptDialect(piece, this.#options);
    const chosen = { dialect, dialectReason: reason, earlier, undo };
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

  /** What it makes; asked after its last piece. */
  get made(): Readonly<Made> {
    return this.#whole().made;
  }

  /** Says of the whole script what could not be judged; before its result. */
  lacks(missing: string, hazards: string[]): void {
    this.#whole().lacks(missing, hazards);
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
