import { hazards, rehearsalText, rehearse } from "cautela";
import { reviewExample, textReport } from "cautela/tools";

/** Reviews the examples of all hazards, so that most of what a review may need has been compiled. */
export function reviewExamples(): void {
  for (const hazard of hazards) {
    const result = reviewExample(hazard, "dangerous");
    textReport([result]);
    if (result.statements.length > 1) rehearsalText(rehearse(result));
  }
}
