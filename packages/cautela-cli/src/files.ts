import { closeSync, openSync, readSync, realpathSync, type Stats, statSync } from "node:fs";
import { open } from "node:fs/promises";
import { resolve } from "node:path";
import { type DecodedText, decodeText } from "cautela/tools";
import { Failure } from "./failure.ts";

/** Whoever waits for input longer than this is told so, in milliseconds. */
const PATIENCE = 2000;

/** What comes from a pipe or a device is taken up to this size, in bytes. */
const MOST = 1 << 30;

/** The text of a script or DDL file; `-` is standard input. */
export async function readText(path: string): Promise<DecodedText> {
  const shown = path === "-" ? "standard input" : path;
  try {
    const bytes = await readBytes(path, shown);
    if (isBinary(bytes)) throw new Failure(`${shown} is no text: it holds NUL bytes`);
    return decodeText(bytes);
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure(`cannot read ${shown}: ${reason(error)}`);
  }
}

async function readBytes(path: string, shown: string): Promise<Uint8Array> {
  if (isPiped(path)) return gathered(incoming(path), shown);
  const stats = statSync(path);
  if (stats.isDirectory()) throw new Failure(`${path} is a directory, not a file`);
  if (stats.size > MOST)
    throw new Failure(`${path} is too large to be read at once; one script alone may be of any size`);
  const file = await open(path, "r");
  try {
    return await file.readFile();
  } finally {
    await file.close();
  }
}

/** Whether a path is standard input, a pipe or a device: what can be read only once, and has no size. */
export function isPiped(path: string): boolean {
  if (path === "-") return true;
  const stats = statsOf(path);
  return stats !== undefined && !stats.isFile() && !stats.isDirectory();
}

export function isFolder(path: string): boolean {
  return path !== "-" && (statsOf(path)?.isDirectory() ?? false);
}

/** What the file system says of a path; nothing where nothing is there. */
function statsOf(path: string): Stats | undefined {
  try {
    return statSync(path, { throwIfNoEntry: false });
  } catch (error) {
    throw new Failure(`cannot read ${path}: ${reason(error)}`);
  }
}

/** What a path leads to, so that the same file given in two ways is one. */
export function realPath(path: string): string {
  try {
    return realpathSync(path);
  } catch {
    return resolve(path);
  }
}

/** What comes from standard input, a pipe or a device, as it comes. Whoever waits long is told so. */
export async function* incoming(path: string): AsyncGenerator<Uint8Array> {
  const shown = path === "-" ? "standard input" : path;
  const waiting = setTimeout(
    () => console.error(`cautela: still waiting for something to read from ${shown}`),
    PATIENCE,
  );
  try {
    let first = true;
    for await (const chunk of path === "-" ? process.stdin : chunks(path)) {
      clearTimeout(waiting);
      // What is no text is not waited for to its end.
      if (first && isBinary(chunk)) throw new Failure(`${shown} is no text: it holds NUL bytes`);
      first = false;
      yield chunk;
    }
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure(`cannot read ${shown}: ${reason(error)}`);
  } finally {
    clearTimeout(waiting);
  }
}

async function* chunks(path: string): AsyncIterable<Uint8Array> {
  // Opening a pipe waits for its writer, on a thread of its own.
  const file = await open(path, "r");
  try {
    for (;;) {
      const { bytesRead, buffer } = await file.read(Buffer.alloc(1 << 16), 0, 1 << 16, null);
      if (bytesRead === 0) return;
      yield buffer.subarray(0, bytesRead);
    }
  } finally {
    await file.close();
  }
}

/** All that comes, up to a size. */
async function gathered(stream: AsyncIterable<Uint8Array>, shown: string): Promise<Uint8Array> {
  const list: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of stream) {
    size += chunk.length;
    if (size > MOST) throw new Failure(`${shown} gives more than ${MOST >> 20} MiB; a file may be of any size`);
    list.push(chunk);
  }
  return Buffer.concat(list);
}

/** Bytes at the beginning that tell a text from something else. */
const HEAD = 1 << 16;

/** Whether bytes are those of no text: NUL among them, and they are not UTF-16. */
export function isBinary(bytes: Uint8Array): boolean {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) return false;
  return bytes.subarray(0, HEAD).includes(0);
}

/** Whether a file of any size begins like something else than a text. */
export function beginsBinary(path: string): boolean {
  const head = Buffer.alloc(HEAD);
  const file = openSync(path, "r");
  try {
    return isBinary(head.subarray(0, readSync(file, head)));
  } finally {
    closeSync(file);
  }
}

/** The size of a regular file in bytes; 0 for anything else. */
export function fileSize(path: string): number {
  let stats: Stats | undefined;
  try {
    stats = statSync(path, { throwIfNoEntry: false });
  } catch {
    return 0;
  }
  return stats?.isFile() ? stats.size : 0;
}

const REASONS: Record<string, string> = {
  ENOENT: "there is no such file",
  EACCES: "permission denied",
  EISDIR: "it is a directory",
  EAGAIN: "there is no input",
  ELOOP: "its links lead round in a circle",
  ENOTDIR: "a part of the path is no folder",
  ENAMETOOLONG: "the name is too long",
  ENXIO: "nothing answers there",
};

function reason(error: unknown): string {
  const code = error instanceof Error && "code" in error ? String(error.code) : "";
  return REASONS[code] ?? (error instanceof Error ? error.message : String(error));
}
