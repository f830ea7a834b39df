import type { Catalog } from "../catalog/catalog.ts";
import { replay } from "../catalog/ddl/apply.ts";
import type { Policy } from "../policy/policy.ts";
import type { DialectId } from "../sql/dialects/dialect.ts";
import type { Review } from "./result.ts";
import { review } from "./review.ts";

/** Reviews several scripts in order; each finds the database as the ones before it have left it. */
export function reviewChangeSet(
  scripts: readonly { text: string; path?: string; dialect?: DialectId }[],
  options: { catalog?: Catalog; policy?: Policy } = {},
): Review[] {
  const carried = options.catalog?.fork();
  return scripts.map(({ text, path, dialect }) => {
    const result = review(text, { path, dialect, catalog: carried, policy: options.policy });
    if (carried) for (const { tree } of result.read) replay(carried, tree, (start, end) => text.slice(start, end));
    return result;
  });
}
