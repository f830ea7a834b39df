import { execFileSync } from "node:child_process";

/** A git repository, as the installed git shows it. */
export class Repository {
  readonly folder: string;

  constructor(folder: string) {
    this.folder = folder;
  }

  git(...args: string[]): string {
    return execFileSync("git", args, { cwd: this.folder, encoding: "utf8", maxBuffer: 1 << 28, stdio: "pipe" });
  }

  /** The commit at which two branches have parted. */
  parting(one: string, other: string): string {
    return this.git("merge-base", one, other).trim();
  }

  /** The files in a folder of a commit, with the names of their contents. */
  files(commit: string, folder: string): Map<string, string> {
    const entries = this.git("ls-tree", "-r", "-z", commit, "--", folder).split("\0").filter(Boolean);
    return new Map(
      entries.map((entry) => {
        const [head, path] = entry.split("\t");
        return [path, head.split(" ")[2]];
      }),
    );
  }

  /** The text of a file in a commit; null where it is not there. */
  text(commit: string, path: string): string | null {
    try {
      return this.git("show", `${commit}:${path}`);
    } catch {
      return null;
    }
  }
}
