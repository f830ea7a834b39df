import { existsSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve, sep } from "node:path";
import ignore, { type Ignore } from "ignore";
import { glob } from "tinyglobby";
import { Failure } from "./failure.ts";
import { isFolder } from "./files.ts";

/** The files of a folder that are taken for scripts. */
const SCRIPTS = ["**/*.{sql,ddl,psql,pgsql,mysql,tsql,plsql,pls,pks,pkb}"];

/** Scripts that take others back: they do not run with them. */
const UNDOES = /(?:^|[._-])(?:undo|down|rollback|revert)(?:[._-]|$)/i;

/** Names in the order in which people number them: 9 before 10, whatever the case. */
const byNumber = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/** The scripts that paths name, and those that are left out. */
export interface ScriptFiles {
  files: string[];
  /** Scripts of folders that undo others: they are not reviewed. */
  undoing: string[];
}

/**
 * The scripts that paths stand for: a file for itself, a folder for the SQL files in it and below it, in the order in which they
 * would run. What a .gitignore leaves out is left out, links are not followed.
 *
 * @throws Failure where a folder holds no script
 *
 * @example await scriptFiles(["changes"]) // changes/2_berths.sql, changes/10_moorings.sql
 */
export async function scriptFiles(paths: readonly string[]): Promise<ScriptFiles> {
  const found: ScriptFiles = { files: [], undoing: [] };
  for (const path of paths) {
    if (!isFolder(path)) {
      found.files.push(path);
      continue;
    }
    const names = await glob(SCRIPTS, {
      cwd: path,
      onlyFiles: true,
      followSymbolicLinks: false,
      caseSensitiveMatch: false,
      expandDirectories: false,
      ignore: ["**/node_modules/**"],
    });
    const ignored = ignoring(path);
    const kept = names.map((name) => name.split("/").join(sep)).filter((name) => !ignored(name));
    const scripts = kept.filter((name) => !undoes(name));
    if (scripts.length === 0)
      throw new Failure(
        kept.length > 0 ? `${path} holds only scripts that undo others` : `${path} holds no SQL script`,
      );
    found.files.push(...scripts.sort(inOrder).map((name) => join(path, name)));
    found.undoing.push(
      ...kept
        .filter(undoes)
        .sort(inOrder)
        .map((name) => join(path, name)),
    );
  }
  return found;
}

function undoes(name: string): boolean {
  return UNDOES.test(name.slice(name.lastIndexOf(sep) + 1).replace(/\.[^.]+$/, ""));
}

/** Folder by folder, and the files of a folder before those of its folders. */
function inOrder(a: string, b: string): number {
  const one = a.split(sep);
  const other = b.split(sep);
  for (let i = 0; i < Math.min(one.length, other.length); i++) {
    const last = Number(i === one.length - 1) - Number(i === other.length - 1);
    if (last !== 0) return -last;
    const order = byNumber.compare(one[i], other[i]) || (one[i] < other[i] ? -1 : one[i] > other[i] ? 1 : 0);
    if (order !== 0) return order;
  }
  return 0;
}

/** Whether a file below a folder is left out by the .gitignore of a folder on the way to it, up to the repository's own. */
function ignoring(root: string): (name: string) => boolean {
  const known = new Map<string, Ignore | null>();
  const rules = (folder: string): Ignore | null => {
    const before = known.get(folder);
    if (before !== undefined) return before;
    const file = join(folder, ".gitignore");
    const own = existsSync(file) ? ignore().add(readFileSync(file, "utf8")) : null;
    known.set(folder, own);
    return own;
  };
  return (name) => {
    const file = resolve(root, name);
    for (let folder = dirname(file); ; folder = dirname(folder)) {
      if (rules(folder)?.ignores(relative(folder, file).split(sep).join("/"))) return true;
      // Beyond the repository, and beyond the disk, nothing is asked.
      if (existsSync(join(folder, ".git")) || dirname(folder) === folder) return false;
    }
  };
}
