import XMLBuilder from "fast-xml-builder";
import type { Weight } from "../hazards/hazard.ts";
import { type Finding, heaviestFirst, isAtLeast, type ReviewedScript } from "../review/result.ts";
import { answerText, placesText, scriptName } from "./totals.ts";

/**
 * Reviews as JUnit XML, which pipelines show as test results: a test case for each script. It fails with what is at or above a
 * weight; what is lighter, accepted or not judged stands in its output.
 */
export function junitReport(reviews: readonly ReviewedScript[], options: { failOn?: Weight } = {}): string {
  const failOn = options.failOn ?? "stop";
  const cases = reviews.map((review) => testCase(review, failOn));
  const failures = cases.filter(({ failure }) => failure.length > 0).length;
  const counts = { "@_tests": reviews.length, "@_failures": failures, "@_errors": 0, "@_skipped": 0, "@_time": 0 };
  const document = {
    "?xml": { "@_version": "1.0", "@_encoding": "UTF-8" },
    testsuites: {
      "@_name": "Cautela",
      ...counts,
      testsuite: [{ "@_name": "review of change scripts", ...counts, testcase: cases }],
    },
  };
  const xml: string = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true }).build(
    document,
  );
  return xml.endsWith("\n") ? xml : `${xml}\n`;
}

interface TestCase {
  "@_classname": string;
  "@_name": string;
  "@_file": string;
  "@_time": number;
  failure: { "@_type": string; "@_message": string; "#text": string }[];
  "system-out"?: string;
}

function testCase(review: ReviewedScript, failOn: Weight): TestCase {
  const path = review.path === "" ? "script" : review.path;
  const slash = Math.max(path.lastIndexOf("/"), path.lastIndexOf("\\"));
  const open = heaviestFirst(review.findings.filter(({ accepted }) => accepted === null));
  const failing = open.filter(({ weight }) => isAtLeast(weight, failOn));
  const rest = [
    ...open.filter(({ weight }) => !isAtLeast(weight, failOn)).map(line),
    ...review.findings
      .filter(({ accepted }) => accepted !== null)
      .map((one) => `${line(one)} Accepted: ${one.accepted}`),
    ...review.answers.map((answer) => `line ${answer.line} ${answerText(answer)}`),
    ...review.unchecked.map(({ missing, lines }) => `not judged: ${missing} (line ${lines[0]})`),
    ...(review.known.length > 0 ? [`${review.known.length} stand in the baseline`] : []),
  ];
  return {
    "@_classname": slash > 0 ? printable(path.slice(0, slash)) : "scripts",
    "@_name": printable(scriptName(review).slice(slash + 1)),
    "@_file": printable(path),
    "@_time": 0,
    failure: failing.map((finding) => ({
      "@_type": finding.hazard,
      "@_message": printable(finding.message),
      "#text": printable(details(finding)),
    })),
    ...(rest.length > 0 ? { "system-out": printable(rest.join("\n")) } : {}),
  };
}

function line(finding: Finding): string {
  const more = finding.places.length > 0 ? ` (also on ${placesText(finding)})` : "";
  return `${finding.weight} ${finding.hazard}, line ${finding.line}${more}: ${finding.message}`;
}

function details(finding: Finding): string {
  const { because, remedy } = finding;
  return [
    line(finding),
    ...because.map((one) => `because ${one}`),
    ...(remedy === "" ? [] : [`instead: ${remedy}`]),
  ].join("\n");
}

/** What XML 1.0 can hold: control characters and halves of pairs have no place in it, escaped or not. */
function printable(text: string): string {
  return text.replace(/[\p{Surrogate}\ufffe\uffff]|[^\P{Control}\t\n\r]/gu, "\ufffd");
}
