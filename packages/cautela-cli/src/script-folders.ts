import { existsSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve, sep } from "node:path";
import type { ScriptFolders } from "cautela";
import { isScriptOf } from "cautela/tools";
import ignore, { type Ignore } from "ignore";
import { glob } from "tinyglobby";
import { Failure } from "./failure.ts";
import type { Policies } from "./policies.ts";
import { lanesOf } from "./script-lanes.ts";

/** The files of a folder that are taken for scripts. */
const SCRIPTS = ["**/*.{sql,ddl,psql,pgsql,mysql,tsql,plsql,pls,pks,pkb}"];

/** Words of names that tell scripts which take others back from those which they take back. */
const UNDO_WORDS = new Set(["undo", "down", "rollback", "revert"]);
const DO_WORDS = new Set(["do", "up", "apply", "forward"]);

/** Names in the order in which people number them: 9 before 10, whatever the case. Made when the first folder is read. */
let byNumber: Intl.Collator | null = null;

/** A script of a folder. */
export interface FolderScript {
  path: string;
  /** The one that takes it back. */
  undo?: string;
  /** It is reviewed elsewhere: only its DDL counts here. */
  ran?: boolean;
}

/** The scripts of a folder in the order in which they run. */
export interface FolderScripts {
  /** Those that run on one database, one after the other, are together. */
  lanes: FolderScript[][];
  /** Scripts that take others back, and whose partners are not there. */
  lone: string[];
  /** Scripts that the index does not list; they come last. */
  unlisted: string[];
}

/**
 * The scripts in a folder and below it, in the order in which they would run, each with the one that takes it back. What a
 * .gitignore leaves out is left out, links are not followed.
 *
 * @throws Failure where a folder holds no script, or its index names one that is not there
 *
 * @example (await folderScripts("changes", policies)).lanes // [[changes/2_berths.sql, changes/10_moorings.sql]]
 */
export async function folderScripts(folder: string, policies: Policies): Promise<FolderScripts> {
  const said = (await policies.ofFolder(folder)).policy?.scripts ?? {};
  const names = await glob(said.files ? ["**/*"] : SCRIPTS, {
    cwd: folder,
    dot: false,
    onlyFiles: true,
    followSymbolicLinks: false,
    caseSensitiveMatch: false,
    expandDirectories: false,
    ignore: ["**/node_modules/**"],
  });
  const ignored = ignoring(folder);
  const kept = names.map((name) => name.split("/").join(sep)).filter((name) => !ignored(name));
  const files = said.files ? kept.filter((name) => isScriptOf(join(resolve(folder), name), said.files ?? [])) : kept;
  const undoing: string[] = [];
  const running: string[] = [];
  const all = new Set(files.map((name) => name.toLowerCase()));
  for (const name of files.sort(inOrder)) {
    const own = (await policies.ofFolder(dirname(join(folder, name)))).policy?.scripts ?? said;
    (undoes(join(resolve(folder), name), own) || isTwin(name, all) ? undoing : running).push(name);
  }
  if (running.length === 0)
    throw new Failure(
      undoing.length > 0 ? `${folder} holds only scripts that undo others` : `${folder} holds no SQL script`,
    );
  const unlisted = said.index === undefined ? [] : byIndex(running, folder, said.index);
  const undoOf = new Map<string, string>();
  const lone: string[] = [];
  for (const name of undoing) {
    const partner = partnerOf(name, running);
    if (partner === null || undoOf.has(partner)) lone.push(join(folder, name));
    else undoOf.set(partner, join(folder, name));
  }
  // An index says that all run one after the other.
  const lanes = said.index === undefined ? lanesOf(running) : [{ before: [], scripts: running }];
  const script = (name: string): FolderScript => {
    const undo = undoOf.get(name);
    return { path: join(folder, name), ...(undo === undefined ? {} : { undo }) };
  };
  return {
    lanes: lanes.map(({ before, scripts }) => [
      ...before.map((name) => ({ path: join(folder, name), ran: true })),
      ...scripts.map(script),
    ]),
    lone,
    unlisted: unlisted.map((name) => join(folder, name)),
  };
}

