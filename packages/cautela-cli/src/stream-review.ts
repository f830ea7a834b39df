import { closeSync, openSync, readSync } from "node:fs";
import { StringDecoder } from "node:string_decoder";
import { type Review, type ReviewOptions, ReviewStream } from "cautela";

/** Files larger than this are reviewed piece by piece. */
export const STREAM_FROM = 16 * 1024 * 1024;

const PIECE = 1024 * 1024;

/**
 * Reviews a file of any size with bounded memory. The file is read as UTF-8; bytes that are none
 * become the replacement character, since the whole file cannot be looked at first.
 */
export function streamReview(path: string, options: ReviewOptions): Review {
  const stream = new ReviewStream(options);
  const decoder = new StringDecoder("utf8");
  const bytes = Buffer.alloc(PIECE);
  const file = openSync(path, "r");
  try {
    let first = true;
    for (let count = readSync(file, bytes); count > 0; count = readSync(file, bytes)) {
      let piece = decoder.write(bytes.subarray(0, count));
      if (first && piece.charCodeAt(0) === 0xfeff) piece = piece.slice(1);
      first = false;
      stream.push(piece, false);
    }
  } finally {
    closeSync(file);
  }
  stream.push(decoder.end(), true);
  return stream.result();
}
