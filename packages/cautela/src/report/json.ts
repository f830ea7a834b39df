import { type ReviewedScript, reviewDocument } from "../review/result.ts";

/** Reviews as JSON, as described by `review.schema.json`. */
export function jsonReport(reviews: readonly ReviewedScript[]): string {
  return [...jsonPieces(reviews)].join("");
}

/** The same script by script: all of it may be longer than a string can be. */
export function* jsonPieces(reviews: readonly ReviewedScript[]): IterableIterator<string> {
  const { format, version, verdict } = reviewDocument(reviews);
  const end = "]\n}";
  yield JSON.stringify({ format, version, verdict, scripts: [] }, null, 2).slice(0, -end.length);
  for (const [i, review] of reviews.entries()) {
    const script = JSON.stringify(reviewDocument([review]).scripts, null, 2).slice("[\n".length, -"\n]".length);
    // It stands a step deeper there than alone.
    yield `${i === 0 ? "" : ","}\n  ${script.replaceAll("\n", "\n  ")}`;
  }
  yield `${reviews.length === 0 ? "" : "\n  "}${end}\n`;
}
