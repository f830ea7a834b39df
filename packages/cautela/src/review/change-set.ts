import type { Catalog } from "../catalog/catalog.ts";
import { fewLayers } from "../catalog/layers.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Review } from "./result.ts";
import type { Earlier } from "./session.ts";
import { ReviewStream } from "./stream.ts";

/**
 * Reviews several scripts in order; each finds the database as the ones before it have left it, and what they have done is
 * remembered: copies, new columns, values that were written. Each runs in a session of its own.
 *
 * @example
 * const [, second] = reviewChangeSet([
 *   { path: "01.sql", text: "CREATE TABLE mooring_before AS SELECT * FROM mooring;" },
 *   { path: "02.sql", text: "DELETE FROM mooring WHERE status = 'left';" },
 * ], { catalog });
 * second.verdict // "clear": the first script keeps a copy
 */
export function reviewChangeSet(
  scripts: readonly { text: string; path?: string; dialect?: DialectId }[],
  options: { catalog?: Catalog; policy?: Policy } = {},
): Review[] {
  let earlier: Earlier | null = null;
  const streams = scripts.map(({ text, path, dialect }) => {
    const stream: ReviewStream = new ReviewStream({ ...options, path, dialect }, earlier);
    stream.push(text, true);
    const { left } = stream;
    earlier = { ...left, catalog: fewLayers(left.catalog, options.catalog ?? null) };
    return stream;
  });
  // What one script leaves off, a later one may put back.
  return streams.map((stream) => stream.result());
}
