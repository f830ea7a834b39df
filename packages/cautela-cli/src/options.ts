import { type DialectId, dialectIds, isDialectId } from "cautela";
import { spanOf } from "cautela/tools";
import { InvalidArgumentError } from "commander";

/** Checks a dialect's id. */
export function dialectOption(text: string): DialectId {
  if (isDialectId(text)) return text;
  throw new InvalidArgumentError(`it is one of ${dialectIds.join(", ")}.`);
}

/** Gathers the values of an option that may be given more than once. */
export function repeated(text: string, before: string[] | undefined): string[] {
  return [...(before ?? []), text];
}

/** Checks the number of a statement, counted from 1. */
export function statementOption(text: string): number {
  const number = Number(text);
  if (Number.isInteger(number) && number >= 1) return number;
  throw new InvalidArgumentError("statements are counted from 1.");
}

/** Checks a time limit in seconds. */
export function secondsOption(text: string): number {
  const number = Number(text);
  if (Number.isFinite(number) && number > 0 && number <= 3600) return number;
  throw new InvalidArgumentError("it is a number of seconds, at most 3600.");
}

/** Checks a number of rows. */
export function rowsOption(text: string): number {
  const number = Number(text);
  if (Number.isInteger(number) && number >= 1) return number;
  throw new InvalidArgumentError("it is a number of rows, at least 1.");
}

/** Checks a day or a moment; `now` is the clock of this machine. */
export function momentOption(text: string): string {
  if (text === "now" || spanOf(text) !== null) return text;
  throw new InvalidArgumentError("it is a day or a moment: 2026-12-24, 2026-12-24T17:30, now.");
}
