import { sha256 } from "@noble/hashes/sha2.js";
import { utf8ToBytes } from "@noble/hashes/utils.js";
import { renderToStaticMarkup } from "preact-render-to-string";
import type { Review, ReviewedScript } from "../../review/result.ts";
import { counted } from "../layout.ts";
import { type ReportedScript, withDetails } from "../reported.ts";
import { scriptName, totalsOf, VERDICT_WORDS } from "../totals.ts";
import { Patterns, WeightMark } from "./marks.tsx";
import { ScriptSection, ScriptTable } from "./script.tsx";
import { STYLE } from "./style.ts";

/** Statements that the whole page shows in full; a page that no browser can open helps nobody. */
const STATEMENTS = 1500;

/**
 * Reviews as one HTML page for itself: it loads nothing, runs nothing, and everything that comes from a script is text. Its
 * content security policy allows its own style and nothing else.
 *
 * @example
 * writeFileSync("review.html", htmlReport(reviewChangeSet(scripts, { catalog }), { date: "20261224" }))
 */
export function htmlReport(
  reviews: readonly (ReviewedScript | ReportedScript | Review)[],
  options: { date?: string } = {},
): string {
  const { verdict, known, accepted, unchecked, statements, ...counts } = totalsOf(reviews);
  let left = STATEMENTS;
  const sections = reviews.map((review, i) => {
    const room = left;
    left -= Math.min(room, review.statements.length);
    return <ScriptSection script={withDetails(review, options.date)} number={i + 1} most={room} />;
  });
  const title = reviews.length === 1 ? scriptName(reviews[0]) : counted(reviews.length, "script");
  const page = (
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta http-equiv="Content-Security-Policy" content={contentPolicy()} />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="referrer" content="no-referrer" />
        <title>{`Review: ${title}`}</title>
        <style>{STYLE}</style>
      </head>
      <body>
        <Patterns />
        <h1>
          <WeightMark weight={verdict} size={24} />
          <span>{VERDICT_WORDS[verdict]}</span>
        </h1>
        <p class="counts">
          <span>
            {title}, {counted(statements, "statement")}
          </span>
          {(["stop", "ask", "note"] as const)
            .filter((weight) => counts[weight] > 0)
            .map((weight) => (
              <span>
                <WeightMark weight={weight} /> {counts[weight]} {weight}
              </span>
            ))}
          {accepted > 0 && <span>{accepted} accepted</span>}
          {known > 0 && <span>{known} in the baseline</span>}
          {unchecked > 0 && <span>{unchecked} unchecked</span>}
        </p>
        {reviews.length > 1 && <ScriptTable scripts={reviews} />}
        {sections}
        <footer>
          Reviewed by Cautela without running anything. Reach is the share of a table that a statement touches; hatched:
          only the data can tell.
        </footer>
      </body>
    </html>
  );
  return `<!doctype html>\n${renderToStaticMarkup(page)}\n`;
}

/** The style is allowed by what it holds, so that no other can be brought in. */
function contentPolicy(): string {
  const hash = btoa(String.fromCharCode(...sha256(utf8ToBytes(STYLE))));
  return `default-src 'none'; style-src 'sha256-${hash}'; base-uri 'none'; form-action 'none'`;
}
