import { dirname } from "node:path";
import type { DialectId, Policy } from "cautela";
import { Failure } from "./failure.ts";
import { fileSize, isFolder, isPiped, realPath } from "./files.ts";
import type { GitChanges } from "./git-changes.ts";
import { Policies } from "./policies.ts";

/** A script of a change set, before it is read. Plain data. */
export interface ScriptFile {
  path: string;
  /** It was found in a folder: where it cannot be read, the others are reviewed all the same. */
  found?: boolean;
  /** What has come from standard input or a pipe, which is read only once. */
  text?: string;
  policy?: Policy;
  /** The script that takes it back. */
  undo?: string;
  /** It has run already: only its DDL counts. */
  ran?: boolean;
  rewritten?: string;
  /** Only what takes it back is reported. */
  unchanged?: boolean;
}

/** Scripts that run one after the other on one database. Plain data, which goes to another thread. */
export interface ChangeSet {
  scripts: ScriptFile[];
  /** What the command line says. */
  dialect?: DialectId;
  /** What the policy says; a comment in a script goes over it. */
  usual?: DialectId;
  /** The sources of its catalog. */
  catalog: readonly string[];
}

/** What the command line says of scripts. */
export interface ChangeSetFlags {
  dialect?: DialectId;
  catalog?: string[];
  policy?: string;
  since?: string;
}

/** The change sets that paths stand for, and the files that their review depends on. */
export interface FoundSets {
  sets: ChangeSet[];
  /** Of policies and catalogs. */
  beside: string[];
  /** What is to be said of them, a line each. */
  said: string[];
}

/**
 * The change sets that paths stand for: each folder is one, the files that are given singly are one together. Where a policy
 * gives some scripts of a folder another dialect or catalog, they are a change set of their own. No script is in two.
 */
export async function changeSets(paths: readonly string[], flags: ChangeSetFlags): Promise<FoundSets> {
  if (paths.filter((path) => path === "-").length > 1)
    throw new Failure("standard input can be read only once: - stands twice");
  const policies = new Policies(flags.policy);
  const said: string[] = [];
  const groups = await grouped(paths, policies, said);
  const known = new Set<string>();
  const beside = new Set<string>(flags.catalog ?? []);
  const sets: ChangeSet[] = [];
  for (const group of groups) {
    const lanes = new Map<string, ChangeSet>();
    for (const script of group) {
      // What can be read only once is no file that is given twice.
      const real = isPiped(script.path) || script.ran ? null : realPath(script.path);
      if (real !== null && known.has(real)) continue;
      if (real !== null) known.add(real);
      const { policy, files } = await policies.ofScript(script.path === "-" ? "./-" : script.path);
      for (const { file } of files) beside.add(file);
      const catalog = flags.catalog ?? [policy?.catalog ?? []].flat();
      for (const source of catalog) beside.add(source);
      const { dialect } = flags;
      const usual = policy?.dialect;
      const lane = JSON.stringify([dialect ?? usual ?? null, catalog]);
      const own: ScriptFile = { ...script, policy };
      const set = lanes.get(lane);
      if (set) set.scripts.push(own);
      else lanes.set(lane, { scripts: [own], dialect, usual, catalog });
    }
    // What has run only counts for those that come after it.
    sets.push(...[...lanes.values()].filter(({ scripts }) => scripts.some(({ ran }) => !ran)));
  }
  const found = flags.since === undefined ? sets : await since(sets, flags.since, paths);
  return { sets: found, beside: [...beside], said };
}

/** The scripts of paths, folder by folder; those that are given singly are together where they stand side by side. */
async function grouped(paths: readonly string[], policies: Policies, said: string[]): Promise<ScriptFile[][]> {
  const groups: ScriptFile[][] = [];
  let single: ScriptFile[] | null = null;
  for (const path of paths) {
    if (!isFolder(path)) {
      if (single) single.push({ path });
      else {
        single = [{ path }];
        groups.push(single);
      }
      continue;
    }
    single = null;
    const { folderScripts } = await import("./script-folders.ts");
    const { lanes, lone, unlisted } = await folderScripts(path, policies);
    groups.push(...lanes.map((scripts) => scripts.map((script) => ({ ...script, found: true }))));
    if (lone.length > 0)
      said.push(
        `not reviewed, since the ${lone.length === 1 ? "script that it undoes is" : "scripts that they undo are"} not there: ${lone.join(", ")}`,
      );
    if (unlisted.length > 0) said.push(`not listed in the index, and so reviewed last: ${unlisted.join(", ")}`);
  }
  return groups;
}

/** Marks what has run already by a revision; sets without anything that was added or changed are left out. */
async function since(sets: readonly ChangeSet[], revision: string, paths: readonly string[]): Promise<ChangeSet[]> {
  const { added, changed } = await changesOf(paths, revision);
  const isChanged = (path: string): boolean => added.has(realPath(path)) || changed.has(realPath(path));
  const marked = (script: ScriptFile): ScriptFile => {
    const { path, undo, ran } = script;
    if (ran || path === "-" || added.has(realPath(path))) return script;
    const rewritten = changed.get(realPath(path));
    if (rewritten !== undefined) return { ...script, rewritten };
    return undo !== undefined && isChanged(undo) ? { ...script, unchanged: true } : { ...script, ran: true };
  };
  return sets
    .map((set) => ({ ...set, scripts: set.scripts.map(marked) }))
    .filter(({ scripts }) => scripts.some(({ ran }) => !ran));
}

/** What the repositories of paths have added and changed; a path without one is a mistake even if nothing lies there. */
async function changesOf(paths: readonly string[], revision: string): Promise<GitChanges> {
  const { changesSince } = await import("./git-changes.ts");
  const folders = paths.filter((path) => path !== "-").map((path) => (isFolder(path) ? path : dirname(path)));
  const found: GitChanges[] = [];
  for (const folder of new Set(folders)) found.push(await changesSince(folder, revision));
  return {
    added: new Set(found.flatMap(({ added }) => [...added])),
    changed: new Map(found.flatMap(({ changed }) => [...changed])),
  };
}

/** The files of change sets. */
export function scriptsOf(sets: readonly ChangeSet[]): string[] {
  return sets.flatMap(({ scripts }) => scripts.flatMap(({ path, undo }) => (undo ? [path, undo] : [path])));
}

/** How large the scripts are together, in bytes. */
export function sizeOf(sets: readonly ChangeSet[]): number {
  return scriptsOf(sets).reduce((sum, path) => sum + fileSize(path), 0);
}
