import { type DialectId, type Review, reaches, report, reviewChangeSet, textReport, type Weight } from "cautela";
import { loadCatalog } from "./catalog-source.ts";
import { fileSize, readText } from "./files.ts";
import { columns, terminalInk } from "./ink.ts";
import { print, writeText } from "./output.ts";
import { loadPolicy } from "./policy-file.ts";
import { inputs } from "./reviewed-script.ts";
import { STREAM_FROM, streamReview } from "./stream-review.ts";

export interface ReviewFlags {
  dialect?: DialectId;
  catalog?: string[];
  policy?: string;
  format: "text" | "json";
  output?: string;
  failOn: Weight;
}

/** `cautela review`: reviews scripts in order and writes the result; returns the exit status. */
export async function reviewCommand(paths: readonly string[], flags: ReviewFlags): Promise<number> {
  const loaded = await loadCatalog(flags.catalog ?? [], flags.dialect);
  for (const problem of loaded?.problems ?? []) console.error(`cautela: ${problem}`);
  const catalog = loaded?.catalog;
  const policy = await loadPolicy(flags.policy);
  const reviews = isLarge(paths)
    ? [
        streamReview(
          paths[0],
          { dialect: flags.dialect, catalog, policy, path: paths[0], keep: flags.format === "text" ? "found" : "all" },
          (line) => console.error(line),
        ),
      ]
    : reviewChangeSet(
        paths.map((path) => script(path, flags)),
        { catalog, policy },
      );
  await writeReport(
    reviews,
    flags,
    paths.flatMap((path) => inputs(path, flags)),
  );
  return reviews.some((review) => reaches(review.verdict, flags.failOn)) ? 1 : 0;
}

/** A single script that is too large to be held in memory. */
function isLarge(paths: readonly string[]): boolean {
  return paths.length === 1 && paths[0] !== "-" && fileSize(paths[0]) > STREAM_FROM;
}

function script(path: string, flags: ReviewFlags): { text: string; path: string; dialect?: DialectId } {
  const { text, invalidLine } = readText(path);
  if (invalidLine !== null) {
    console.error(`cautela: ${path}: line ${invalidLine} is not UTF-8; the file is read as Latin-1`);
  }
  return { text, path: path === "-" ? "standard input" : path, dialect: flags.dialect };
}

/** Writes reviews to standard output or to a file. */
export async function writeReport(
  reviews: readonly Review[],
  flags: Pick<ReviewFlags, "format" | "output">,
  sources: readonly string[] = [],
): Promise<void> {
  if (flags.output !== undefined) {
    writeText(flags.output, report(reviews, flags.format), sources);
    return;
  }
  const text =
    flags.format === "json"
      ? report(reviews, "json")
      : textReport(reviews, { width: columns(process.stdout), ink: terminalInk(process.stdout) });
  await print(text);
}
