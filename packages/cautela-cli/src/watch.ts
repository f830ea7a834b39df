import { dirname, resolve } from "node:path";
import { CautelaError, type ReviewedScript } from "cautela";
import { changeSets, type FoundSets, scriptsOf } from "./change-sets.ts";
import { Failure } from "./failure.ts";
import { isFolder } from "./files.ts";
import { policyPlaces } from "./policies.ts";
import { finished, type ReviewFlags, reviewed, say } from "./review-command.ts";
import { now } from "./today.ts";

/** What changes within this time is reviewed together, in milliseconds. */
const TOGETHER = 150;

/**
 * `cautela review PATH… --watch`: reviews once, and then again what changes, until it is interrupted. What stands on the
 * terminal stays there: of later rounds only scripts are shown whose review is another one.
 */
export async function watchCommand(paths: readonly string[], flags: ReviewFlags): Promise<number> {
  if (paths.includes("-")) throw new Failure("standard input cannot be watched");
  const { watch } = await import("chokidar");
  let before = new Map<string, string>();
  let watched: string[] = [];
  const round = async (first: boolean, changed: readonly string[]): Promise<void> => {
    try {
      const found = await changeSets(paths, flags);
      const result = await reviewed(found, flags);
      watcher.add(filesOf(found, paths, flags).filter((file) => !watched.includes(file)));
      watched = [...new Set([...watched, ...filesOf(found, paths, flags)])];
      say([...found.said, ...result.said]);
      const last = new Map(result.scripts.map((script) => [keyOf(script), resultOf(script)]));
      const other = result.scripts.filter((script) => last.get(keyOf(script)) !== before.get(keyOf(script)));
      before = last;
      if (first) await finished(result.scripts, found, flags);
      else {
        console.error(
          `cautela: ${now().slice(11)} ${changed.join(", ")}: ${other.length === 0 ? "nothing else is found" : "reviewed again"}`,
        );
        if (other.length > 0 || flags.output) await finished(result.scripts, found, flags, other);
      }
    } catch (error) {
      if (!(error instanceof Failure || error instanceof CautelaError)) throw error;
      // Somebody is in the middle of writing it.
      if (first) throw error;
      say([error.message]);
    }
  };
  const watcher = watch([...paths], { ignoreInitial: true, ignored: /(?:^|[/\\])(?:\.git|node_modules)(?:[/\\]|$)/ });
  const outputs = new Set((flags.output ?? []).map((file) => resolve(file)));
  await round(true, []);
  console.error("cautela: watching for changes; Ctrl-C ends it");
  let changed = new Set<string>();
  let timer: NodeJS.Timeout | null = null;
  let running: Promise<void> = Promise.resolve();
  watcher.on("all", (_event, path) => {
    if (outputs.has(resolve(path)) || path.endsWith(".part")) return;
    changed.add(path);
    if (timer) clearTimeout(timer);
    timer = setTimeout(() => {
      const files = [...changed];
      changed = new Set();
      running = running.then(() => round(false, files));
    }, TOGETHER);
  });
  return new Promise((_, reject) => watcher.on("error", reject));
}

/** All files on which a review depends. */
function filesOf({ sets, beside }: FoundSets, paths: readonly string[], { baseline, policy }: ReviewFlags): string[] {
  const folders = paths.map((path) => (isFolder(path) ? path : dirname(path)));
  return [
    ...paths,
    // A policy may come to be there.
    ...(policy === undefined ? folders.flatMap(policyPlaces) : []),
    ...scriptsOf(sets),
    ...beside.filter((file) => !file.includes("://")),
    ...(baseline ? [baseline] : []),
  ];
}

/** A script that holds both directions has two reviews. */
function keyOf({ path, undoes }: ReviewedScript): string {
  return `${path} ${undoes ?? ""}`;
}

/** What of a review decides whether it is shown again. */
function resultOf({ verdict, findings, unchecked }: ReviewedScript): string {
  return JSON.stringify([verdict, findings, unchecked]);
}
