import { existsSync } from "node:fs";
import {
  type Baseline,
  type BaselineEntry,
  baselineFrom,
  baselineOf,
  CautelaError,
  type ReviewedScript,
} from "cautela";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";

/** Reads a baseline. */
export async function readBaseline(file: string): Promise<Baseline> {
  const { text } = await readText(file);
  try {
    return baselineFrom(JSON.parse(text));
  } catch (error) {
    if (error instanceof CautelaError) throw new Failure(`${file}: ${error.message}`);
    if (error instanceof SyntaxError) throw new Failure(`${file}: this is no baseline: ${error.message}`);
    throw error;
  }
}

/**
 * The baseline that keeps what was found, as the text of its file, and a line about it. What an earlier one holds of scripts that
 * were not reviewed now, and are still there, stays.
 */
export async function nextBaseline(
  file: string,
  reviews: readonly ReviewedScript[],
): Promise<{ text: string; said: string }> {
  const before = existsSync(file) ? (await readBaseline(file)).findings : [];
  const now = baselineOf(reviews);
  const others = before.filter((entry) => !isReviewed(entry, reviews));
  const findings = [...others, ...now.findings];
  const key = ({ hazard, content, occurrence }: BaselineEntry): string => `${hazard} ${content} ${occurrence}`;
  const kept = new Set(findings.map(key));
  const dropped = before.filter((entry) => !kept.has(key(entry))).length;
  const count = (many: number): string => `${many} ${many === 1 ? "finding" : "findings"}`;
  const gone = dropped === 0 ? "" : `; dropped ${count(dropped)} that ${dropped === 1 ? "is" : "are"} no longer there`;
  return {
    text: `${JSON.stringify({ ...now, findings }, null, 2)}\n`,
    said: `${file} keeps ${count(findings.length)}${gone}`,
  };
}

/** Whether an entry belongs to a script that was reviewed, or to one that is gone. */
export function isReviewed({ path }: BaselineEntry, reviews: readonly ReviewedScript[]): boolean {
  return reviews.some((review) => review.path === path) || !existsSync(path);
}

const NAMED = 10;

/** What of a baseline was not found any more, a line each. */
export function idleLines(file: string, idle: readonly BaselineEntry[]): string[] {
  if (idle.length === 0) return [];
  const named = idle.slice(0, NAMED).map(({ hazard, path, line }) => `  ${hazard}, ${path} line ${line}`);
  return [
    `${file} holds ${idle.length} ${idle.length === 1 ? "finding that is" : "findings that are"} no longer there (--write-baseline drops them):`,
    ...named,
    ...(idle.length > NAMED ? [`  and ${idle.length - NAMED} more`] : []),
  ];
}
