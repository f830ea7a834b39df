import { type Review, reviewDocument } from "../review/result.ts";
import { textReport } from "./text.ts";

/** The forms in which a review can be written out. */
export type ReportFormat = "text" | "json";

/**
 * Writes reviews out: `text` for people, `json` as described by `review.schema.json`. The text is short; `full` gives
 * everything that was found.
 */
export function report(
  reviews: Review | readonly Review[],
  format: ReportFormat,
  options: { full?: boolean } = {},
): string {
  const list = "statements" in reviews ? [reviews] : reviews;
  return format === "json" ? `${JSON.stringify(reviewDocument(list), null, 2)}\n` : textReport(list, options);
}
