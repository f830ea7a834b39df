import { schemaProblem } from "../schemas/schema-problem.ts";
import { CautelaError } from "../text/cautela-error.ts";
import { type Finding, heavier, type Place, type ReviewedScript, type Verdict } from "./result.ts";

/**
 * The findings that a team has taken over with scripts that are there, version 1 of the format `cautela.baseline`
 * (`baseline.schema.json`). They are known by content: the hazard, and the words of the statement without blanks and comments.
 */
export interface Baseline {
  format: "cautela.baseline";
  version: 1;
  findings: BaselineEntry[];
}

/** A finding of a baseline. */
export interface BaselineEntry {
  hazard: string;
  /** The key of the statement's content, see `contentKey`. */
  content: string;
  /** The how manieth of its kind it is, from 1: the same statement may stand there several times. */
  occurrence: number;
  /** Where it was found, for people: it does not count. */
  path: string;
  line: number;
  message: string;
}

/** Reviews held against a baseline. */
export interface Compared<Script extends ReviewedScript> {
  /** The reviews with what is new; what the baseline holds is in their `known`. */
  reviews: Script[];
  /** What the baseline holds and was not found. */
  idle: BaselineEntry[];
}

/**
 * The baseline of reviews: all that was found and that nobody has accepted, in their order.
 *
 * @example
 * const kept = baselineOf(reviewChangeSet(scripts));
 * compared(reviewChangeSet(later), kept).reviews // only what is new
 */
export function baselineOf(reviews: readonly ReviewedScript[]): Baseline {
  const count = new Occurrences();
  const findings: BaselineEntry[] = [];
  for (const review of reviews)
    for (const finding of [...review.findings, ...review.known]) {
      if (finding.accepted !== null) continue;
      for (const { statement, line } of placesOf(finding)) {
        const content = contentOf(review, statement);
        const { hazard, message } = finding;
        findings.push({ hazard, content, occurrence: count.next(hazard, content), path: review.path, line, message });
      }
    }
  return { format: "cautela.baseline", version: 1, findings };
}

/**
 * Takes out of reviews what a baseline holds, place by place: of a finding at several places those that are new are left.
 * Verdicts are those of what is left.
 */
export function compared<Script extends ReviewedScript>(
  reviews: readonly Script[],
  baseline: Baseline,
): Compared<Script> {
  const held = new Map<string, BaselineEntry[]>();
  for (const entry of baseline.findings) {
    const key = `${entry.hazard} ${entry.content}`;
    const list = held.get(key);
    if (list) list.push(entry);
    else held.set(key, [entry]);
  }
  const left = reviews.map((review) => withoutKnown(review, held));
  return { reviews: left, idle: [...held.values()].flat() };
}

function withoutKnown<Script extends ReviewedScript>(review: Script, held: Map<string, BaselineEntry[]>): Script {
  const findings: Finding[] = [];
  const known: Finding[] = [...review.known];
  for (const finding of review.findings) {
    if (finding.accepted !== null) {
      findings.push(finding);
      continue;
    }
    const places = placesOf(finding);
    const isHeld = places.map(({ statement }) => {
      const entries = held.get(`${finding.hazard} ${contentOf(review, statement)}`);
      return entries?.shift() !== undefined;
    });
    const part = (which: boolean): Finding | null => {
      const [first, ...more] = places.filter((_, i) => isHeld[i] === which);
      // What mends all its places at once mends these as well.
      return first ? { ...finding, ...first, places: more } : null;
    };
    const [old, fresh] = [part(true), part(false)];
    if (old) known.push(old);
    if (fresh) findings.push(fresh);
  }
  if (known.length === review.known.length) return review;
  const verdicts = new Map<number, Verdict>();
  let verdict: Verdict = "clear";
  for (const finding of findings) {
    if (finding.accepted !== null) continue;
    verdict = heavier(verdict, finding.weight);
    for (const { statement } of placesOf(finding))
      verdicts.set(statement, heavier(verdicts.get(statement) ?? "clear", finding.weight));
  }
  const statements = review.statements.map((one) => ({ ...one, verdict: verdicts.get(one.index) ?? "clear" }));
  return { ...review, verdict, statements, findings, known };
}

/** A finding's place and its further ones. */
function placesOf({ statement, line, column, endLine, endColumn, places }: Finding): Place[] {
  return [{ statement, line, column, endLine, endColumn }, ...places];
}

function contentOf(review: ReviewedScript, statement: number): string {
  return review.contents.get(statement) ?? "";
}

/** How often each hazard has been met in the same content. */
export class Occurrences {
  readonly #counts = new Map<string, number>();

  next(hazard: string, content: string): number {
    const key = `${hazard} ${content}`;
    const count = (this.#counts.get(key) ?? 0) + 1;
    this.#counts.set(key, count);
    return count;
  }
}

/**
 * Takes a baseline from data, such as a parsed file.
 *
 * @throws CautelaError that says what is wrong with it: another format, a newer version, an entry that is damaged
 */
export function baselineFrom(value: unknown): Baseline {
  const { format, version } = typeof value === "object" && value !== null ? (value as Partial<Baseline>) : {};
  if (format !== "cautela.baseline") throw new CautelaError("this is no baseline: its format is not cautela.baseline");
  if (typeof version === "number" && version > 1)
    throw new CautelaError(`it is a baseline of version ${version}, and this Cautela knows version 1`);
  const problem = schemaProblem("baseline", value);
  if (problem !== null) throw new CautelaError(problem);
  return value as Baseline;
}
