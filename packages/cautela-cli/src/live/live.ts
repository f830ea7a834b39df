import type { Dictionary } from "cautela";

/** What a live reader brings home. */
export interface LiveDictionary extends Dictionary {
  /** What could not be read, a line each: missing rights, objects that cannot be shown. */
  problems: string[];
}

/** Told how far the reading of a large database has come. */
export type Progress = (done: number, all: number) => void;

/** Seconds that one query of the dictionary may take. */
export const TIME_LIMIT = 30;
