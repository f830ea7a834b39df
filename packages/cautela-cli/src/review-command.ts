import {
  type DialectId,
  isAtLeast,
  type Review,
  type ReviewOptions,
  report,
  reviewChangeSet,
  type Weight,
} from "cautela";
import { textReport } from "cautela/tools";
import { loadCatalog } from "./catalog-source.ts";
import { Failure } from "./failure.ts";
import { beginsBinary, fileSize, isFolder, isPiped, readText } from "./files.ts";
import { print, writeText } from "./output.ts";
import { loadPolicy } from "./policy-file.ts";
import { inputs } from "./reviewed-script.ts";
import { pipedReview, STREAM_FROM, streamReview } from "./stream-review.ts";
import { columns, terminalStyle } from "./style.ts";

export interface ReviewFlags {
  dialect?: DialectId;
  catalog?: string[];
  policy?: string;
  format: "text" | "json";
  output?: string;
  failOn: Weight;
  full?: boolean;
}

/** `cautela review`: reviews scripts in order and writes the result; returns the exit status. */
export async function reviewCommand(given: readonly string[], flags: ReviewFlags): Promise<number> {
  if (given.filter((path) => path === "-").length > 1)
    throw new Failure("standard input can be read only once: - stands twice");
  const paths = given.some(isFolder) ? await inFolders(given) : given;
  const loaded = await loadCatalog(flags.catalog ?? [], flags.dialect);
  for (const problem of loaded?.problems ?? []) console.error(`cautela: ${problem}`);
  const catalog = loaded?.catalog;
  const policy = await loadPolicy(flags.policy);
  const reviews =
    (await alone(paths, { dialect: flags.dialect, catalog, policy }, flags)) ??
    reviewChangeSet(await scripts(paths, flags), { catalog, policy });
  await writeReport(
    reviews,
    flags,
    paths.flatMap((path) => inputs(path, flags)),
  );
  return reviews.some((review) => isAtLeast(review.verdict, flags.failOn)) ? 1 : 0;
}

/** The scripts of paths of which one is a folder; what looks through folders is loaded only then. */
async function inFolders(given: readonly string[]): Promise<string[]> {
  const { scriptFiles } = await import("./script-folders.ts");
  const { files, undoing } = await scriptFiles(given);
  const one = undoing.length === 1;
  if (undoing.length > 0)
    console.error(
      `cautela: ${one ? "a script that undoes another is" : "scripts that undo others are"} not reviewed: ${undoing.join(", ")}`,
    );
  return files;
}

/** The review of a single script that is large or comes through a pipe: it is not held in memory. */
async function alone(
  paths: readonly string[],
  options: ReviewOptions,
  { format }: ReviewFlags,
): Promise<Review[] | null> {
  const [path] = paths;
  const large = isLarge(paths);
  if (!large && (paths.length !== 1 || !isPiped(path))) return null;
  const say = (line: string): void => console.error(line);
  const streamed = { ...options, path: shownPath(path), keep: format === "text" ? "found" : "all" } as const;
  return [large ? streamReview(path, streamed, say) : await pipedReview(path, streamed, say)];
}

function shownPath(path: string): string {
  return path === "-" ? "standard input" : path;
}

/** A single script that is too large to be held in memory. */
function isLarge(paths: readonly string[]): boolean {
  if (paths.length !== 1 || paths[0] === "-" || fileSize(paths[0]) <= STREAM_FROM) return false;
  if (beginsBinary(paths[0])) throw new Failure(`${paths[0]} is no text: it holds NUL bytes`);
  return true;
}

async function scripts(paths: readonly string[], flags: ReviewFlags): Promise<Script[]> {
  const list: Script[] = [];
  for (const path of paths) list.push(await script(path, flags));
  return list;
}

interface Script {
  text: string;
  path: string;
  dialect?: DialectId;
}

async function script(path: string, flags: ReviewFlags): Promise<Script> {
  const { text, invalidLine } = await readText(path);
  if (invalidLine !== null) {
    console.error(`cautela: ${path}: line ${invalidLine} is not UTF-8; the file is read as Latin-1`);
  }
  return { text, path: shownPath(path), dialect: flags.dialect };
}

/** Writes reviews to standard output or to a file. */
export async function writeReport(
  reviews: readonly Review[],
  flags: Pick<ReviewFlags, "format" | "output" | "full">,
  sources: readonly string[] = [],
): Promise<void> {
  if (flags.output !== undefined) {
    writeText(flags.output, report(reviews, flags.format, flags), sources);
    return;
  }
  const text =
    flags.format === "json"
      ? report(reviews, "json")
      : textReport(reviews, {
          width: columns(process.stdout),
          style: terminalStyle(process.stdout),
          full: flags.full,
        });
  await print(text);
}
