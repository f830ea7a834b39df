import { closeSync, openSync, readSync } from "node:fs";
import { StringDecoder } from "node:string_decoder";
import { type Review, type ReviewOptions, ReviewStream, reviewChangeSet } from "cautela";
import { decodeText } from "cautela/tools";
import { incoming } from "./files.ts";

/** Files larger than this are reviewed piece by piece. */
export const STREAM_FROM = 16 * 1024 * 1024;

const PIECE = 1024 * 1024;

/**
 * Reviews a file of any size with bounded memory. It is read twice: once to learn whether its bytes
 * are UTF-8 (with a word about it where they are not, and Latin-1 taken instead), once for the review.
 */
export function streamReview(path: string, options: ReviewOptions, say: (line: string) => void): Review {
  const encoding = encodingOf(pieces(path), true);
  if (encoding === "latin1") say(`${path}: not all of it is UTF-8; the file is read as Latin-1`);
  const text = new PieceReview(options, encoding);
  for (const bytes of pieces(path)) text.push(bytes);
  return text.result();
}

/**
 * Reviews what comes from standard input or a pipe, which can be read only once: whole where it is short, else piece by
 * piece as it comes. Its beginning decides what its bytes are.
 */
export async function pipedReview(
  path: string,
  options: ReviewOptions,
  say: (line: string) => void,
): Promise<Review[]> {
  const shown = path === "-" ? "standard input" : path;
  const head: Uint8Array[] = [];
  let size = 0;
  let text: PieceReview | null = null;
  for await (const bytes of incoming(path)) {
    if (text) {
      text.push(bytes);
      continue;
    }
    head.push(bytes);
    size += bytes.length;
    if (size <= STREAM_FROM) continue;
    const encoding = encodingOf(head, false);
    if (encoding === "latin1") say(`${shown}: not all of it is UTF-8; it is read as Latin-1`);
    text = new PieceReview(options, encoding);
    for (const one of head.splice(0)) text.push(one);
  }
  if (!text) {
    const { text: whole, invalidLine } = decodeText(Buffer.concat(head));
    if (invalidLine !== null) say(`${shown}: line ${invalidLine} is not UTF-8; the file is read as Latin-1`);
    const { catalog, date, ...script } = options;
    return reviewChangeSet([{ ...script, text: whole }], { catalog, date });
  }
  const result = text.result();
  if (text.damaged) say(`${shown}: what is not UTF-8 in it was read as �`);
  return [result];
}

type Encoding = "utf8" | "utf16le" | "latin1";

/** A review that is given the bytes of a script piece by piece. */
class PieceReview {
  readonly #stream: ReviewStream;
  readonly #decoder: StringDecoder;
  #begun = false;
  #damaged = false;

  constructor(options: ReviewOptions, encoding: Encoding) {
    this.#stream = new ReviewStream(options);
    this.#decoder = new StringDecoder(encoding);
  }

  /** Bytes were met that the encoding does not have. */
  get damaged(): boolean {
    return this.#damaged;
  }

  push(bytes: Uint8Array): void {
    const piece = this.#decoder.write(bytes);
    const marked = !this.#begun && piece.charCodeAt(0) === 0xfeff;
    this.#begun ||= piece.length > 0;
    this.#take(marked ? piece.slice(1) : piece, false);
  }

  result(): Review {
    this.#take(this.#decoder.end(), true);
    return this.#stream.result();
  }

  #take(piece: string, final: boolean): void {
    if (!this.#damaged && piece.includes("\ufffd")) this.#damaged = true;
    this.#stream.push(piece, final);
  }
}

/** What bytes are that come in pieces; where they are not the `whole` text, the last may end within a character. */
function encodingOf(list: Iterable<Uint8Array>, whole: boolean): Encoding {
  const strict = new TextDecoder("utf-8", { fatal: true });
  let first = true;
  try {
    for (const bytes of list) {
      if (first && bytes[0] === 0xff && bytes[1] === 0xfe) return "utf16le";
      first = false;
      strict.decode(bytes, { stream: true });
    }
    if (whole) strict.decode();
    return "utf8";
  } catch (error) {
    if (error instanceof TypeError) return "latin1";
    throw error;
  }
}

function* pieces(path: string): IterableIterator<Uint8Array> {
  const bytes = Buffer.alloc(PIECE);
  const file = openSync(path, "r");
  try {
    for (let count = readSync(file, bytes); count > 0; count = readSync(file, bytes)) yield bytes.subarray(0, count);
  } finally {
    closeSync(file);
  }
}
