import { catalogFromDdl, hazards, rehearsalText, rehearse, report, review } from "cautela";

/** Reviews the examples of all hazards, so that most of what a review may need has been compiled. */
export function reviewExamples(): void {
  for (const { example } of hazards) {
    const { dialect, ddl } = example;
    const result = review(example.dangerous, { dialect, catalog: catalogFromDdl(ddl, { dialect }) });
    report(result, "text");
    if (result.statements.length > 1) rehearsalText(rehearse(result));
  }
}
