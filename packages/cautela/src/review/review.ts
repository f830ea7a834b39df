import type { ReviewOptions } from "./options.ts";
import type { Review } from "./result.ts";
import { ReviewStream } from "./stream.ts";

/**
 * Reviews one script without running it.
 *
 * Never throws for what a script holds: a statement that cannot be read is a finding, and what
 * could not be judged is listed as unchecked.
 *
 * @example
 * review("DELETE FROM berth;", { dialect: "postgresql" }).verdict // "stop"
 */
export function review(text: string, options: ReviewOptions = {}): Review {
  const stream = new ReviewStream(options);
  stream.push(text, true);
  return stream.result();
}
