import { type ReviewedScript, reviewDocument } from "../review/result.ts";

/** Reviews as JSON, as described by `review.schema.json`. */
export function jsonReport(reviews: readonly ReviewedScript[]): string {
  return `${JSON.stringify(reviewDocument(reviews), null, 2)}\n`;
}
