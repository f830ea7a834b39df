import type { HazardContext } from "./hazard.ts";

/**
 * Whether what a statement about structure meets can be told: it runs in any case, in the schema that the catalog speaks of,
 * and nothing before it may have made objects that nobody sees.
 */
export function isSettled({ history, timeline, conditional, inCode }: HazardContext): boolean {
  return (
    !conditional &&
    !inCode &&
    !history.mayHaveMade &&
    timeline.database === null &&
    history.setting("search_path") === null
  );
}
