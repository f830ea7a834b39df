import { writeFileSync } from "node:fs";
import { type DialectId, type Review, reaches, report, reviewChangeSet, textReport, type Weight } from "cautela";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";
import { columns, terminalInk } from "./ink.ts";
import { catalogFrom } from "./options.ts";

export interface ReviewFlags {
  dialect?: DialectId;
  catalog?: string[];
  format: "text" | "json";
  output?: string;
  failOn: Weight;
}

/** `cautela review`: reviews scripts in order and writes the result; returns the exit status. */
export function reviewCommand(paths: readonly string[], flags: ReviewFlags): number {
  const scripts = paths.map((path) => {
    const { text, invalidLine } = readText(path);
    if (invalidLine !== null) {
      console.error(`cautela: ${path}: line ${invalidLine} is not UTF-8; the file is read as Latin-1`);
    }
    return { text, path: path === "-" ? "standard input" : path, dialect: flags.dialect };
  });
  const catalog = catalogFrom(flags.catalog ?? [], flags.dialect ?? "postgresql");
  const reviews = reviewChangeSet(scripts, { catalog });
  writeReport(reviews, flags);
  return reviews.some((review) => reaches(review.verdict, flags.failOn)) ? 1 : 0;
}

/** Writes reviews to standard output or to a file. */
export function writeReport(reviews: readonly Review[], flags: Pick<ReviewFlags, "format" | "output">): void {
  if (flags.output !== undefined) {
    try {
      writeFileSync(flags.output, report(reviews, flags.format));
    } catch (error) {
      throw new Failure(`cannot write ${flags.output}: ${error instanceof Error ? error.message : String(error)}`);
    }
    return;
  }
  const text =
    flags.format === "json"
      ? report(reviews, "json")
      : textReport(reviews, { width: columns(process.stdout), ink: terminalInk(process.stdout) });
  writeFileSync(1, text);
}
