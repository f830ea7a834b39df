import type { Hazard, Weight } from "../hazards/hazard.ts";
import type { ReviewedScript } from "../review/result.ts";
import { htmlReport } from "./html/page.tsx";
import { jsonReport } from "./json.ts";
import { junitReport } from "./junit.ts";
import { markdownReport } from "./markdown.ts";
import { sarifReport } from "./sarif.ts";
import { textReport } from "./text.ts";

/** The forms in which a review can be written out. */
export const REPORT_FORMATS = ["text", "json", "sarif", "junit", "markdown", "html"] as const;
export type ReportFormat = (typeof REPORT_FORMATS)[number];

export interface ReportOptions {
  /** Everything that was found, in full; the text is short otherwise. */
  full?: boolean;
  /** The weight from which a script has failed, in JUnit XML; `stop` if left out. */
  failOn?: Weight;
  /** A baseline was held against the reviews: SARIF says of each finding whether it is new. */
  baseline?: boolean;
  /** The version that SARIF names. */
  version?: string;
  /** The hazards that were looked for, where a team has its own. */
  hazards?: readonly Hazard[];
  /** The day in the names of copies, in the rehearsals of the HTML page: `20261224`. */
  date?: string;
}

/**
 * Writes reviews out: `text` for people, short unless `full` is asked for; `json` as described by `review.schema.json`; `sarif`
 * and `junit` for the programs that read those standards; `markdown` for a comment on a change; `html` as one page for itself.
 *
 * @example
 * report(reviewChangeSet(scripts, { catalog }), "sarif", { version: "1.4.0" })
 */
export function report(
  reviews: ReviewedScript | readonly ReviewedScript[],
  format: ReportFormat,
  options: ReportOptions = {},
): string {
  const list = "statements" in reviews ? [reviews] : reviews;
  switch (format) {
    case "text":
      return textReport(list, options);
    case "json":
      return jsonReport(list);
    case "sarif":
      return sarifReport(list, options);
    case "junit":
      return junitReport(list, options);
    case "markdown":
      return markdownReport(list);
    case "html":
      return htmlReport(list, options);
  }
}
