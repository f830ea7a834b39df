import type { Hazard, Weight } from "../hazards/hazard.ts";
import { hazards } from "../hazards/register.ts";
import { Occurrences } from "../review/baseline.ts";
import type { Finding, ReviewedScript } from "../review/result.ts";
import type { Region } from "../text/region.ts";
import { answerText, hazardPage } from "./totals.ts";

const LEVELS: Readonly<Record<Weight, "error" | "warning" | "note">> = { stop: "error", ask: "warning", note: "note" };

/**
 * Reviews as SARIF 2.1.0, the OASIS standard for results of static analysis. A hazard is a rule; `stop` is an error, `ask` a
 * warning. What a comment accepts and what a baseline holds is there and suppressed; what could not be judged is a notification.
 * Fingerprints stay the same when a statement is moved or laid out anew.
 *
 * @see https://docs.oasis-open.org/sarif/sarif/v2.1.0/sarif-v2.1.0.html
 */
export function sarifReport(
  reviews: readonly ReviewedScript[],
  options: { version?: string; baseline?: boolean; hazards?: readonly Hazard[] } = {},
): string {
  const rules = usedRules(reviews, options.hazards ?? hazards);
  const indexes = new Map(rules.map(({ id }, i) => [id, i]));
  const occurrences = new Occurrences();
  const results: unknown[] = [];
  reviews.forEach((review, i) => {
    for (const [list, known] of [
      [review.findings, false],
      [review.known, true],
    ] as const)
      for (const finding of list) {
        const content = review.contents.get(finding.statement) ?? "";
        const nth = occurrences.next(finding.hazard, content);
        results.push({
          ruleId: finding.hazard,
          ...(indexes.has(finding.hazard) ? { ruleIndex: indexes.get(finding.hazard) } : {}),
          level: LEVELS[finding.weight],
          message: { text: messageOf(finding) },
          locations: [location(review, i, finding)],
          ...relatedTo(finding, review, i),
          partialFingerprints: { "statementContent/v1": `${finding.hazard}:${content}:${nth}` },
          ...(options.baseline ? { baselineState: known ? "unchanged" : "new" } : {}),
          suppressions: suppressionsOf(finding, known),
          ...fixOf(finding, review, i),
        });
      }
  });
  const log = {
    $schema: "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json",
    version: "2.1.0",
    runs: [
      {
        tool: {
          driver: {
            name: "Cautela",
            ...(options.version === undefined ? {} : { semanticVersion: options.version }),
            informationUri: "https://cautela.example/",
            rules: rules.map(ruleOf),
          },
        },
        columnKind: "utf16CodeUnits",
        artifacts: reviews.map(({ path, statementCount, dialect, answers }) => ({
          location: { uri: uriOf(path) },
          sourceLanguage: "sql",
          properties: {
            dialect,
            statements: statementCount,
            ...(answers.length > 0 ? { answers: answers.map((one) => `line ${one.line} ${answerText(one)}`) } : {}),
          },
        })),
        invocations: [{ executionSuccessful: true, toolExecutionNotifications: reviews.flatMap(notificationsOf) }],
        results,
      },
    ],
  };
  return `${JSON.stringify(log, null, 2)}\n`;
}

/** The hazards that were found, in the order of the register; those of a team's own come last. */
function usedRules(reviews: readonly ReviewedScript[], known: readonly Hazard[]): Hazard[] {
  const ids = new Set(
    reviews.flatMap(({ findings, known: held }) => [...findings, ...held].map(({ hazard }) => hazard)),
  );
  return known.filter(({ id }) => ids.has(id));
}

function ruleOf({ id, title, explanation, remedy, weight, family, example }: Hazard): unknown {
  const text = `${explanation}\n\nWhat to do: ${remedy}`;
  return {
    id,
    name: id.replace(/(?:^|-)([a-z])/g, (_, letter: string) => letter.toUpperCase()),
    shortDescription: { text: title },
    fullDescription: { text: explanation },
    help: {
      text,
      markdown: `${explanation}\n\n**What to do:** ${remedy}\n\n\`\`\`sql\n${example.dangerous}\n\`\`\`\n\n[The page of this hazard](${hazardPage(id)})`,
    },
    helpUri: hazardPage(id),
    defaultConfiguration: { level: LEVELS[weight] },
    properties: { family },
  };
}

/** The message with its reasons: a review page shows nothing else. */
function messageOf({ message, because, remedy, accepted }: Finding): string {
  const reasons = because.map((reason) => `\n- ${reason}`).join("");
  const instead = remedy === "" || accepted !== null ? "" : `\n\nInstead: ${remedy}`;
  return `${message}${reasons === "" ? "" : `\n${reasons}`}${instead}`;
}

function location({ path }: ReviewedScript, index: number, region: Region): object {
  return { physicalLocation: { artifactLocation: { uri: uriOf(path), index }, region: regionOf(region) } };
}

function relatedTo({ places }: Finding, review: ReviewedScript, index: number): object {
  if (places.length === 0) return {};
  return {
    relatedLocations: places.map((place, i) => ({
      id: i + 1,
      ...location(review, index, place),
      message: { text: "the same is found here" },
    })),
  };
}

function regionOf({ line, column, endLine, endColumn }: Region): object {
  return { startLine: line, startColumn: column, endLine, endColumn };
}

function suppressionsOf({ accepted }: Finding, known: boolean): object[] {
  if (accepted !== null) return [{ kind: "inSource", justification: accepted }];
  return known ? [{ kind: "external", justification: "it stands in the baseline" }] : [];
}

function fixOf({ fix }: Finding, { path }: ReviewedScript, index: number): object {
  if (!fix) return {};
  const replacements = fix.edits.map((edit) => ({
    deletedRegion: regionOf(edit),
    insertedContent: { text: edit.text },
  }));
  return {
    fixes: [
      {
        description: { text: fix.title },
        artifactChanges: [{ artifactLocation: { uri: uriOf(path), index }, replacements }],
      },
    ],
  };
}

function notificationsOf(review: ReviewedScript, index: number): object[] {
  return review.unchecked.map(({ missing, lines }) => ({
    level: "note",
    message: { text: `not judged: ${missing}` },
    locations: [
      {
        physicalLocation: {
          artifactLocation: { uri: uriOf(review.path), index },
          region: { startLine: lines[0] ?? 1 },
        },
      },
    ],
  }));
}

/** A path as a URI: relative as it is, absolute as a file's. */
function uriOf(path: string): string {
  const steps = path.replaceAll("\\", "/");
  const encoded = steps.split("/").map(encodeURIComponent).join("/");
  if (/^[A-Za-z]:\//.test(steps)) return `file:///${steps[0]}:${encoded.slice(encoded.indexOf("/"))}`;
  return steps.startsWith("/") ? `file://${encoded}` : encoded;
}
