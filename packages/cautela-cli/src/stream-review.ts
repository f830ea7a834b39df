import { closeSync, openSync, readSync } from "node:fs";
import { StringDecoder } from "node:string_decoder";
import { type Review, type ReviewOptions, ReviewStream } from "cautela";

/** Files larger than this are reviewed piece by piece. */
export const STREAM_FROM = 16 * 1024 * 1024;

const PIECE = 1024 * 1024;

/**
 * Reviews a file of any size with bounded memory. It is read twice: once to learn whether its bytes
 * are UTF-8 (with a word about it where they are not, and Latin-1 taken instead), once for the review.
 */
export function streamReview(path: string, options: ReviewOptions, say: (line: string) => void): Review {
  const encoding = encodingOf(path);
  if (encoding === "latin1") say(`cautela: ${path}: not all of it is UTF-8; the file is read as Latin-1`);
  const stream = new ReviewStream(options);
  const decoder = new StringDecoder(encoding);
  let first = true;
  for (const bytes of pieces(path)) {
    let piece = decoder.write(bytes);
    if (first && piece.charCodeAt(0) === 0xfeff) piece = piece.slice(1);
    first = false;
    stream.push(piece, false);
  }
  stream.push(decoder.end(), true);
  return stream.result();
}

function encodingOf(path: string): "utf8" | "utf16le" | "latin1" {
  const strict = new TextDecoder("utf-8", { fatal: true });
  let first = true;
  try {
    for (const bytes of pieces(path)) {
      if (first && bytes[0] === 0xff && bytes[1] === 0xfe) return "utf16le";
      first = false;
      strict.decode(bytes, { stream: true });
    }
    strict.decode();
    return "utf8";
  } catch (error) {
    if (error instanceof TypeError) return "latin1";
    throw error;
  }
}

function* pieces(path: string): IterableIterator<Buffer> {
  const bytes = Buffer.alloc(PIECE);
  const file = openSync(path, "r");
  try {
    for (let count = readSync(file, bytes); count > 0; count = readSync(file, bytes)) yield bytes.subarray(0, count);
  } finally {
    closeSync(file);
  }
}
