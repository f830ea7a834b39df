/** Where something is wrong: in which file, on which line and column, counted from 1. */
export interface ErrorPlace {
  readonly path?: string;
  readonly line?: number;
  readonly column?: number;
}

/**
 * Something that cannot be taken: a snapshot, a dictionary, a policy. Scripts never cause one; what is wrong with them is
 * a finding.
 *
 * @example
 * try {
 *   catalogFromSnapshot(text);
 * } catch (error) {
 *   if (error instanceof CautelaError) console.error(error.message); // one line
 * }
 */
export class CautelaError extends Error {
  override readonly name = "CautelaError";
  readonly path?: string;
  readonly line?: number;
  readonly column?: number;

  constructor(message: string, { path, line, column }: ErrorPlace = {}) {
    super(message);
    this.path = path;
    this.line = line;
    this.column = column;
  }
}
