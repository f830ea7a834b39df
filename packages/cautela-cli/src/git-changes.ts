import { execFile } from "node:child_process";
import { join } from "node:path";
import { promisify } from "node:util";
import { Failure } from "./failure.ts";
import { realPath } from "./files.ts";

/** What the files of a repository are to a revision. */
export interface GitChanges {
  /** Files that were not there. */
  added: ReadonlySet<string>;
  /** Files that were there and are others now, with what is known of that. */
  changed: ReadonlyMap<string, string>;
}

const run = promisify(execFile);

/**
 * What a working tree has added and changed since a revision: since the commit at which the two branches parted, as the
 * installed git says. Paths are absolute and real.
 *
 * @throws Failure where there is no git, no repository or no such revision
 */
export async function changesSince(folder: string, revision: string): Promise<GitChanges> {
  const top = (
    await git(folder, ["rev-parse", "--show-toplevel"], (message) =>
      /not a git repository/i.test(message)
        ? `${folder} is in no git repository, which --since asks`
        : `git cannot read the repository of ${folder}: ${message}`,
    )
  ).replace(/\r?\n$/, "");
  const missing = (): string => `there is no revision ${revision} in the repository ${top}`;
  if (revision === "" || revision.startsWith("-")) throw new Failure(missing());
  const commit = (await git(top, ["rev-parse", "--verify", "--quiet", `${revision}^{commit}`], missing)).trim();
  // Where the two have no common past, what the revision itself holds is compared.
  const base = (await git(top, ["merge-base", commit, "HEAD"], null)).trim() || commit;
  const failed = (message: string): string => `git cannot tell what has changed since ${revision}: ${message}`;
  const fields = (await git(top, ["diff", "--name-status", "-z", "--find-renames", base, "--"], failed)).split("\0");
  const others = await git(top, ["ls-files", "--others", "--exclude-standard", "-z"], failed);
  const place = (name: string): string => realPath(join(top, name));
  const added = new Set(others.split("\0").filter(Boolean).map(place));
  const changed = new Map<string, string>();
  for (let i = 0; i + 1 < fields.length; i += 2) {
    const [kind, name] = [fields[i][0], fields[i + 1]];
    if (kind === "A") added.add(place(name));
    else if (kind === "M" || kind === "T")
      changed.set(place(name), `it stood in the repository at ${revision}, and was changed since`);
    else if (kind === "R" || kind === "C") {
      const now = place(fields[i + 2]);
      if (kind === "C") added.add(now);
      else changed.set(now, `at ${revision} it stood in the repository as ${name}`);
      i++;
    }
  }
  return { added, changed };
}

/** What git answers; where it refuses: a failure, or nothing where none is named. */
async function git(
  folder: string,
  args: readonly string[],
  failure: ((message: string) => string) | null,
): Promise<string> {
  // In a hook these speak of where git stands, and not of the folder that is asked about.
  const { GIT_DIR: _, GIT_WORK_TREE: __, GIT_PREFIX: ___, ...env } = process.env;
  try {
    const { stdout } = await run("git", ["-c", "core.fsmonitor=false", ...args], {
      cwd: folder,
      encoding: "utf8",
      maxBuffer: 1 << 28,
      env: { ...env, GIT_OPTIONAL_LOCKS: "0", LC_ALL: "C" },
    });
    return stdout;
  } catch (error) {
    const { code, stderr = "" } = error as { code?: string | number; stderr?: string };
    if (code === "ENOENT") throw new Failure("--since asks git, which is not installed");
    if (!failure) return "";
    throw new Failure(failure(stderr.split("\n")[0].replace(/^fatal: /, "")));
  }
}
