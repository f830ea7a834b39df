import {
  chmodSync,
  closeSync,
  existsSync,
  fsyncSync,
  openSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import { Failure } from "./failure.ts";

/** Errors of the output are told to the call, and once more by an event that nobody may leave unheard. */
export function hearOutput(): void {
  process.stderr.on("error", () => undefined);
  process.stdout.on("error", ({ code, message }: NodeJS.ErrnoException) => {
    if (code === "EPIPE" || code === "ERR_STREAM_DESTROYED" || process.exitCode === 2) return;
    process.exitCode = 2;
    console.error(`cautela: cannot write to standard output: ${WHY[code ?? ""] ?? message}`);
  });
}

/**
 * Writes all of a text to standard output, however slowly it is taken. A reader that has seen enough (`| head`) ends the
 * output quietly; a full disk is a failure.
 */
export async function print(text: string | Iterable<string>): Promise<void> {
  for (const piece of typeof text === "string" ? [text] : text) await printPiece(piece);
}

function printPiece(text: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const { stdout } = process;
    const done = (error?: NodeJS.ErrnoException | null): void => {
      if (!error || error.code === "EPIPE" || error.code === "ERR_STREAM_DESTROYED") resolve();
      else {
        process.exitCode = 2;
        reject(new Failure(`cannot write to standard output: ${WHY[error.code ?? ""] ?? error.message}`));
      }
    };
    stdout.write(text, done);
  });
}

const WHY: Record<string, string> = {
  ENOSPC: "no space is left",
  EIO: "the device failed",
  EACCES: "permission denied",
  EISDIR: "it is a directory",
  ENOENT: "there is no such folder",
  ENOTDIR: "a part of the path is no folder",
  EROFS: "the file system is read-only",
};

/** A result that goes to a file. */
export interface FileResult {
  path: string;
  pieces: Iterable<string>;
}

/** Writes a text to a file, see {@link writeResults}. */
export function writeText(path: string, text: string, sources: readonly string[] = []): void {
  writeResults([{ path, pieces: [text] }], sources);
}

/**
 * Writes results to files: all beside them first, then under their names, so that nobody finds half of one, nor one without
 * the others. `sources` are the files that they were made from; they are never written over.
 */
export function writeResults(results: readonly FileResult[], sources: readonly string[]): void {
  for (const [i, { path }] of results.entries()) {
    if (results.some((other, k) => k < i && resolve(other.path) === resolve(path)))
      throw new Failure(`--output ${path} is given twice`);
    const source = sources.find((one) => sameFile(one, path));
    if (source !== undefined)
      throw new Failure(
        `--output ${path} is ${source === path ? "an input" : `the input ${source}`} of the command, which is not written over`,
      );
  }
  const waiting: { beside: string; target: string; path: string }[] = [];
  let now = "";
  try {
    for (const { path, pieces } of results) {
      now = path;
      const before = statSync(path, { throwIfNoEntry: false });
      if (before?.isDirectory()) throw Object.assign(new Error(), { code: "EISDIR" });
      // A device or a pipe is written to, not replaced.
      if (before && !before.isFile()) {
        const file = openSync(path, "w");
        writePieces(file, pieces);
        continue;
      }
      const target = before ? realpathSync(path) : path;
      const beside = join(dirname(target), `.${basename(target)}.${process.pid}.part`);
      const file = openSync(beside, "wx", 0o666);
      waiting.push({ beside, target, path });
      writePieces(file, pieces);
      if (before) chmodSync(beside, before.mode);
    }
    for (const { beside, target, path } of waiting) {
      now = path;
      renameSync(beside, target);
    }
  } catch (error) {
    for (const { beside } of waiting) rmSync(beside, { force: true });
    if (error instanceof Failure) throw error;
    const { code, message } = error as NodeJS.ErrnoException;
    throw new Failure(`cannot write ${now}: ${WHY[code ?? ""] ?? message}`);
  }
}

function writePieces(file: number, pieces: Iterable<string>): void {
  try {
    for (const piece of pieces) writeFileSync(file, piece);
    try {
      fsyncSync(file);
    } catch {
      // A pipe has nothing to sync.
    }
  } finally {
    closeSync(file);
  }
}

/**
 * Gives a file another name when something else is to stand in its place, or nothing: it may be the only way back from a
 * change that has run since. Returns the name; null: there was nothing to keep.
 */
export function keepEarlier(path: string, text: string | null, sources: readonly string[]): string | null {
  if (sources.some((one) => sameFile(one, path))) return null;
  try {
    if (!statSync(path, { throwIfNoEntry: false })?.isFile() || readFileSync(path, "utf8") === text) return null;
    for (let n = 1; ; n++) {
      const kept = `${path}.earlier-${n}`;
      if (existsSync(kept)) continue;
      renameSync(path, kept);
      return kept;
    }
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    throw new Failure(`cannot keep ${path}: ${WHY[code ?? ""] ?? message}`);
  }
}

/** Whether two paths lead to one file. */
function sameFile(a: string, b: string): boolean {
  const one = statSync(a, { throwIfNoEntry: false });
  const other = statSync(b, { throwIfNoEntry: false });
  return one !== undefined && other !== undefined && one.isFile() && one.dev === other.dev && one.ino === other.ino;
}
