import type { ReviewedScript } from "cautela";
import { CautelaError, type ChangeSetScript, reviewChangeSet } from "cautela";
import { type ReportedScript, reported } from "cautela/tools";
import { loadCatalog } from "./catalog-source.ts";
import type { ChangeSet, ScriptFile } from "./change-sets.ts";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";

/** The review of one change set, as it is given to a thread. Plain data. */
export interface ReviewJob {
  set: ChangeSet;
  /** With traces and rehearsals, which take as long as the review. */
  details: boolean;
  /** Only statements with findings are listed. */
  short: boolean;
  /** The moment at which the scripts are to run. */
  date?: string;
  /** The day in the names of copies. */
  day: string;
}

/** The reviews of a change set, and what is to be said on standard error, a line each. Plain data. */
export interface JobResult {
  scripts: (ReviewedScript | ReportedScript)[];
  said: string[];
  /** How many scripts of folders could not be read. */
  unread: number;
}

/** Reviews one change set. `begins` is told of each script before it is read. */
export async function reviewJob(job: ReviewJob, begins: (path: string) => void = () => undefined): Promise<JobResult> {
  const { set, details, short, date, day } = job;
  const said: string[] = [];
  const loaded = await loadCatalog(set.catalog, set.dialect ?? set.usual);
  said.push(...(loaded?.problems ?? []));
  const scripts: ChangeSetScript[] = [];
  let unread = 0;
  let now = "";
  for (const file of set.scripts) {
    // A catalog that a database gives holds what has run.
    if (file.ran && loaded?.current) continue;
    try {
      scripts.push(await script(file, set, said));
    } catch (error) {
      if (!(error instanceof Failure && file.found)) throw error;
      said.push(error.message);
      unread++;
    }
  }
  const unchanged = new Set(set.scripts.filter(({ unchanged }) => unchanged).map(({ path }) => path));
  try {
    const reviews = reviewChangeSet(scripts, {
      catalog: loaded?.catalog,
      date,
      keep: short && !details ? "found" : "all",
      begins(path) {
        now = path;
        begins(path);
      },
    });
    const shown = reviews.filter(({ path }) => !unchanged.has(path));
    return { scripts: shown.map((review) => reported(review, { details, date: day })), said, unread };
  } catch (error) {
    // Of a defect it must be known which script brings it about.
    if (error instanceof Error && !(error instanceof CautelaError)) error.message = `${now}: ${error.message}`;
    throw error;
  }
}

async function script(file: ScriptFile, { dialect }: ChangeSet, said: string[]): Promise<ChangeSetScript> {
  const { path, policy, undo, ran, rewritten } = file;
  return {
    path: path === "-" ? "standard input" : path,
    text: file.text ?? (await textOf(path, said)),
    dialect,
    policy,
    ...(ran ? { ran } : {}),
    ...(rewritten === undefined ? {} : { rewritten }),
    ...(undo === undefined ? {} : { undo: { path: undo, text: await textOf(undo, said) } }),
  };
}

async function textOf(path: string, said: string[]): Promise<string> {
  const { text, invalidLine } = await readText(path);
  if (invalidLine !== null) said.push(`${path}: line ${invalidLine} is not UTF-8; the file is read as Latin-1`);
  return text;
}