function undoes(path: string, { undo }: ScriptFolders): boolean {
  if (undo) return isScriptOf(path, undo);
  return wordsOf(path.slice(path.lastIndexOf(sep) + 1)).some((word) => UNDO_WORDS.has(word));
}

/** Whether a script is named like another but for a U in place of a V before its number: `U3__rates.sql`, `V3__rates.sql`. */
function isTwin(name: string, all: ReadonlySet<string>): boolean {
  const at = name.lastIndexOf(sep) + 1;
  if (!/^u\d/i.test(name.slice(at))) return false;
  return all.has(`${name.slice(0, at)}v${name.slice(at + 1)}`.toLowerCase());
}

/** The words of a file's name, without its ending. */
function wordsOf(name: string): string[] {
  return name
    .toLowerCase()
    .replace(/\.[^.]+$/, "")
    .split(/[._-]+/);
}

/** The script that another takes back: of the same name but for the words that tell them apart, the nearest one. */
function partnerOf(name: string, scripts: readonly string[]): string | null {
  const key = ownWords(name);
  let best: { script: string; shared: number } | null = null;
  for (const script of scripts) {
    if (ownWords(script) !== key) continue;
    const [a, b] = [name.split(sep), script.split(sep)];
    let shared = 0;
    while (shared < a.length && a[shared] === b[shared]) shared++;
    if (!best || shared > best.shared) best = { script, shared };
  }
  return best?.script ?? null;
}

function ownWords(path: string): string {
  return wordsOf(path.slice(path.lastIndexOf(sep) + 1))
    .filter((word) => !UNDO_WORDS.has(word) && !DO_WORDS.has(word))
    .join(" ")
    .replace(/^[uv](?=\d)/, "");
}

/** Puts scripts into the order of an index; gives those that it does not list, which are last. */
function byIndex(names: string[], folder: string, index: string): string[] {
  let text: string;
  try {
    text = readFileSync(index, "utf8");
  } catch {
    throw new Failure(`cannot read the index of scripts ${index}`);
  }
  const places = new Map<string, number>();
  for (const [i, line] of text.split(/\r?\n/).entries()) {
    const listed = entryOf(line);
    if (listed === "") continue;
    const full = resolve(dirname(index), listed);
    const name = relative(resolve(folder), full);
    // An index may be that of a larger folder.
    if (name.startsWith("..")) continue;
    if (!existsSync(full)) throw new Failure(`${index}:${i + 1}: there is no script ${listed}`);
    if (!places.has(name)) places.set(name, places.size);
  }
  const place = (name: string): number => places.get(name) ?? places.size;
  names.sort((a, b) => place(a) - place(b));
  return names.filter((name) => !places.has(name));
}

/** The path that a line of an index names: alone, as an item of a list, or as the command by which a client runs it. */
function entryOf(line: string): string {
  const text = line.trim();
  if (text === "" || /^(?:#|--)/.test(text)) return "";
  const bare = text.replace(/^(?:\\ir?\s+|@@?\s*|source\s+|\.read\s+|:r\s+|-\s+)/i, "").replace(/;$/, "");
  return bare.trim().replace(/^(["'])(.*)\1$/, "$2");
}

/** What is made again whenever it changes has no number, and runs when all others have: `R__views.sql`. */
function isRepeated(name: string): number {
  return Number(/^r__/i.test(name));
}

/** Folder by folder, and the files of a folder before those of its folders. */
function inOrder(a: string, b: string): number {
  const one = a.split(sep);
  const other = b.split(sep);
  byNumber ??= new Intl.Collator("en", { numeric: true, sensitivity: "base" });
  for (let i = 0; i < Math.min(one.length, other.length); i++) {
    const last = Number(i === one.length - 1) - Number(i === other.length - 1);
    if (last !== 0) return -last;
    const order =
      isRepeated(one[i]) - isRepeated(other[i]) ||
      byNumber.compare(one[i], other[i]) ||
      (one[i] < other[i] ? -1 : one[i] > other[i] ? 1 : 0);
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
