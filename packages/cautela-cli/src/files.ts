import { readFileSync, statSync } from "node:fs";
import { type DecodedText, decodeText } from "cautela";
import { Failure } from "./failure.ts";

/** The text of a script or DDL file; `-` is standard input. */
export function readText(path: string): DecodedText {
  try {
    if (path !== "-" && statSync(path).isDirectory()) throw new Failure(`${path} is a directory, not a file`);
    return decodeText(readFileSync(path === "-" ? 0 : path));
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure(`cannot read ${path === "-" ? "standard input" : path}: ${reason(error)}`);
  }
}

/** The size of a file in bytes; 0 for what cannot be looked at. */
export function fileSize(path: string): number {
  return statSync(path, { throwIfNoEntry: false })?.size ?? 0;
}

const REASONS: Record<string, string> = {
  ENOENT: "there is no such file",
  EACCES: "permission denied",
  EISDIR: "it is a directory",
  EAGAIN: "there is no input",
};

function reason(error: unknown): string {
  const code = error instanceof Error && "code" in error ? String(error.code) : "";
  return REASONS[code] ?? (error instanceof Error ? error.message : String(error));
}
